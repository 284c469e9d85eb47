package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Alert;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Alerts: raised once, and handled by people. */
@Service
class FloorAlerts {
  private final FloorAlertRepository alerts;
  private final Ledger ledger;
  private final Signals signals;
  private final JsonMapper json;
  private final Clock clock;
  private final ApplicationEventPublisher events;

  FloorAlerts(
      FloorAlertRepository alerts,
      Ledger ledger,
      Signals signals,
      JsonMapper json,
      Clock clock,
      ApplicationEventPublisher events) {
    this.alerts = alerts;
    this.ledger = ledger;
    this.signals = signals;
    this.json = json;
    this.clock = clock;
    this.events = events;
  }

  /**
   * An alert of a session, and when what it is about happened.
   *
   * @param byWhom the address of whoever did it, where that is known
   */
  record Raised(String session, Alert alert, Instant happened, @Nullable String byWhom) {}

  /** An alert that stands open, as a line on every page. */
  record OpenAlert(
      long id,
      String session,
      String title,
      int severity,
      @Worded String words,
      String cause,
      Instant raised) {}

  /**
   * An alert as pages see it.
   *
   * @param end the act that ends it
   * @param cause alerts of one cause belong together, and one act ends them
   * @param millis from what happened to the alert
   */
  record FloorAlert(
      long id,
      String session,
      String kind,
      @Worded String title,
      long seq,
      @Nullable String who,
      @Nullable String guarantee,
      int severity,
      @Worded String words,
      EndingAct end,
      String cause,
      @Nullable String byWhom,
      Instant happened,
      long millis,
      String state,
      @Nullable String handledBy,
      @Nullable String handedTo,
      @Nullable String note) {}

  /** An act that ends an alert. */
  record EndingAct(
      String act, List<String> people, @Nullable String control, @Nullable String value) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void raise(List<Raised> raised) {
    Instant now = clock.instant();
    for (Raised each : raised) {
      Alert alert = each.alert();
      alerts.raise(
          each.session(),
          alert.key(),
          alert.kind().id(),
          alert.seq(),
          alert.who(),
          alert.guarantee(),
          alert.severity(),
          alert.words(),
          json.writeValueAsString(Wire.OrderSent.of("", "", alert.end())),
          alert.cause(),
          each.byWhom(),
          each.happened(),
          now);
    }
    if (!raised.isEmpty()) {
      events.publishEvent(
          new SessionAlerts.AlertsRaised(
              raised.stream().map(Raised::session).collect(Collectors.toSet())));
    }
  }

  private FloorAlert alert(FloorAlertEntity row) {
    Wire.OrderSent end = json.readValue(row.act, Wire.OrderSent.class);
    return new FloorAlert(
        row.id,
        row.session,
        row.kind,
        kind(row.kind).title(),
        row.seq,
        row.who,
        row.guarantee,
        row.severity,
        row.words,
        new EndingAct(end.act(), end.people(), end.control(), end.value()),
        row.cause,
        row.byWhom,
        row.happened,
        row.raised.toEpochMilli() - row.happened.toEpochMilli(),
        row.state,
        row.handledBy,
        row.handedTo,
        row.note);
  }

  /**
   * Ends what stands no more: whoever it was about is out, a share is stopped.
   *
   * @param went the causes of people who went out meanwhile, even if they are back
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void endGone(String session, Predicate<FloorAlert> stands, Set<String> went) {
    List<FloorAlert> gone =
        alerts.unsettled(session).stream()
            .map(this::alert)
            .filter(alert -> !stands.test(alert))
            .toList();
    if (!gone.isEmpty()) {
      alerts.end(gone.stream().map(FloorAlert::id).toList(), clock.instant());
      Set<String> over =
          gone.stream().map(FloorAlert::cause).filter(went::contains).collect(Collectors.toSet());
      events.publishEvent(new SessionAlerts.AlertsEnded(session, over));
    }
  }

  /** The alerts of one cause that are neither closed nor ended. */
  @Transactional(readOnly = true)
  public List<FloorAlert> ofCause(String session, String cause) {
    return alerts.ofCause(session, cause).stream().map(this::alert).toList();
  }

  /** What stands open in any session, practice of others left out; the worst first. */
  @Transactional(readOnly = true)
  public List<OpenAlert> open(String whose, int most) {
    return alerts.open(whose, most);
  }

  static Alert.Kind kind(String id) {
    return Arrays.stream(Alert.Kind.values())
        .filter(kind -> kind.id().equals(id))
        .findFirst()
        .orElse(Alert.Kind.GUARANTEE_BROKEN);
  }

  /** The alerts of a session: what is neither closed nor ended first, the worst of it first. */
  @Transactional(readOnly = true)
  public List<FloorAlert> of(String session) {
    return alerts.of(session).stream().map(this::alert).toList();
  }

  @Transactional(readOnly = true)
  public FloorAlert get(long id) {
    return alerts
        .find(id)
        .map(this::alert)
        .orElseThrow(() -> ProblemException.notFound("There is no alert " + id + "."));
  }

  /** How many are neither closed nor ended, and the worst of those, by session. */
  record Pending(int count, int worst) {}

  @Transactional(readOnly = true)
  public Map<String, Pending> pending() {
    Map<String, Pending> pending = new HashMap<>();
    alerts
        .pending()
        .forEach(
            row ->
                pending.put(row.session(), new Pending(Math.toIntExact(row.count()), row.worst())));
    return pending;
  }

  /**
   * Takes an alert a step on.
   *
   * @param state {@code acknowledged}, {@code handed-on} or {@code closed}
   * @param to whom it is handed on to, or null
   * @throws ProblemException 409 where it is closed already
   */
  @Transactional
  public FloorAlert handle(
      long id, String state, @Nullable String to, @Nullable String note, SignedIn by) {
    FloorAlert was = get(id);
    if (was.state().equals("closed")) {
      throw ProblemException.conflict(
          "closed", "This alert was closed by " + was.handledBy() + " already.");
    }
    if (was.state().equals("ended")) {
      throw ProblemException.conflict("ended", "What this alert was about has ended by itself.");
    }
    alerts.handle(id, state, by.email(), to, note, clock.instant());
    FloorAlert is = get(id);
    ledger.changed(
        "alert",
        String.valueOf(id),
        Texts.cut(was.words(), 300),
        () -> handling(was),
        () -> handling(is),
        by.email());
    signals.send(Signals.Topic.FLOOR);
    return is;
  }

  private static Map<String, Object> handling(FloorAlert alert) {
    return InOrder.map(
        "state",
        alert.state(),
        "handedTo",
        Objects.requireNonNullElse(alert.handedTo(), ""),
        "note",
        Objects.requireNonNullElse(alert.note(), ""));
  }
}
