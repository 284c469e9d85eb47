package app.uprightwarden.server.audit;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How findings, exposure and the time to mend have moved over the recorded audits. */
@Service
public class Trends {
  private static final int MAX_MENDED = 50_000;

  private final AuditRuns runs;
  private final FindingRepository findings;

  Trends(AuditRuns runs, FindingRepository findings) {
    this.runs = runs;
    this.findings = findings;
  }

  /**
   * One audit's counts of open findings and of meetings by band of exposure.
   *
   * @param bySeverity 5 to 1
   */
  public record Point(
      long audit,
      Instant at,
      int edition,
      int meetings,
      int findings,
      int waived,
      Map<Integer, Integer> bySeverity,
      Map<String, Integer> byFamily,
      Map<String, Integer> byBand) {}

  /**
   * What was mended in a week.
   *
   * @param week its Monday
   * @param medianHours from when it was first seen
   */
  public record Mended(LocalDate week, int findings, double medianHours) {}

  /** Everything that is drawn. */
  public record Trend(List<Point> points, List<Mended> mended) {}

  /**
   * The last audits of the whole register, the oldest first.
   *
   * @param units only of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public Trend trend(@Nullable Collection<String> units, int most) {
    Map<Long, Point> points = new LinkedHashMap<>();
    List<AuditRun> done = new ArrayList<>(runs.done(most));
    Collections.reverse(done);
    for (AuditRun run : done) {
      points.put(
          run.id(),
          new Point(
              run.id(),
              run.startedAt(),
              run.edition(),
              0,
              0,
              0,
              severities(),
              new LinkedHashMap<>(),
              bands()));
    }
    if (!points.isEmpty()) {
      count(points, units);
      // one that had nothing to look at says nothing of how it stands
      points.values().removeIf(point -> point.meetings() == 0);
    }
    return new Trend(List.copyOf(points.values()), mended(units));
  }

  private static Map<Integer, Integer> severities() {
    Map<Integer, Integer> none = new LinkedHashMap<>();
    for (int severity = 5; severity >= 1; severity--) {
      none.put(severity, 0);
    }
    return none;
  }

  private static Map<String, Integer> bands() {
    Map<String, Integer> none = new LinkedHashMap<>();
    List.of("open", "ajar", "guarded", "shut").forEach(band -> none.put(band, 0));
    return none;
  }

  private void count(Map<Long, Point> points, @Nullable Collection<String> units) {
    boolean all = units == null;
    Collection<String> named = FindingQueries.named(units);
    for (AuditCountEntity row : findings.counts(points.keySet(), all, named)) {
      points.computeIfPresent(
          row.audit,
          (id, p) -> {
            p.bySeverity().merge(row.severity, row.open, Integer::sum);
            p.byFamily().merge(row.family, row.open, Integer::sum);
            return with(p, p.meetings(), p.findings() + row.open, p.waived() + row.waived);
          });
    }
    for (AuditBandEntity row : findings.bands(points.keySet(), all, named)) {
      points.computeIfPresent(
          row.audit,
          (id, p) -> {
            p.byBand().merge(row.band, row.meetings, Integer::sum);
            return with(p, p.meetings() + row.meetings, p.findings(), p.waived());
          });
    }
  }

  private static Point with(Point p, int meetings, int findings, int waived) {
    return new Point(
        p.audit(),
        p.at(),
        p.edition(),
        meetings,
        findings,
        waived,
        p.bySeverity(),
        p.byFamily(),
        p.byBand());
  }

  private List<Mended> mended(@Nullable Collection<String> units) {
    Map<LocalDate, List<Long>> minutes = new TreeMap<>();
    for (FindingRepository.Mended row :
        findings.mended(units == null, FindingQueries.named(units), MAX_MENDED)) {
      LocalDate week =
          LocalDate.ofInstant(row.at(), ZoneOffset.UTC)
              .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
      minutes
          .computeIfAbsent(week, w -> new ArrayList<>())
          .add(Math.max(0, Duration.between(row.seen(), row.at()).toMinutes()));
    }
    List<Mended> mended = new ArrayList<>();
    minutes.forEach(
        (week, all) ->
            mended.add(new Mended(week, all.size(), Math.round(median(all) / 6) / 10.0)));
    return mended;
  }

  /** The middle one, or half-way between the two in the middle. */
  static double median(List<Long> some) {
    List<Long> sorted = some.stream().sorted().toList();
    int middle = sorted.size() / 2;
    return sorted.size() % 2 == 1
        ? sorted.get(middle)
        : (sorted.get(middle - 1) + sorted.get(middle)) / 2.0;
  }
}
