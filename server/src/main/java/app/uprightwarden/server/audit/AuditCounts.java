package app.uprightwarden.server.audit;

import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** How much audits found: by severity, by check and by unit. */
@Service
public class AuditCounts {
  private static final String OF_UNITS =
      " and (:all or meeting in (select m.meeting from audited_meeting m where m.audit = :id and"
          + " m.unit in (:units)))";

  private final AuditRuns runs;
  private final JdbcClient jdbc;
  private final Counted<Tally> tallies = new Counted<>();

  AuditCounts(AuditRuns runs, JdbcClient jdbc) {
    this.runs = runs;
    this.jdbc = jdbc;
  }

  private JdbcClient.StatementSpec of(String sql, long id, @Nullable Collection<String> units) {
    return jdbc.sql(sql)
        .param("id", id)
        .param("all", units == null)
        .param("units", units == null || units.isEmpty() ? List.of("") : units);
  }

  /**
   * What is open and what is waived.
   *
   * @param open by severity, 5 to 1
   */
  public record Tally(Map<Integer, Integer> open, int waived) {}

  /**
   * Counts an audit's findings.
   *
   * @param units only of meetings of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public Tally tally(long id, @Nullable Collection<String> units) {
    return tallies.get(runs.get(id), id + " " + units, () -> counted(id, units));
  }

  private Tally counted(long id, @Nullable Collection<String> units) {
    Map<Integer, Integer> open = new LinkedHashMap<>();
    for (int severity = 5; severity >= 1; severity--) {
      open.put(severity, 0);
    }
    int[] waived = new int[1];
    of(
            "select severity, waiver is not null, count(*) from finding where audit = :id"
                + OF_UNITS
                + " group by 1, 2",
            id,
            units)
        .query(
            (RowCallbackHandler)
                row -> {
                  if (row.getBoolean(2)) {
                    waived[0] += row.getInt(3);
                  } else {
                    open.put(row.getInt(1), row.getInt(3));
                  }
                });
    return new Tally(open, waived[0]);
  }

  /** How many open findings of each check, and how many meetings have one. */
  public record CheckCount(String check, String subject, int worst, int findings, int meetings) {}

  /**
   * The gravest checks first.
   *
   * @param units only of meetings of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public List<CheckCount> byCheck(long id, @Nullable Collection<String> units) {
    return of(
            "select check_id, subject, max(severity), count(*), count(distinct meeting) from"
                + " finding where audit = :id and waiver is null"
                + OF_UNITS
                + " group by check_id, subject order by 3 desc, 4 desc, 1, 2",
            id,
            units)
        .query(
            (r, n) ->
                new CheckCount(
                    r.getString(1), r.getString(2), r.getInt(3), r.getInt(4), r.getInt(5)))
        .list();
  }

  /** Open findings by unit, severity 5 first; a host of no unit counts as "". */
  public record UnitCount(String unit, int meetings, Map<Integer, Integer> bySeverity) {}

  @Transactional(readOnly = true)
  public List<UnitCount> byUnit(long id) {
    Map<String, UnitCount> units = new LinkedHashMap<>();
    jdbc.sql(
            "select coalesce(unit, ''), count(*) from audited_meeting where audit = ? group by 1"
                + " order by 1")
        .param(id)
        .query(
            (RowCallbackHandler)
                r ->
                    units.put(
                        r.getString(1),
                        new UnitCount(r.getString(1), r.getInt(2), new LinkedHashMap<>())));
    jdbc.sql(
            "select coalesce(m.unit, ''), f.severity, count(*) from finding f join audited_meeting"
                + " m on m.audit = f.audit and m.meeting = f.meeting where f.audit = ? and"
                + " f.waiver is null group by 1, 2 order by 2 desc")
        .param(id)
        .query(
            (RowCallbackHandler)
                r -> {
                  UnitCount of = units.get(r.getString(1));
                  if (of != null) {
                    of.bySeverity().put(r.getInt(2), r.getInt(3));
                  }
                });
    return List.copyOf(units.values());
  }
}
