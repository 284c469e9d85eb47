package app.uprightwarden.server.audit;

import app.uprightwarden.server.persistence.AsRead;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** The wall: meetings down, families across, a cell its worst open finding. */
@Component
class Wall {
  private final AuditRuns runs;
  private final FindingRepository rows;
  private final Counted<Integer> counted = new Counted<>();

  Wall(AuditRuns runs, FindingRepository rows) {
    this.runs = runs;
    this.rows = rows;
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
   * @param from meetings whose next occurrence begins then or later; {@code to} before that
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
      @Nullable Instant from,
      @Nullable Instant to,
      @Nullable Collection<String> only) {}

  private record Where(String hql, Map<String, Object> parameters) {}

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
    and(
        sql,
        parameters,
        " and m.unit in :only",
        "only",
        f.only() == null || !f.only().isEmpty() ? f.only() : List.of(""));
    and(sql, parameters, " and m.kind = :kind", "kind", f.kind());
    and(sql, parameters, " and m.host = :host", "host", f.host());
    and(sql, parameters, " and m.worst >= :severity", "severity", f.severity());
    and(sql, parameters, " and m.nextStart >= :from", "from", f.from());
    and(sql, parameters, " and m.nextStart < :to", "to", f.to());
    if (f.text() != null && !f.text().isBlank()) {
      and(
          sql,
          parameters,
          " and (%s like :text escape '!' or %s like :text escape '!')"
              .formatted(AsRead.of("m.title"), AsRead.of("m.host")),
          "text",
          AsRead.having(f.text()));
    }
    if (f.check() != null) {
      sql.append(
          " and exists (select 1 from FindingEntity c where c.audit = m.audit and c.meeting = m.meeting"
              + " and c.waiver is null and c.checkId = :check");
      parameters.put("check", f.check());
      and(sql, parameters, " and c.subject = :subject", "subject", f.subject());
      sql.append(")");
    }
    if (f.baseline() != null && baseline != null) {
      sql.append(
          " and exists (select 1 from FindingEntity n where n.audit = m.audit and n.meeting = m.meeting"
              + " and n.waiver is null and "
              + (f.baseline().equals("new") ? "not " : "")
              + "exists (select 1 from FindingEntity b where b.audit = :baseline and b.meeting ="
              + " n.meeting and b.occurrence = n.occurrence and b.checkId = n.checkId and"
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

  @Transactional(readOnly = true)
  public WallPage page(long id, @Nullable Long baseline, WallFilter filter, int number, int size) {
    Where where = where(id, baseline, filter);
    int total =
        counted.get(
            runs.get(id),
            where.toString(),
            () ->
                Math.toIntExact(
                    rows.query(
                            "select count(*) from AuditedMeetingEntity m " + where.hql(),
                            Long.class,
                            where.parameters(),
                            0,
                            1)
                        .get(0)));
    String group =
        switch (filter.group() == null ? "" : filter.group()) {
          case "unit" -> "coalesce(m.unit, '')";
          case "host" -> "m.host";
          case "kind" -> "coalesce(m.kind, '')";
          default -> "";
        };
    String order =
        group.isEmpty()
            ? FindingRepository.FIX_ORDER
            : "max(m.worst) over (partition by %1$s) desc, sum(m.findings) over (partition by %1$s) desc, %1$s, "
                    .formatted(group)
                + FindingRepository.FIX_ORDER;
    List<WallRow> page =
        rows
            .query(
                "select m from AuditedMeetingEntity m " + where.hql() + " order by " + order,
                AuditedMeetingEntity.class,
                where.parameters(),
                (long) number * size,
                size)
            .stream()
            .map(Wall::row)
            .toList();
    if (!page.isEmpty()) {
      fillCells(id, page);
    }
    return new WallPage(page, number, size, total);
  }

  /** The meetings a filter keeps, in fix order; for acts on a whole check or selection. */
  @Transactional(readOnly = true)
  public List<String> meetings(long id, @Nullable Long baseline, WallFilter filter, int most) {
    Where where = where(id, baseline, filter);
    return rows.query(
        "select m.meeting from AuditedMeetingEntity m "
            + where.hql()
            + " order by "
            + FindingRepository.FIX_ORDER,
        String.class,
        where.parameters(),
        0,
        most);
  }

  private static WallRow row(AuditedMeetingEntity row) {
    return new WallRow(
        row.meeting,
        row.title,
        row.host,
        row.unit,
        row.kind,
        row.exposure / 10.0,
        row.nextStart,
        row.invited,
        row.findings,
        row.worst,
        row.waived,
        new LinkedHashMap<>());
  }

  private void fillCells(long id, List<WallRow> page) {
    Map<String, WallRow> byMeeting = new LinkedHashMap<>();
    page.forEach(row -> byMeeting.put(row.meeting(), row));
    for (FindingRepository.Cell cell : rows.cells(id, byMeeting.keySet())) {
      WallRow of = byMeeting.get(cell.meeting());
      if (of != null) {
        of.families()
            .put(
                cell.family(),
                new Cell(
                    cell.worst(), Math.toIntExact(cell.open()), Math.toIntExact(cell.waived())));
      }
    }
  }
}
