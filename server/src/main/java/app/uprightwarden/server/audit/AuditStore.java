package app.uprightwarden.server.audit;

import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.ProblemException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** The rows of audit runs. Written in batches and read in pages; no entities. */
@Component
class AuditStore {
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final JsonMapper json;

  AuditStore(JdbcClient jdbc, JdbcTemplate batches, JsonMapper json) {
    this.jdbc = jdbc;
    this.batches = batches;
    this.json = json;
  }

  /** A meeting's row as it was judged; scores in tenths. */
  record MeetingRow(
      String id,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      int exposure,
      int intrusion,
      int disruption,
      @Nullable Instant next,
      int invited) {}

  /** A finding's row. */
  record FindingRow(
      String meeting, String subject, @Nullable Instant next, int invited, FindingView view) {}

  @Transactional
  public long create(int edition, Instant from, Instant to, String by, Instant now, int meetings) {
    jdbc.sql(
            "insert into audit_run (state, edition, window_from, window_to, started_by, started_at,"
                + " meetings, judged, occurrences, findings)"
                + " values ('waiting', ?, ?, ?, ?, ?, ?, 0, 0, 0)")
        .params(edition, utc(from), utc(to), by, utc(now), meetings)
        .update();
    return jdbc.sql("select last_insert_id()").query(Long.class).single();
  }

  @Transactional
  public void begin(long id) {
    jdbc.sql("update audit_run set state = 'running' where id = ?").param(id).update();
  }

  /** Stores what a page of meetings gave, together with how far the run has come. */
  @Transactional
  public void append(
      long id, List<MeetingRow> meetings, List<FindingRow> findings, int occurrences) {
    batches.batchUpdate(
        "insert into audited_meeting (audit, meeting, title, host, unit, kind, exposure, intrusion,"
            + " disruption, next_start, invited, findings, worst)"
            + " values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0, 0)",
        meetings.stream()
            .map(
                m ->
                    new @Nullable Object[] {
                      id,
                      m.id(),
                      m.title(),
                      m.host(),
                      m.unit(),
                      m.kind(),
                      m.exposure(),
                      m.intrusion(),
                      m.disruption(),
                      m.next() == null ? null : utc(m.next()),
                      m.invited()
                    })
            .toList());
    batches.batchUpdate(
        "insert into finding (audit, meeting, occurrence, check_id, subject, family, severity,"
            + " next_start, invited, detail) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        findings.stream().map(f -> findingParameters(id, f)).toList());
    jdbc.sql(
            "update audit_run set judged = judged + ?, occurrences = occurrences + ?,"
                + " findings = findings + ? where id = ?")
        .params(meetings.size(), occurrences, findings.size(), id)
        .update();
  }

  private @Nullable Object[] findingParameters(long id, FindingRow f) {
    return new @Nullable Object[] {
      id,
      f.meeting(),
      f.view().occurrence() == null ? "" : f.view().occurrence(),
      f.view().check(),
      f.subject(),
      f.view().family(),
      f.view().severity(),
      f.next() == null ? null : utc(f.next()),
      f.invited(),
      json.writeValueAsString(f.view())
    };
  }

  @Transactional
  public void finish(long id, Instant now) {
    jdbc.sql(
            "update audited_meeting m join (select meeting, count(*) n, max(severity) worst from"
                + " finding where audit = :id group by meeting) f on f.meeting = m.meeting set"
                + " m.findings = f.n, m.worst = f.worst where m.audit = :id")
        .param("id", id)
        .update();
    jdbc.sql("update audit_run set state = 'done', finished_at = ? where id = ?")
        .params(utc(now), id)
        .update();
  }

  @Transactional
  public void fail(long id, String message, Instant now) {
    jdbc.sql("update audit_run set state = 'failed', message = ?, finished_at = ? where id = ?")
        .params(message, utc(now), id)
        .update();
  }

  /** Runs that a stopped server left behind cannot go on: say so. */
  @Transactional
  public void failUnfinished(String message, Instant now) {
    jdbc.sql(
            "update audit_run set state = 'failed', message = ?, finished_at = ? where state in"
                + " ('waiting', 'running')")
        .params(message, utc(now))
        .update();
  }

  Optional<AuditRun> find(long id) {
    return jdbc.sql("select * from audit_run where id = ?").param(id).query(this::run).optional();
  }

  List<AuditRun> newest(int most) {
    return jdbc.sql("select * from audit_run order by id desc limit ?")
        .param(most)
        .query(this::run)
        .list();
  }

  private AuditRun run(ResultSet r, int n) throws SQLException {
    return new AuditRun(
        r.getLong("id"),
        r.getString("state"),
        r.getInt("edition"),
        instant(r.getObject("window_from", LocalDateTime.class)),
        instant(r.getObject("window_to", LocalDateTime.class)),
        r.getString("started_by"),
        instant(r.getObject("started_at", LocalDateTime.class)),
        maybe(r.getObject("finished_at", LocalDateTime.class)),
        r.getInt("meetings"),
        r.getInt("judged"),
        r.getInt("occurrences"),
        r.getInt("findings"),
        r.getString("message"));
  }

  /**
   * A finding as it is listed, with the meeting it is about.
   *
   * @param identity the same for the same finding in every audit
   */
  record Listed(String identity, String meeting, @Nullable Instant next, FindingView finding) {}

  /** A page of findings. */
  record FindingPage(List<Listed> items, int page, int size, int total) {}

  /** Findings in the order in which to fix them, filtered where a filter is not null. */
  FindingPage findings(
      long id,
      @Nullable String meeting,
      @Nullable String check,
      @Nullable Integer severity,
      int page,
      int size) {
    List<Object> parameters = new ArrayList<>(List.of(id));
    StringBuilder where = new StringBuilder("where audit = ?");
    if (meeting != null) {
      where.append(" and meeting = ?");
      parameters.add(meeting);
    }
    if (check != null) {
      where.append(" and check_id = ?");
      parameters.add(check);
    }
    if (severity != null) {
      where.append(" and severity >= ?");
      parameters.add(severity);
    }
    int total =
        jdbc.sql("select count(*) from finding " + where)
            .params(parameters)
            .query(Integer.class)
            .single();
    parameters.add(size);
    parameters.add((long) page * size);
    List<Listed> items =
        jdbc.sql(
                "select * from finding "
                    + where
                    + " order by severity desc, next_start is null, next_start, invited desc, id"
                    + " limit ? offset ?")
            .params(parameters)
            .query(this::listed)
            .list();
    return new FindingPage(items, page, size, total);
  }

  private Listed listed(ResultSet r, int n) throws SQLException {
    String identity =
        String.join(
            "|",
            r.getString("meeting"),
            r.getString("occurrence"),
            r.getString("check_id"),
            r.getString("subject"));
    return new Listed(
        identity,
        r.getString("meeting"),
        maybe(r.getObject("next_start", LocalDateTime.class)),
        json.readValue(r.getString("detail"), FindingView.class));
  }

  /**
   * A row of the wall.
   *
   * @param families family → worst severity and how many
   */
  record WallRow(
      String meeting,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      double exposure,
      @Nullable Instant next,
      int invited,
      int findings,
      int worst,
      Map<String, Cell> families) {}

  /** The worst severity in a cell of the wall, and how many findings. */
  record Cell(int worst, int count) {}

  /** A page of the wall. */
  record WallPage(List<WallRow> items, int page, int size, int total) {}

  WallPage wall(long id, boolean open, int page, int size) {
    String where = "where audit = ?" + (open ? " and findings > 0" : "");
    int total =
        jdbc.sql("select count(*) from audited_meeting " + where)
            .param(id)
            .query(Integer.class)
            .single();
    List<WallRow> rows =
        jdbc.sql(
                "select * from audited_meeting "
                    + where
                    + " order by worst desc, next_start is null, next_start, invited desc, meeting"
                    + " limit ? offset ?")
            .params(id, size, (long) page * size)
            .query(this::wallRow)
            .list();
    if (!rows.isEmpty()) {
      fillCells(id, rows);
    }
    return new WallPage(rows, page, size, total);
  }

  private WallRow wallRow(ResultSet r, int n) throws SQLException {
    return new WallRow(
        r.getString("meeting"),
        r.getString("title"),
        r.getString("host"),
        r.getString("unit"),
        r.getString("kind"),
        r.getInt("exposure") / 10.0,
        maybe(r.getObject("next_start", LocalDateTime.class)),
        r.getInt("invited"),
        r.getInt("findings"),
        r.getInt("worst"),
        new LinkedHashMap<>());
  }

  private void fillCells(long id, List<WallRow> rows) {
    Map<String, WallRow> byMeeting = new LinkedHashMap<>();
    rows.forEach(row -> byMeeting.put(row.meeting(), row));
    jdbc.sql(
            "select meeting, family, max(severity), count(*) from finding where audit = :id and"
                + " meeting in (:meetings) group by meeting, family")
        .param("id", id)
        .param("meetings", byMeeting.keySet())
        .query(
            (RowCallbackHandler)
                row -> {
                  WallRow of = byMeeting.get(row.getString(1));
                  if (of != null) {
                    of.families().put(row.getString(2), new Cell(row.getInt(3), row.getInt(4)));
                  }
                });
  }

  /** How many findings of each severity, 1 to 5. */
  Map<Integer, Integer> bySeverity(long id) {
    Map<Integer, Integer> counts = new LinkedHashMap<>();
    for (int severity = 5; severity >= 1; severity--) {
      counts.put(severity, 0);
    }
    jdbc.sql("select severity, count(*) from finding where audit = ? group by severity")
        .param(id)
        .query((RowCallbackHandler) row -> counts.put(row.getInt(1), row.getInt(2)));
    return counts;
  }

  AuditRun get(long id) {
    return find(id).orElseThrow(() -> ProblemException.notFound("There is no audit " + id + "."));
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }

  private static Instant instant(LocalDateTime time) {
    return time.toInstant(ZoneOffset.UTC);
  }

  private static @Nullable Instant maybe(@Nullable LocalDateTime time) {
    return time == null ? null : instant(time);
  }
}
