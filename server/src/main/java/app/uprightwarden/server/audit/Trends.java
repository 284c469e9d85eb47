package app.uprightwarden.server.audit;

import java.time.DayOfWeek;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How findings, exposure and the time to mend have moved over the recorded audits. */
@Service
public class Trends {
  private static final int MOST_MENDED = 50_000;

  private final JdbcClient jdbc;

  Trends(JdbcClient jdbc) {
    this.jdbc = jdbc;
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
   * @param unit only this unit's meetings, or null
   */
  @Transactional(readOnly = true)
  public Trend trend(@Nullable String unit, int most) {
    Map<Long, Point> points = new LinkedHashMap<>();
    jdbc.sql(
            "select * from (select id, started_at, edition from audit_run where state = 'done' and"
                + " scope = :all order by started_at desc, id desc limit :most) r order by"
                + " started_at, id")
        .param("all", "{\"unit\":null,\"kind\":null,\"host\":null}")
        .param("most", most)
        .query(
            (RowCallbackHandler)
                r ->
                    points.put(
                        r.getLong(1),
                        new Point(
                            r.getLong(1),
                            AuditRuns.instant(r.getObject(2, LocalDateTime.class)),
                            r.getInt(3),
                            0,
                            0,
                            0,
                            severities(),
                            new LinkedHashMap<>(),
                            bands())));
    if (!points.isEmpty()) {
      count(points, unit);
      // one that had nothing to look at says nothing of how it stands
      points.values().removeIf(point -> point.meetings() == 0);
    }
    return new Trend(List.copyOf(points.values()), mended(unit));
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

  private void count(Map<Long, Point> points, @Nullable String unit) {
    String where = " where audit in (:audits) and (:unit is null or unit = :unit)";
    jdbc.sql("select audit, family, severity, open, waived from audit_count" + where)
        .param("audits", points.keySet())
        .param("unit", unit)
        .query(
            (RowCallbackHandler)
                r -> {
                  String family = r.getString(2);
                  int severity = r.getInt(3);
                  int open = r.getInt(4);
                  int waived = r.getInt(5);
                  points.computeIfPresent(
                      r.getLong(1),
                      (id, p) -> {
                        p.bySeverity().merge(severity, open, Integer::sum);
                        p.byFamily().merge(family, open, Integer::sum);
                        return with(p, p.meetings(), p.findings() + open, p.waived() + waived);
                      });
                });
    jdbc.sql("select audit, band, sum(meetings) from audit_band" + where + " group by audit, band")
        .param("audits", points.keySet())
        .param("unit", unit)
        .query(
            (RowCallbackHandler)
                r -> {
                  long audit = r.getLong(1);
                  String band = r.getString(2);
                  int meetings = r.getInt(3);
                  points.computeIfPresent(
                      audit,
                      (id, p) -> {
                        p.byBand().merge(band, meetings, Integer::sum);
                        return with(p, p.meetings() + meetings, p.findings(), p.waived());
                      });
                });
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

  private List<Mended> mended(@Nullable String unit) {
    Map<LocalDate, List<Long>> minutes = new TreeMap<>();
    jdbc.sql(
            "select at, seen_at from finding_event where what = 'gone' and cause = 'change' and"
                + " seen_at is not null and (:unit is null or unit = :unit) order by at desc limit"
                + " :most")
        .param("unit", unit)
        .param("most", MOST_MENDED)
        .query(
            (RowCallbackHandler)
                r -> {
                  Instant at = AuditRuns.instant(r.getObject(1, LocalDateTime.class));
                  Instant seen = AuditRuns.instant(r.getObject(2, LocalDateTime.class));
                  LocalDate week =
                      LocalDate.ofInstant(at, ZoneOffset.UTC)
                          .with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
                  minutes
                      .computeIfAbsent(week, w -> new ArrayList<>())
                      .add(Math.max(0, Duration.between(seen, at).toMinutes()));
                });
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
