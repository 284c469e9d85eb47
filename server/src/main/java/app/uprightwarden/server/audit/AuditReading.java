package app.uprightwarden.server.audit;

import static app.uprightwarden.server.audit.AuditRuns.maybe;

import app.uprightwarden.server.judging.FindingView;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Reads what audits found: in the order in which to fix it, and as the wall. */
@Service
public class AuditReading {
  private final AuditRuns runs;
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final JsonMapper json;
  private final Counted<Map<Integer, Integer>> counted = new Counted<>();

  AuditReading(AuditRuns runs, JdbcClient jdbc, JdbcTemplate batches, JsonMapper json) {
    this.batches = batches;
    this.runs = runs;
    this.jdbc = jdbc;
    this.json = json;
  }

  /**
   * A finding as it is listed, with the meeting it is about.
   *
   * @param identity the same for the same finding in every audit
   * @param waiver the waiver that covers it, or null
   * @param seen since when it is known, where that is known
   */
  public record Listed(
      String identity,
      String meeting,
      @Nullable Instant next,
      @Nullable Long waiver,
      @Nullable Instant seen,
      FindingView finding) {}

  /** A page of findings. */
  public record FindingPage(List<Listed> items, int page, int size, int total) {}

  /**
   * What findings are asked for; null filters nothing.
   *
   * @param only of meetings of these units' hosts
   */
  public record FindingFilter(
      @Nullable String meeting,
      @Nullable String check,
      @Nullable String subject,
      @Nullable Integer severity,
      @Nullable String unit,
      @Nullable Boolean waived,
      @Nullable Collection<String> only) {
    public static final FindingFilter OPEN = new FindingFilter(null, null, null, null, null, false);

    public FindingFilter(
        @Nullable String meeting,
        @Nullable String check,
        @Nullable String subject,
        @Nullable Integer severity,
        @Nullable String unit,
        @Nullable Boolean waived) {
      this(meeting, check, subject, severity, unit, waived, null);
    }
  }

  public AuditRun run(long id) {
    return runs.get(id);
  }

  /** Finished and other recorded runs, the newest first. */
  public List<AuditRun> newest(int most) {
    return runs.newest(0, most);
  }

  /**
   * The newest recorded runs that somebody may look at.
   *
   * @param concerns whether a run is for them to see
   */
  @Transactional(readOnly = true)
  public List<AuditRun> newest(int most, Predicate<AuditRun> concerns) {
    List<AuditRun> found = new ArrayList<>();
    int page = Math.max(most, 100);
    for (int from = 0; found.size() < most; from += page) {
      List<AuditRun> some = runs.newest(from, page);
      some.stream().filter(concerns).limit(most - found.size()).forEach(found::add);
      if (some.size() < page) {
        break;
      }
    }
    return found;
  }

  /** Findings in the order in which to fix them, filtered where a filter is not null. */
  @Transactional(readOnly = true)
  public FindingPage findings(long id, FindingFilter filter, int page, int size) {
    List<Object> parameters = new ArrayList<>(List.of(id));
    StringBuilder where = new StringBuilder("where f.audit = ?");
    add(where, parameters, " and f.meeting = ?", filter.meeting());
    add(where, parameters, " and f.check_id = ?", filter.check());
    add(where, parameters, " and f.subject = ?", filter.subject());
    add(where, parameters, " and f.severity >= ?", filter.severity());
    add(
        where,
        parameters,
        " and f.meeting in (select meeting from audited_meeting m where m.audit = f.audit and"
            + " m.unit = ?)",
        filter.unit());
    if (filter.only() != null) {
      where
          .append(
              " and f.meeting in (select meeting from audited_meeting m where m.audit = f.audit")
          .append(" and m.unit in (''")
          .append(", ?".repeat(filter.only().size()))
          .append("))");
      parameters.addAll(filter.only());
    }
    if (filter.waived() != null) {
      where.append(filter.waived() ? " and f.waiver is not null" : " and f.waiver is null");
    }
    Map<Integer, Integer> counts =
        counted.get(
            runs.get(id), where + " " + parameters, () -> counts(where.toString(), parameters));
    int total = counts.values().stream().mapToInt(Integer::intValue).sum();
    List<Listed> items = inOrder(idsOf(where.toString(), parameters, counts, page, size));
    return new FindingPage(items, page, size, total);
  }

  private Map<Integer, Integer> counts(String where, List<Object> parameters) {
    Map<Integer, Integer> counts = new LinkedHashMap<>();
    jdbc.sql(
            "select f.severity, count(*) from finding f "
                + where
                + " group by f.severity order by f.severity desc")
        .params(parameters)
        .query((RowCallbackHandler) r -> counts.put(r.getInt(1), r.getInt(2)));
    return counts;
  }

  /**
   * The ids of a page, the gravest first. Only the severities that are on the page are sorted, and
   * without the findings' long texts.
   */
  private List<Long> idsOf(
      String where, List<Object> parameters, Map<Integer, Integer> counts, int page, int size) {
    List<Long> ids = new ArrayList<>();
    long skip = (long) page * size;
    for (Map.Entry<Integer, Integer> count : counts.entrySet()) {
      if (skip < count.getValue() && ids.size() < size) {
        List<Object> all = new ArrayList<>(parameters);
        all.addAll(List.of(count.getKey(), size - ids.size(), skip));
        ids.addAll(
            jdbc.sql(
                    "select f.id from finding f "
                        + where
                        + " and f.severity = ? order by f.undated, f.next_start, f.invited desc,"
                        + " f.id limit ? offset ?")
                .params(all)
                .query(Long.class)
                .list());
      }
      skip = Math.max(0, skip - count.getValue());
    }
    return ids;
  }

  private List<Listed> inOrder(List<Long> ids) {
    if (ids.isEmpty()) {
      return List.of();
    }
    Map<Long, Listed> found = new HashMap<>();
    jdbc.sql("select f.* from finding f where f.id in (:ids)")
        .param("ids", ids)
        .query((RowCallbackHandler) r -> found.put(r.getLong("id"), listed(r, 0)));
    return ids.stream().map(found::get).filter(Objects::nonNull).toList();
  }

  /**
   * The open findings of some meetings, in the order in which to fix them.
   *
   * @param most how many at most
   */
  @Transactional(readOnly = true)
  public List<Listed> openOf(long id, Collection<String> meetings, int most) {
    if (meetings.isEmpty()) {
      return List.of();
    }
    return inOrder(
        jdbc.sql(
                "select f.id from finding f where f.audit = :id and f.meeting in (:meetings) and"
                    + " f.waiver is null order by f.severity desc, f.undated, f.next_start,"
                    + " f.invited desc, f.id limit :most")
            .param("id", id)
            .param("meetings", meetings)
            .param("most", most)
            .query(Long.class)
            .list());
  }

  private static void add(
      StringBuilder where, List<Object> parameters, String condition, @Nullable Object value) {
    if (value != null) {
      where.append(condition);
      parameters.add(value);
    }
  }

  Listed listed(ResultSet r, int n) throws SQLException {
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
        r.getObject("waiver", Long.class),
        maybe(r.getObject("seen_at", LocalDateTime.class)),
        json.readValue(r.getString("detail"), FindingView.class));
  }

  /**
   * The meetings with a finding this grave, in the order in which to mend them.
   *
   * @return titles by meeting
   */
  @Transactional(readOnly = true)
  public Map<String, String> worst(long id, int severity, int most) {
    Map<String, String> titles = new LinkedHashMap<>();
    jdbc.sql(
            "select meeting, title from audited_meeting m where audit = ? and worst >= ? order by "
                + Wall.FIX_ORDER
                + " limit ?")
        .params(id, severity, most)
        .query((RowCallbackHandler) row -> titles.put(row.getString(1), row.getString(2)));
    return titles;
  }

  /**
   * A finding with the meeting it is about, as reports have it.
   *
   * @param judgedSet the number of the control values judged, or null in audits of before
   */
  public record Reported(
      Listed found,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      double exposure,
      @Nullable Long judgedSet) {}

  /** Every finding in the order in which to fix them, without holding them all. */
  @Transactional(readOnly = true)
  public void each(long id, Consumer<Reported> consumer) {
    JdbcTemplate streaming = new JdbcTemplate(Objects.requireNonNull(batches.getDataSource()));
    streaming.setFetchSize(500);
    streaming.query(
        "select f.*, m.title, m.host, m.unit, m.kind, m.exposure, m.judged_set from finding f join"
            + " audited_meeting m on m.audit = f.audit and m.meeting = f.meeting where f.audit = ?"
            + " order by f.severity desc, f.next_start is null, f.next_start, f.invited desc, f.id",
        (RowCallbackHandler)
            r ->
                consumer.accept(
                    new Reported(
                        listed(r, 0),
                        r.getString("title"),
                        r.getString("host"),
                        r.getString("unit"),
                        r.getString("kind"),
                        r.getInt("exposure") / 10.0,
                        r.getObject("judged_set", Long.class))),
        id);
  }

  /** The numbers of the sets of control values that an audit judged. */
  @Transactional(readOnly = true)
  public List<Long> judgedSets(long id) {
    return jdbc.sql(
            "select distinct judged_set from audited_meeting where audit = ? and judged_set is not"
                + " null order by 1")
        .param(id)
        .query(Long.class)
        .list();
  }

  /** A meeting as an audit has it. */
  public record Audited(
      String meeting,
      String title,
      String host,
      @Nullable String unit,
      double exposure,
      @Nullable Instant next,
      int invited,
      int findings,
      int worst,
      int waived,
      @Nullable Long judgedSet) {}

  /**
   * The most exposed meetings that are held before a time.
   *
   * @param hosted only these meetings, or null for all
   */
  @Transactional(readOnly = true)
  public List<Audited> soon(long id, Instant until, @Nullable Collection<String> hosted, int most) {
    if (hosted != null && hosted.isEmpty()) {
      return List.of();
    }
    return jdbc.sql(
            "select * from audited_meeting where audit = :id and next_start < :until"
                + (hosted == null ? "" : " and meeting in (:hosted)")
                + " order by exposure desc, next_start, meeting limit :most")
        .param("id", id)
        .param("until", AuditRuns.utc(until))
        .param("hosted", hosted)
        .param("most", most)
        .query(AuditReading::audited)
        .list();
  }

  /**
   * The meetings that are held before a time, the soonest first and of those the most exposed.
   *
   * @param from the first, from 0
   */
  @Transactional(readOnly = true)
  public List<Audited> due(long id, Instant until, int from, int most) {
    return jdbc.sql(
            "select * from audited_meeting where audit = ? and next_start < ?"
                + " order by next_start, exposure desc, meeting limit ? offset ?")
        .params(id, AuditRuns.utc(until), most, from)
        .query(AuditReading::audited)
        .list();
  }

  /** How many meetings are held before a time. */
  @Transactional(readOnly = true)
  public int soon(long id, Instant until) {
    return jdbc.sql("select count(*) from audited_meeting where audit = ? and next_start < ?")
        .params(id, AuditRuns.utc(until))
        .query(Integer.class)
        .single();
  }

  /** Every meeting of an audit, without holding them all. */
  @Transactional(readOnly = true)
  public void eachMeeting(long id, Consumer<Audited> consumer) {
    JdbcTemplate streaming = new JdbcTemplate(Objects.requireNonNull(batches.getDataSource()));
    streaming.setFetchSize(500);
    streaming.query(
        "select * from audited_meeting where audit = ? order by meeting",
        (RowCallbackHandler) r -> consumer.accept(audited(r, 0)),
        id);
  }

  private static Audited audited(ResultSet r, int n) throws SQLException {
    return new Audited(
        r.getString("meeting"),
        r.getString("title"),
        r.getString("host"),
        r.getString("unit"),
        r.getInt("exposure") / 10.0,
        maybe(r.getObject("next_start", LocalDateTime.class)),
        r.getInt("invited"),
        r.getInt("findings"),
        r.getInt("worst"),
        r.getInt("waived"),
        r.getObject("judged_set", Long.class));
  }

  /**
   * The done scheduled audits whose report has not been sent; taken, in the caller's transaction.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<AuditRun> takeUnreported() {
    List<Long> ids =
        jdbc.sql(
                "select id from audit_run where state = 'done' and schedule is not null and not"
                    + " reported order by id limit 1 for update skip locked")
            .query(Long.class)
            .list();
    if (!ids.isEmpty()) {
      jdbc.sql("update audit_run set reported = true where id in (:ids)")
          .param("ids", ids)
          .update();
    }
    return ids.stream().map(runs::get).toList();
  }

  /** The titles that meetings had. */
  @Transactional(readOnly = true)
  public Map<String, String> titles(long id, Collection<String> meetings) {
    Map<String, String> titles = new LinkedHashMap<>();
    if (!meetings.isEmpty()) {
      jdbc.sql(
              "select meeting, title from audited_meeting where audit = :id and meeting in (:some)")
          .param("id", id)
          .param("some", meetings)
          .query((RowCallbackHandler) r -> titles.put(r.getString(1), r.getString(2)));
    }
    return titles;
  }
}
