package app.uprightwarden.server.floor;

import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What is wrong in sessions, for whoever tells somebody of it. */
@Service
public class SessionAlerts {
  private final FloorAlerts alerts;
  private final FloorStore store;

  SessionAlerts(FloorAlerts alerts, FloorStore store) {
    this.alerts = alerts;
    this.store = store;
  }

  /** Said in the transaction that raises alerts. */
  public record AlertsRaised(Collection<String> sessions) {}

  /**
   * Said in the transaction in which some of a session's alerts end by themselves.
   *
   * @param over causes that are over, even if the same is raised again already
   */
  public record AlertsEnded(String session, Set<String> over) {}

  /**
   * Alerts of one cause that nobody has acknowledged; the gravest stands for them.
   *
   * @param alerts how many
   * @param practice whether the session is practice
   */
  public record Cause(
      String cause,
      String kind,
      int severity,
      String words,
      int alerts,
      Instant raised,
      String meeting,
      String title,
      boolean practice) {}

  /** The causes of all that is neither closed nor ended. */
  @Transactional(readOnly = true)
  public Set<String> standing(String id) {
    return alerts.of(id).stream()
        .filter(each -> !each.state().equals("closed") && !each.state().equals("ended"))
        .map(FloorAlerts.FloorAlert::cause)
        .collect(Collectors.toSet());
  }

  /** What stands open in a session, the gravest first. */
  @Transactional(readOnly = true)
  public List<Cause> open(String id) {
    FloorSession session = store.find(id).orElse(null);
    if (session == null || session.isOver()) {
      return List.of();
    }
    Map<String, Cause> causes = new LinkedHashMap<>();
    for (FloorAlerts.FloorAlert each : alerts.of(id)) {
      if (each.state().equals("open")) {
        causes.merge(
            each.cause(),
            new Cause(
                each.cause(),
                each.kind(),
                each.severity(),
                each.words(),
                1,
                each.happened(),
                session.meeting(),
                session.title(),
                session.practice()),
            (one, other) ->
                new Cause(
                    one.cause(),
                    one.kind(),
                    one.severity(),
                    one.words(),
                    one.alerts() + 1,
                    one.raised(),
                    one.meeting(),
                    one.title(),
                    one.practice()));
      }
    }
    return List.copyOf(causes.values());
  }
}
