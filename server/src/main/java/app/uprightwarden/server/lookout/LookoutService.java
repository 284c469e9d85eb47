package app.uprightwarden.server.lookout;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.Comparison;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.audit.Trends;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.persistence.AnswerCache;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.remedies.HostRequests;
import app.uprightwarden.server.remedies.RequestRows;
import app.uprightwarden.server.waivers.WaiverRequests;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.function.Supplier;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Gathers what needs eyes now: an administrator's, or one host's. */
@Service
class LookoutService {
  private static final int DAYS = 14;
  private static final int MAX_SERIES = 400;
  private static final int MAX_MARKS = 900;
  private static final int MAX_STORMS = 7;
  private static final int MAX_GRAVE = 100;
  private static final int MAX_LINES = 8;
  private static final int GRAVE = 5;
  private static final Duration LAPSE_SOON = Duration.ofDays(7);

  /** What is signalled of these can be seen on the page. */
  private static final Set<String> SHOWN =
      Stream.of(
              Signals.Topic.STANDING,
              Signals.Topic.RUNS,
              Signals.Topic.WAIVERS,
              Signals.Topic.REQUESTS,
              Signals.Topic.REMEDIES)
          .map(Signals.Topic::id)
          .collect(Collectors.toUnmodifiableSet());

  private final ContinuousAudit standing;
  private final FindingQueries reading;
  private final AuditCounts counts;
  private final Trends trends;
  private final Comparison comparison;
  private final RegisterService register;
  private final WaiverService waivers;
  private final WaiverRequests waiverRequests;
  private final HostRequests requests;
  private final Clock clock;
  private final UnitScope units;
  private final Signals signals;
  private final AnswerCache<Asked, Gathered> recent = new AnswerCache<>();

  LookoutService(
      ContinuousAudit standing,
      FindingQueries reading,
      AuditCounts counts,
      Trends trends,
      Comparison comparison,
      RegisterService register,
      WaiverService waivers,
      WaiverRequests waiverRequests,
      HostRequests requests,
      UnitScope units,
      Signals signals,
      Clock clock) {
    this.standing = standing;
    this.reading = reading;
    this.counts = counts;
    this.trends = trends;
    this.comparison = comparison;
    this.register = register;
    this.waivers = waivers;
    this.waiverRequests = waiverRequests;
    this.requests = requests;
    this.units = units;
    this.signals = signals;
    this.clock = clock;
  }

  /** An occurrence on the strip; exposure 0 to 100. */
  record Mark(
      String meeting,
      String title,
      String host,
      Instant start,
      int minutes,
      double exposure,
      int worst) {}

  /**
   * The next fourteen days.
   *
   * @param marks by start
   * @param series how many series are held in them
   * @param shown of how many of them, the most exposed, the marks are
   */
  record Tide(Instant from, Instant to, List<Mark> marks, int series, int shown) {}

  /**
   * A meeting with grave findings, by name.
   *
   * @param text of the first of them
   * @param more how many more it has
   */
  record Storm(
      String meeting,
      String title,
      @Nullable Instant next,
      String check,
      String family,
      int severity,
      @Worded String text,
      int more) {}

  /** How many findings were open in an audit, by severity. */
  record SeverityPoint(long audit, Instant at, Map<Integer, Integer> bySeverity) {}

  /**
   * Everything on an administrator's first page.
   *
   * @param now the standing audit; null before there is any edition
   * @param renewing how far it has come where it is going through everything, else null
   * @param grave how many findings of the gravest severity there are
   * @param again whether something has happened since this was gathered: who was told of it asks
   *     once more in a moment, or would show the older answer for good
   */
  record Lookout(
      @Nullable AuditRun now,
      @Nullable Renewing renewing,
      @Nullable AuditRun lastRun,
      Map<Integer, Integer> bySeverity,
      int waived,
      List<SeverityPoint> moved,
      Tide tide,
      List<Storm> storms,
      int grave,
      List<WaiverService.GrantedWaiver> lapsing,
      int waitingForSecond,
      List<WaiverRequests.WaiverRequest> waiversAsked,
      List<RequestRows.HostRequest> requests,
      List<Comparison.Drift> drifted,
      boolean again) {
    /** The same for somebody who so many waivers wait for. */
    Lookout waitingFor(int waivers, boolean isOld) {
      return new Lookout(
          now,
          renewing,
          lastRun,
          bySeverity,
          waived,
          moved,
          tide,
          storms,
          grave,
          lapsing,
          waivers,
          waiversAsked,
          requests,
          drifted,
          isOld);
    }
  }

  /** For whom it is gathered: for a unit, or all of them, and in a language. */
  private record Asked(String unit, Locale language) {}

  /** What was gathered, and whether anything was signalled since it was begun. */
  private static final class Gathered {
    private final Lookout lookout;
    private final Signals.Reader since;
    private boolean isOld;

    Gathered(Signals.Reader since, Supplier<Lookout> gathering) {
      since.next();
      this.since = since;
      this.lookout = gathering.get();
    }

    synchronized boolean isOld() {
      isOld = isOld || since.next().stream().anyMatch(SHOWN::contains);
      return isOld;
    }
  }

  /** A host with more than these has them mended in order. */
  private static final int MAX_OF_MINE = 500;

  record Renewing(int scanned, int meetings) {}

  /**
   * What is for somebody who looks after the organisation, or after a unit. Pages ask together
   * whenever something changes; over a large register it takes a second.
   */
  Lookout all(SignedIn who) {
    Set<String> of = units.units(who);
    Gathered gathered =
        recent.get(
            // findings are worded as they are read
            new Asked(
                of == null ? "" : Objects.requireNonNullElse(who.unit(), ""), Languages.current()),
            () -> new Gathered(signals.reader(), () -> gathered(who, of)));
    return gathered.lookout.waitingFor(waivers.waitingFor(who), gathered.isOld());
  }

  /**
   * Gathers it.
   *
   * @param of the units that are looked after; null for all
   */
  private Lookout gathered(SignedIn who, @Nullable Set<String> of) {
    AuditRun now = standing.now().orElse(null);
    Instant time = clock.instant();
    if (now == null) {
      return new Lookout(
          null,
          null,
          null,
          Map.of(),
          0,
          List.of(),
          new Tide(time, time.plus(Duration.ofDays(DAYS)), List.of(), 0, 0),
          List.of(),
          0,
          List.of(),
          0,
          List.of(),
          List.of(),
          List.of(),
          false);
    }
    AuditCounts.Tally tally = counts.tally(now.id(), of);
    List<AuditRun> runs =
        of == null
            ? reading.newest(1)
            : reading.newest(
                1, run -> run.scope().unit() != null && of.contains(run.scope().unit()));
    return new Lookout(
        now,
        now.scanned() < now.meetings() ? new Renewing(now.scanned(), now.meetings()) : null,
        runs.isEmpty() ? null : runs.get(0),
        tally.open(),
        tally.waived(),
        trends.trend(of, MAX_LINES).points().stream()
            .map(p -> new SeverityPoint(p.audit(), p.at(), p.bySeverity()))
            .toList(),
        tide(now, of),
        storms(now, of),
        tally.open().getOrDefault(GRAVE, 0),
        waivers.endingBefore(time.plus(LAPSE_SOON), who),
        0,
        waiverRequests.openFor(who).stream().limit(MAX_LINES).toList(),
        requests.openFor(who, MAX_LINES),
        comparison.drifted(now, of, MAX_LINES),
        false);
  }

  /** What is for a host: their own meetings, what is found in them, and what is asked of them. */
  record HostLookout(
      Tide tide,
      List<FindingQueries.Listed> findings,
      Map<String, String> titles,
      List<RequestRows.HostRequest> requests,
      List<WaiverRequests.WaiverRequest> waiversAsked) {}

  HostLookout mine(SignedIn who) {
    Set<String> hosted = register.hostedBy(Directory.fold(who.email()));
    AuditRun now = standing.now().orElse(null);
    Instant time = clock.instant();
    Tide tide =
        now == null
            ? new Tide(time, time.plus(Duration.ofDays(DAYS)), List.of(), 0, 0)
            : tideAmong(now, hosted);
    List<FindingQueries.Listed> findings =
        now == null ? List.of() : reading.openOf(now.id(), hosted, MAX_OF_MINE);
    return new HostLookout(
        tide,
        findings,
        now == null
            ? Map.of()
            : reading.titles(
                now.id(),
                findings.stream().map(FindingQueries.Listed::meeting).distinct().toList()),
        requests.openOf(Directory.fold(who.email())),
        waiverRequests.by(who.email(), MAX_LINES));
  }

  private List<Storm> storms(AuditRun now, @Nullable Set<String> of) {
    List<Storm> storms = new ArrayList<>();
    reading
        .worst(now.id(), GRAVE, of, MAX_STORMS)
        .forEach(
            (meeting, title) -> {
              List<FindingQueries.Listed> grave =
                  reading
                      .findings(
                          now.id(),
                          new FindingQueries.FindingFilter(meeting, null, null, GRAVE, null, false),
                          0,
                          MAX_GRAVE)
                      .items();
              if (!grave.isEmpty()) {
                FindingQueries.Listed first = grave.get(0);
                storms.add(
                    new Storm(
                        meeting,
                        title,
                        first.next(),
                        first.finding().check(),
                        first.finding().family(),
                        first.finding().severity(),
                        first.finding().text(),
                        grave.size() - 1));
              }
            });
    return List.copyOf(storms);
  }

  private Instant tideBegin() {
    return LocalDate.ofInstant(clock.instant(), ZoneOffset.UTC)
        .atStartOfDay()
        .toInstant(ZoneOffset.UTC);
  }

  private Tide tide(AuditRun now, @Nullable Set<String> of) {
    Instant to = tideBegin().plus(Duration.ofDays(DAYS));
    return tide(reading.soon(now.id(), to, of, MAX_SERIES), reading.countSoon(now.id(), to, of));
  }

  private Tide tideAmong(AuditRun now, Set<String> hosted) {
    Instant to = tideBegin().plus(Duration.ofDays(DAYS));
    List<FindingQueries.Audited> soon = reading.soonAmong(now.id(), to, hosted, MAX_SERIES);
    return tide(soon, soon.size());
  }

  private Tide tide(List<FindingQueries.Audited> soon, int series) {
    Instant from = tideBegin();
    Instant to = from.plus(Duration.ofDays(DAYS));
    Map<String, StoredMeeting> stored =
        register.among(soon.stream().map(FindingQueries.Audited::meeting).toList());
    List<Mark> marks = new ArrayList<>();
    int shown = 0;
    for (FindingQueries.Audited audited : soon) {
      StoredMeeting of = stored.get(audited.meeting());
      if (of == null || marks.size() > MAX_MARKS) {
        continue;
      }
      shown++;
      for (Occurrence occurrence : between(of.meeting(), from, to)) {
        marks.add(
            new Mark(
                audited.meeting(),
                audited.title(),
                audited.host(),
                occurrence.start(),
                (int) Duration.between(occurrence.start(), occurrence.end()).toMinutes(),
                audited.exposure(),
                audited.worst()));
      }
    }
    marks.sort(Comparator.comparing(Mark::start));
    return new Tide(from, to, List.copyOf(marks), series, shown);
  }

  /** One rule that cannot be expanded must not take the page away. */
  private static List<Occurrence> between(Meeting meeting, Instant from, Instant to) {
    try {
      return Occurrences.between(meeting, from, to);
    } catch (IllegalArgumentException e) {
      return List.of();
    }
  }
}
