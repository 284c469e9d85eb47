package app.uprightwarden.server.audit;

import static app.uprightwarden.server.audit.AuditRuns.maybe;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The wall: meetings down, families across, a cell its worst open finding. */
@Component
class Wall {
  private final AuditRuns runs;
  private final JdbcClient jdbc;
  private final Counted<Integer> counted = new Counted<>();

  Wall(AuditRuns runs, JdbcClient jdbc) {
    this.runs = runs;
    this.jdbc = jdbc;
  }

  /**
   * A row of the wall.
   *
   * @param families family → worst severity and how many, of what no waiver covers; a family with
   *     waived findings only has a worst of 0
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
      int waived,
      Map<String, Cell> families) {}

  /** The worst severity in a cell of the wall, how many findings, and how many are waived. */
  record Cell(int worst, int count, int waived) {}

  /** A page of the wall. */
  record WallPage(List<WallRow> items, int page, int size, int total) {}

  /**
   * What is on the wall, and how it is ordered; null filters nothing.
   *
   * @param show {@code open}, {@code waived} or {@code all}
   * @param group {@code unit}, {@code host} or {@code kind}: rows of one stand together, the worst
   *     group first; null for none
   * @param check only meetings with an open finding of it
   * @param only meetings of these units' hosts
   * @param baseline {@code new} for findings that the baseline has not, {@code old} for the others
   */
  record WallFilter(
      String show,
      @Nullable String group,
      @Nullable String unit,
      @Nullable String kind,
      @Nullable String host,
      @Nullable String check,
      @Nullable String subject,
      @Nullable String baseline,
      @Nullable Integer severity,
      @Nullable String text,
      @Nullable Collection<String> only) {}

  private record Where(String sql, Map<String, Object> parameters) {}

  private static Where where(long id, @Nullable Long baseline, WallFilter f) {
    StringBuilder sql = new StringBuilder("where m.audit = :id");
    Map<String, Object> parameters = new LinkedHashMap<>();
    parameters.put("id", id);
    switch (f.show()) {
      // the worst is of those that are open, and stands in the index
      case "open" -> sql.append(" and m.worst > 0");
      case "waived" -> sql.append(" and m.waived > 0");
      default -> {}
    }
    and(sql, parameters, " and m.unit = :unit", "unit", f.unit());
    and(sql, parameters, " and m.unit in (:only)", "only", f.only());
    and(sql, parameters, " and m.kind = :kind", "kind", f.kind());
    and(sql, parameters, " and m.host = :host", "host", f.host());
    and(sql, parameters, " and m.worst >= :severity", "severity", f.severity());
    if (f.text() != null && !f.text().isBlank()) {
      String like =
          "%" + f.text().strip().toLowerCase(Locale.ROOT).replaceAll("([%_\\\\])", "\\\\$1") + "%";
      and(
          sql,
          parameters,
          " and (lower(m.title) like :text or lower(m.host) like :text)",
          "text",
          like);
    }
    if (f.check() != null) {
      sql.append(
          " and exists (select 1 from finding c where c.audit = m.audit and c.meeting = m.meeting"
              + " and c.waiver is null and c.check_id = :check");
      parameters.put("check", f.check());
      and(sql, parameters, " and c.subject = :subject", "subject", f.subject());
      sql.append(")");
    }
    if (f.baseline() != null && baseline != null) {
      sql.append(
          " and exists (select 1 from finding n where n.audit = m.audit and n.meeting = m.meeting"
              + " and n.waiver is null and "
              + (f.baseline().equals("new") ? "not " : "")
              + "exists (select 1 from finding b where b.audit = :baseline and b.meeting ="
              + " n.meeting and b.occurrence = n.occurrence and b.check_id = n.check_id and"
              + " b.subject = n.subject and b.waiver is null))");
      parameters.put("baseline", baseline);
    }
    return new Where(sql.toString(), parameters);
  }

  private static void and(
      StringBuilder sql,
      Map<String, Object> parameters,
      String condition,
      String name,
      @Nullable Object value) {
    if (value != null) {
      sql.append(condition);
      parameters.put(name, value);
    }
  }

  /** Of audited meetings {@code m}; there is an index in this order. */
  static final String FIX_ORDER =
      "m.worst desc, m.undated, m.next_start, m.invited desc, m.meeting";

  @Transactional(readOnly = true)
  public WallPage page(long id, @Nullable Long baseline, WallFilter filter, int page, int size) {
    Where where = where(id, baseline, filter);
    int total =
        counted.get(
            runs.get(id),
            where.toString(),
            () ->
                jdbc.sql("select count(*) from audited_meeting m " + where.sql())
                    .params(where.parameters())
                    .query(Integer.class)
                    .single());
    String group =
        switch (filter.group() == null ? "" : filter.group()) {
          case "unit" -> "coalesce(m.unit, '')";
          case "host" -> "m.host";
          case "kind" -> "coalesce(m.kind, '')";
          default -> "";
        };
    String order =
        group.isEmpty()
            ? FIX_ORDER
            : "max(m.worst) over (partition by %1$s) desc, sum(m.findings) over (partition by %1$s) desc, %1$s, "
                    .formatted(group)
                + FIX_ORDER;
    List<WallRow> rows =
        jdbc.sql(
                "select m.* from audited_meeting m "
                    + where.sql()
                    + " order by "
                    + order
                    + " limit :size offset :offset")
            .params(where.parameters())
            .param("size", size)
            .param("offset", (long) page * size)
            .query(Wall::row)
            .list();
    if (!rows.isEmpty()) {
      fillCells(id, rows);
    }
    return new WallPage(rows, page, size, total);
  }

  /** The meetings a filter keeps, in fix order; for acts on a whole check or selection. */
  @Transactional(readOnly = true)
  public List<String> meetings(long id, @Nullable Long baseline, WallFilter filter, int most) {
    Where where = where(id, baseline, filter);
    return jdbc.sql(
            "select m.meeting from audited_meeting m "
                + where.sql()
                + " order by "
                + FIX_ORDER
                + " limit :most")
        .params(where.parameters())
        .param("most", most)
        .query(String.class)
        .list();
  }

  private static WallRow row(ResultSet r, int n) throws SQLException {
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
        r.getInt("waived"),
        new LinkedHashMap<>());
  }

  private void fillCells(long id, List<WallRow> rows) {
    Map<String, WallRow> byMeeting = new LinkedHashMap<>();
    rows.forEach(row -> byMeeting.put(row.meeting(), row));
    List<String> all = new ArrayList<>(byMeeting.keySet());
    jdbc.sql(
            "select meeting, family, max(if(waiver is null, severity, 0)), sum(waiver is null),"
                + " sum(waiver is not null) from finding where audit = :id and meeting in"
                + " (:meetings) group by meeting, family")
        .param("id", id)
        .param("meetings", all)
        .query(
            (RowCallbackHandler)
                row -> {
                  WallRow of = byMeeting.get(row.getString(1));
                  if (of != null) {
                    of.families()
                        .put(
                            row.getString(2),
                            new Cell(row.getInt(3), row.getInt(4), row.getInt(5)));
                  }
                });
  }
}
