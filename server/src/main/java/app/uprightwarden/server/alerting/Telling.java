package app.uprightwarden.server.alerting;

import app.uprightwarden.server.floor.SessionAlerts;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.Texts;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells of alerts: a cause once, all new ones of a session together, at most once a minute for each
 * session, or every five seconds where it is the gravest. What nobody acknowledges goes on to
 * whoever is next on call.
 */
@Component
class Telling {
  static final String JOB = "alerts";
  static final String OURS = "upright-warden";

  private static final Duration PACE = Duration.ofMinutes(1);
  private static final Duration LOOK = Duration.ofSeconds(5);
  private static final int GRAVEST = 5;

  /** The step of a cause that was told and is over: it is told again when it comes back. */
  private static final int OVER = 0;

  private static final int MAX_NAMED = 20;
  private static final Duration KEPT = Duration.ofDays(30);

  private final AlertingRepository rows;
  private final SessionAlerts sessions;
  private final OutboxService outbox;
  private final Jobs jobs;
  private final TransactionTemplate transaction;
  private final DatabaseClock clock;
  private final JsonMapper json;

  Telling(
      AlertingRepository rows,
      SessionAlerts sessions,
      OutboxService outbox,
      Jobs jobs,
      TransactionTemplate transaction,
      DatabaseClock clock,
      JsonMapper json) {
    this.rows = rows;
    this.sessions = sessions;
    this.outbox = outbox;
    this.jobs = jobs;
    this.transaction = transaction;
    this.clock = clock;
    this.json = json;
  }

  List<String> onCall(AlertSettingEntity setting) {
    return json.readValue(setting.onCall, new TypeReference<List<String>>() {});
  }

  /** Forgets what was told of causes that are over, in the caller's transaction. */
  void forget(String session, Set<String> over) {
    Set<String> standing = sessions.standing(session);
    for (AlertToldEntity row : rows.told(session)) {
      if (row.step > OVER && (over.contains(row.cause) || !standing.contains(row.cause))) {
        row.step = OVER;
        row.nextAt = null;
        rows.update(row);
      }
    }
  }

  /** Tells of what is new in a session. */
  void tell(String session) {
    Duration wait = transaction.execute(status -> tellNew(session));
    if (wait != null && wait.compareTo(Duration.ZERO) > 0) {
      throw new JobKind.Later(wait);
    }
  }

  /** How long to wait first; zero for not at all. */
  private Duration tellNew(String session) {
    AlertSettingEntity setting = rows.locked();
    if (setting == null) {
      return Duration.ZERO;
    }
    List<AlertToldEntity> told = rows.told(session);
    Map<String, AlertToldEntity> before = new LinkedHashMap<>();
    told.forEach(row -> before.put(row.cause, row));
    Set<String> known =
        told.stream()
            .filter(row -> row.step > OVER)
            .map(row -> row.cause)
            .collect(Collectors.toSet());
    List<SessionAlerts.Cause> fresh =
        sessions.open(session).stream()
            .filter(each -> !known.contains(each.cause()))
            .filter(each -> each.severity() >= setting.leastSeverity)
            .toList();
    if (fresh.isEmpty()) {
      return Duration.ZERO;
    }
    Instant now = clock.instant();
    QuietHours quiet = QuietHours.of(setting);
    int worst = fresh.stream().mapToInt(SessionAlerts.Cause::severity).max().orElse(0);
    if (quiet != null && worst < GRAVEST && !quiet.left(now).isZero()) {
      return LOOK; // something graver may come meanwhile
    }
    Instant last =
        told.stream().map(row -> row.toldAt).max(Comparator.naturalOrder()).orElse(Instant.EPOCH);
    Duration since = Duration.between(last, now);
    Duration pace = worst < GRAVEST ? PACE : LOOK;
    if (since.compareTo(pace) < 0) {
      return LOOK;
    }
    List<String> onCall = onCall(setting);
    for (SessionAlerts.Cause each : fresh) {
      AlertToldEntity once = before.get(each.cause());
      AlertToldEntity row = once == null ? new AlertToldEntity() : once;
      row.session = session;
      row.cause = each.cause();
      row.toldAt = now;
      row.step = 1;
      row.nextAt = onCall.size() > 1 ? now.plus(minutes(setting)) : null;
      if (once == null) {
        rows.insert(row);
      } else {
        rows.update(row);
      }
    }
    if (!onCall.isEmpty()) {
      mail(onCall.get(0), session, fresh, "");
    }
    if (setting.webhook != null) {
      deliver(CloudEvent.ALERT, session, fresh.get(0).title(), data(session, fresh));
    }
    return Duration.ZERO;
  }

  private static Duration minutes(AlertSettingEntity setting) {
    return Duration.ofMinutes(setting.nextMinutes);
  }

  private void mail(String to, String session, List<SessionAlerts.Cause> causes, String before) {
    String title = causes.get(0).title();
    StringBuilder text = new StringBuilder(before);
    boolean isPractice = causes.get(0).practice();
    text.append(isPractice ? "In a practice session: " + title : "In session: " + title)
        .append("\n\n");
    causes.stream()
        .limit(MAX_NAMED)
        .forEach(
            each ->
                text.append("- ")
                    .append(each.words())
                    .append(
                        each.alerts() > 1 ? " And " + (each.alerts() - 1) + " more of this." : "")
                    .append('\n'));
    if (causes.size() > MAX_NAMED) {
      text.append("- and ").append(causes.size() - MAX_NAMED).append(" others\n");
    }
    text.append("\nOpen the Floor and choose the session: acknowledge what you look after.\n");
    outbox.write(
        List.of(
            new OutboxService.Letter(
                to,
                (isPractice ? "Practice: " : "Alert: ") + Texts.oneLine(title, 200),
                "session:" + session,
                text.toString())),
        OURS);
  }

  private static Map<String, Object> data(String session, List<SessionAlerts.Cause> causes) {
    List<Map<String, Object>> alerts = new ArrayList<>();
    causes.stream()
        .limit(MAX_NAMED)
        .forEach(
            each ->
                alerts.add(
                    InOrder.map(
                        "kind", each.kind(),
                        "cause", each.cause(),
                        "severity", each.severity(),
                        "words", each.words(),
                        "alerts", each.alerts(),
                        "raised", each.raised().toString())));
    return InOrder.map(
        "session", session,
        "meeting", causes.get(0).meeting(),
        "title", causes.get(0).title(),
        "practice", causes.get(0).practice(),
        "alerts", alerts,
        "others", Math.max(0, causes.size() - MAX_NAMED));
  }

  private void deliver(String type, String subject, String title, Map<String, Object> data) {
    AlertDeliveryEntity row = new AlertDeliveryEntity();
    row.event = UUID.randomUUID().toString();
    row.subject = Texts.cut(title, 300);
    row.madeAt = clock.instant();
    row.body = json.writeValueAsString(CloudEvent.of(row.event, type, subject, row.madeAt, data));
    rows.insert(row);
    jobs.give(Webhook.JOB, row.id);
  }

  /** Goes on to whoever is next, where nobody has acknowledged what was told. */
  void escalate() {
    transaction.executeWithoutResult(
        status -> {
          AlertSettingEntity setting = rows.locked();
          if (setting == null) {
            return;
          }
          Instant now = clock.instant();
          Map<String, List<AlertToldEntity>> due = new LinkedHashMap<>();
          rows.due(now)
              .forEach(row -> due.computeIfAbsent(row.session, s -> new ArrayList<>()).add(row));
          due.forEach((session, some) -> escalate(session, some, setting, now));
          rows.deleteTold(now.minus(KEPT));
          rows.deleteDeliveries(now.minus(KEPT));
        });
  }

  private void escalate(
      String session, List<AlertToldEntity> some, AlertSettingEntity setting, Instant now) {
    List<String> onCall = onCall(setting);
    Map<String, SessionAlerts.Cause> open = new LinkedHashMap<>();
    sessions.open(session).forEach(each -> open.put(each.cause(), each));
    Map<Integer, List<SessionAlerts.Cause>> bySteps = new LinkedHashMap<>();
    for (AlertToldEntity row : some) {
      SessionAlerts.Cause cause = open.get(row.cause);
      boolean goesOn = cause != null && row.step < onCall.size();
      if (cause != null && goesOn) {
        bySteps.computeIfAbsent(row.step, step -> new ArrayList<>()).add(cause);
        row.step++;
      }
      row.nextAt = goesOn && row.step < onCall.size() ? now.plus(minutes(setting)) : null;
      rows.update(row);
    }
    bySteps.forEach(
        (step, causes) ->
            mail(
                onCall.get(step),
                session,
                causes,
                onCall.get(step - 1)
                    + " was told and has not acknowledged it within "
                    + setting.nextMinutes
                    + (setting.nextMinutes == 1 ? " minute" : " minutes")
                    + ".\n\n"));
  }

  /** A message that says it is a test, by every way there is. @return the ways it goes */
  List<String> test(AlertSettingEntity setting, String by) {
    List<String> ways = new ArrayList<>();
    List<String> onCall = onCall(setting);
    if (!onCall.isEmpty()) {
      outbox.write(
          List.of(
              new OutboxService.Letter(
                  onCall.get(0),
                  "Test of alerts",
                  "alerting",
                  "This is a test. Alerts of sessions would reach you like this.\n")),
          by);
      ways.add("mail to " + onCall.get(0));
    }
    if (setting.webhook != null) {
      deliver(CloudEvent.TEST, "test", "Test of alerts", InOrder.map("test", true, "by", by));
      ways.add("the webhook");
    }
    return ways;
  }
}
