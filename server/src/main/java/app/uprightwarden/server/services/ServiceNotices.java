package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.server.problem.Worded;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What is wrong with a conference service itself, beside the findings of its meetings. */
@Component
class ServiceNotices {
  private static final int NAMED = 4;

  private final Services services;
  private final ServiceDefaults defaults;

  ServiceNotices(Services services, ServiceDefaults defaults) {
    this.services = services;
    this.defaults = defaults;
  }

  /**
   * Something that is wrong with a service.
   *
   * @param check {@code default-differs}, {@code service-away} or {@code key-refused}
   * @param severity 1 to 5, as of findings
   * @param since since when, where that is known
   */
  record ServiceNotice(
      long service,
      String name,
      String check,
      int severity,
      @Worded String text,
      @Nullable Instant since) {}

  /** All there is, service by service. */
  @Transactional(readOnly = true)
  public List<ServiceNotice> all() {
    List<ServiceNotice> notices = new ArrayList<>();
    for (Services.LinkedService each : services.all()) {
      if (each.state().equals("key-refused")) {
        notices.add(
            notice(
                each,
                "key-refused",
                3,
                each.name() + " refuses our key: nothing is read or written.",
                each.since()));
      } else if (each.state().equals("away")) {
        notices.add(
            notice(
                each,
                "service-away",
                2,
                each.name() + " is away: what happens there is not seen.",
                each.since()));
      }
      addDefaults(each, notices);
    }
    return notices;
  }

  private void addDefaults(Services.LinkedService each, List<ServiceNotice> notices) {
    ServiceDefaults.DefaultsView view = defaults.view(each.id());
    List<String> looser =
        view.lines().stream()
            .filter(ServiceDefaults.DefaultLine::looser)
            .map(line -> Objects.requireNonNull(Control.byId(line.control())).title())
            .toList();
    if (looser.isEmpty() || view.readAt() == null || view.state().equals("waiting")) {
      return;
    }
    String named = looser.stream().limit(NAMED).collect(Collectors.joining(", "));
    String rest = looser.size() > NAMED ? " and " + (looser.size() - NAMED) + " more" : "";
    String by = view.changedBy() == null ? "" : " " + view.changedBy() + " changed them last.";
    notices.add(
        notice(
            each,
            "default-differs",
            3,
            each.name()
                + "’s own defaults or locks are looser than edition "
                + view.edition()
                + " says: "
                + named
                + rest
                + "."
                + by,
            view.changedAt()));
  }

  private static ServiceNotice notice(
      Services.LinkedService of, String check, int severity, String text, @Nullable Instant since) {
    return new ServiceNotice(of.id(), of.name(), check, severity, text, since);
  }
}
