package app.uprightwarden.server.reports;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.AuditScope;
import app.uprightwarden.server.audit.Comparison;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Wording;
import app.uprightwarden.server.remedies.HostRequests;
import app.uprightwarden.server.remedies.RequestRows;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.function.Predicate;
import org.springframework.stereotype.Component;

/** An audit in sentences, for people who read one page of it. */
@Component
class AuditSummary {
  private static final int GRAVE = 5;
  private static final int MAX_WORST = 3;

  /** Of so many of the worst findings three meetings are sought. */
  private static final int MAX_LOOKED_AT = 100;

  private static final int MAX_WAIVERS = 100_000;
  private static final Duration SOON = Duration.ofDays(30);

  private final FindingQueries reading;
  private final AuditCounts counts;
  private final Comparison comparison;
  private final HostRequests requests;
  private final WaiverService waivers;
  private final OrganisationService organisation;
  private final Clock clock;

  AuditSummary(
      FindingQueries reading,
      AuditCounts counts,
      Comparison comparison,
      HostRequests requests,
      WaiverService waivers,
      OrganisationService organisation,
      Clock clock) {
    this.reading = reading;
    this.counts = counts;
    this.comparison = comparison;
    this.requests = requests;
    this.waivers = waivers;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** The texts of a report, in the language of whoever it is made for. */
  static Wording words() {
    return Wording.of("report", Languages.current());
  }

  /** How dates are written: {@code date}, {@code day}, {@code when} or {@code time}. */
  static DateTimeFormatter dates(String pattern) {
    return DateTimeFormatter.ofPattern(words().text(pattern + "-pattern"), Languages.current())
        .withZone(ZoneOffset.UTC);
  }

  private static DateTimeFormatter date() {
    return dates("date");
  }

  private static DateTimeFormatter when() {
    return dates("when");
  }

  private static int sum(Map<Integer, Integer> bySeverity) {
    return bySeverity.values().stream().mapToInt(Integer::intValue).sum();
  }

  /**
   * What stands open.
   *
   * @param unitNames names by unit
   */
  String open(AuditRun run, AuditCounts.Tally tally, Map<String, String> unitNames) {
    List<String> of = new ArrayList<>();
    tally
        .open()
        .forEach(
            (severity, n) -> {
              if (n > 0) {
                of.add(words().say("severity" + severity, "n", n));
              }
            });
    List<String> said = new ArrayList<>();
    said.add(
        words()
            .say(
                "open",
                "findings",
                sum(tally.open()),
                "meetings",
                run.judged(),
                "of",
                of.isEmpty() ? "none" : words().row(of)));
    if (tally.waived() > 0) {
      said.add(words().say("waived", "n", tally.waived()));
    }
    counts.byUnit(run.id()).stream()
        .filter(unit -> sum(unit.bySeverity()) > 0)
        .max((a, b) -> Integer.compare(sum(a.bySeverity()), sum(b.bySeverity())))
        .ifPresent(
            unit ->
                said.add(
                    words()
                        .say(
                            "unit",
                            "unit",
                            unitNames.getOrDefault(unit.unit(), words().say("no-unit")),
                            "n",
                            sum(unit.bySeverity()))));
    return String.join(" ", said);
  }

  /** What changed since the last audit of the same meetings. */
  String changed(AuditRun run, AuditCounts.Tally tally) {
    Optional<AuditRun> before = before(run);
    if (before.isEmpty()) {
      return words().say("first");
    }
    Comparison.Compared compared = comparison.compare(before.get().id(), run.id());
    int come = compared.come().values().stream().mapToInt(Integer::intValue).sum();
    int gone = compared.gone().values().stream().mapToInt(Integer::intValue).sum();
    List<String> why = new ArrayList<>();
    compared.gone().forEach((reason, n) -> why.add(words().say("gone-" + reason, "n", n)));
    return String.join(
        " ",
        words()
            .say(
                "since",
                "date",
                on(before.get().startedAt(), run),
                "come",
                come,
                "gone",
                gone,
                "why",
                why.isEmpty() ? "none" : words().row(why)),
        compared.still() > 1 && compared.still() == sum(tally.open())
            ? words().say("all-still")
            : words().say("still", "n", compared.still()),
        words()
            .say(
                "grave",
                "then",
                counts.tally(before.get().id(), null).open().getOrDefault(GRAVE, 0),
                "now",
                tally.open().getOrDefault(GRAVE, 0)));
  }

  /** A date, and on the day of the audit itself the time, too. */
  private static String on(Instant time, AuditRun run) {
    Instant end = run.finishedAt() == null ? run.startedAt() : run.finishedAt();
    return date().format(time).equals(date().format(end))
        ? when().format(time)
        : date().format(time);
  }

  private Optional<AuditRun> before(AuditRun run) {
    boolean isStanding = run.state().equals("standing");
    return reading
        .newest(
            1,
            other ->
                other.state().equals("done")
                    && other.judged() > 0
                    && other.scope().equals(run.scope())
                    && (isStanding || other.startedAt().isBefore(run.startedAt())))
        .stream()
        .findFirst();
  }

  /** What is asked of whom about its meetings, on the day on which this is written. */
  String asked(AuditRun run) {
    Instant now = clock.instant();
    boolean isAll = run.scope().equals(AuditScope.ALL);
    List<RequestRows.HostRequest> all = requests.openOf(null);
    Set<String> of =
        isAll
            ? Set.of()
            : reading
                .audited(
                    run.id(),
                    all.stream()
                        .flatMap(each -> each.items().stream())
                        .map(RequestRows.AskedItem::meeting)
                        .distinct()
                        .toList())
                .keySet();
    Predicate<RequestRows.AskedItem> isAsked =
        item -> item.state().equals("open") && (isAll || of.contains(item.meeting()));
    List<RequestRows.HostRequest> open =
        all.stream().filter(each -> each.items().stream().anyMatch(isAsked)).toList();
    long hosts = open.stream().map(RequestRows.HostRequest::host).distinct().count();
    long items = open.stream().flatMap(each -> each.items().stream()).filter(isAsked).count();
    long late =
        open.stream()
            .filter(each -> each.applyAfter().isBefore(now))
            .map(RequestRows.HostRequest::host)
            .distinct()
            .count();
    List<String> said = new ArrayList<>();
    said.add(words().say("asked", "hosts", hosts, "items", items));
    if (late > 0) {
      said.add(words().say("late", "n", late));
    }
    if (!isAll) {
      return String.join(" ", said); // waivers of units and kinds are the whole house's
    }
    int second = waivers.list(null, "waiting", MAX_WAIVERS).size();
    if (second > 0) {
      said.add(words().say("second", "n", second));
    }
    long lapsing =
        waivers.list(null, "in-force", MAX_WAIVERS).stream()
            .filter(waiver -> waiver.until().isBefore(now.plus(SOON)))
            .count();
    if (lapsing > 0) {
      said.add(words().say("lapsing", "n", lapsing));
    }
    return String.join(" ", said);
  }

  /** The three meetings to mend first, and what could happen in them. */
  List<Map<String, Object>> worst(AuditRun run, Map<String, String> unitNames) {
    Map<String, FindingQueries.Listed> firsts = new LinkedHashMap<>();
    reading
        .findings(run.id(), FindingQueries.FindingFilter.OPEN, 0, MAX_LOOKED_AT)
        .items()
        .forEach(each -> firsts.putIfAbsent(each.meeting(), each));
    Map<String, FindingQueries.Audited> meetings =
        reading.audited(run.id(), firsts.keySet().stream().limit(MAX_WORST).toList());
    List<Map<String, Object>> worst = new ArrayList<>();
    firsts.forEach(
        (id, first) -> {
          FindingQueries.Audited meeting = meetings.get(id);
          if (meeting == null) {
            return;
          }
          Person host = organisation.directory().find(meeting.host());
          worst.add(
              InOrder.map(
                  "title",
                  meeting.title(),
                  "next",
                  first.next() == null ? "" : when().format(first.next()),
                  "host",
                  host == null ? meeting.host() : host.name(),
                  "unit",
                  meeting.unit() == null ? "" : unitNames.getOrDefault(meeting.unit(), ""),
                  "text",
                  first.finding().text(),
                  "more",
                  meeting.findings() > 1 ? words().say("more", "n", meeting.findings() - 1) : ""));
        });
    return worst;
  }
}
