package app.uprightwarden.server.remedies;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The rows of remedies: a job for what was asked at once, an item for each meeting in it. */
@Component
class RemedyJobs {
  private static final TypeReference<LinkedHashMap<String, RemedyPlan.PlanStep>> STEPS =
      new TypeReference<>() {};
  private static final String ITEMS =
      "select i.*, j.by_whom, j.by_name, j.by_role, j.what from remedy_item i join remedy_job j on"
          + " j.id = i.job ";

  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final JsonMapper json;
  private final Clock clock;

  RemedyJobs(JdbcClient jdbc, JdbcTemplate batches, JsonMapper json, Clock clock) {
    this.jdbc = jdbc;
    this.batches = batches;
    this.json = json;
    this.clock = clock;
  }

  /** An item to write. */
  record NewItem(
      String meeting, String title, String occurrence, RemedyPlan plan, @Nullable Long backTo) {}

  /**
   * A job with how its items stand.
   *
   * @param states state → how many: {@code waiting}, {@code sending}, {@code done}, {@code refused}
   *     by the conference service, {@code overtaken} by another change, {@code gone} with the
   *     meeting, {@code given-up} after many tries
   * @param trouble why those that wait have to, or null
   * @param undoneBy the job that undoes it, or null
   */
  record RemedyJob(
      long id,
      String what,
      String by,
      Instant at,
      @Nullable Long undoOf,
      @Nullable Long undoneBy,
      int items,
      int sent,
      Map<String, Integer> states,
      @Nullable String trouble) {}

  /** An item as it stands; see {@link RemedyJob}. */
  record RemedyItem(
      long id,
      long job,
      String meeting,
      String title,
      String occurrence,
      RemedyPlan plan,
      String state,
      int attempts,
      @Nullable Instant nextTry,
      @Nullable String trouble,
      int sent,
      @Nullable Instant doneAt) {}

  /** An item to carry out, and for whom. */
  record Work(
      RemedyItem item,
      SignedIn by,
      String what,
      @Nullable Long backTo,
      @Nullable Long wasVersion) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public long create(String what, SignedIn by, @Nullable Long undoOf, List<NewItem> items) {
    jdbc.sql(
            "insert into remedy_job (what, by_whom, by_name, by_role, at, undo_of) values (?, ?, ?,"
                + " ?, ?, ?)")
        .params(
            Arrays.asList(
                what,
                by.email(),
                by.name(),
                by.role().name().toLowerCase(Locale.ROOT),
                utc(clock.instant()),
                undoOf))
        .update();
    long job = jdbc.sql("select last_insert_id()").query(Long.class).single();
    batches.batchUpdate(
        "insert into remedy_item (job, meeting, title, occurrence, changes, new_passcode,"
            + " new_number, back_to, state, next_try) values (?, ?, ?, ?, ?, ?, ?, ?, 'waiting',"
            + " utc_timestamp(3))",
        items.stream()
            .map(
                i ->
                    new @Nullable Object[] {
                      job,
                      i.meeting(),
                      i.title(),
                      i.occurrence(),
                      json.writeValueAsString(i.plan().changes()),
                      i.plan().newPasscode(),
                      i.plan().newNumber(),
                      i.backTo()
                    })
            .toList());
    return job;
  }

  /**
   * Takes the next item that is due, for a while: whoever took it and went silent is taken over
   * from.
   */
  @Transactional
  public Optional<Work> take(Duration lease) {
    // by the database's clock: one server's may be hours before another's
    Optional<Work> next =
        jdbc.sql(
                ITEMS
                    + "where i.state in ('waiting', 'sending') and i.next_try <= utc_timestamp(3)"
                    + " order by i.next_try, i.id limit 1 for update skip locked")
            .query(this::work)
            .optional();
    next.ifPresent(
        work ->
            jdbc.sql(
                    "update remedy_item set state = 'sending', attempts = attempts + 1, next_try ="
                        + " utc_timestamp(3) + interval ? second where id = ?")
                .params(lease.toSeconds(), work.item().id())
                .update());
    return next;
  }

  /** The item if it is still being sent, locked. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<Work> sending(long id) {
    return jdbc.sql(ITEMS + "where i.id = ? and i.state = 'sending' for update")
        .param(id)
        .query(this::work)
        .optional();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void done(long id, long was, long now, int sent) {
    jdbc.sql(
            "update remedy_item set state = 'done', was_version = ?, now_version = ?, sent = ?,"
                + " done_at = ?, trouble = null, next_try = null where id = ?")
        .params(was, now, sent, utc(clock.instant()), id)
        .update();
  }

  @Transactional
  public void ended(long id, String state, String trouble) {
    jdbc.sql(
            "update remedy_item set state = ?, trouble = ?, done_at = ?, next_try = null where id ="
                + " ? and state = 'sending'")
        .params(state, cut(trouble), utc(clock.instant()), id)
        .update();
  }

  @Transactional
  public void again(long id, Duration later, String trouble) {
    jdbc.sql(
            "update remedy_item set state = 'waiting', next_try = utc_timestamp(3) + interval ?"
                + " microsecond, trouble = ? where id = ? and state = 'sending'")
        .params(later.toNanos() / 1000, cut(trouble), id)
        .update();
  }

  private static String cut(String text) {
    return Texts.cut(text, 500);
  }

  /** Lets what was refused or given up be tried again. */
  @Transactional
  public int retry(long job) {
    // under another number: the service has answered the one before for good
    return jdbc.sql(
            "update remedy_item set state = 'waiting', attempts = attempts + 1000, next_try ="
                + " utc_timestamp(3), trouble = null where job = ? and state in ('refused',"
                + " 'given-up')")
        .param(job)
        .update();
  }

  @Transactional(readOnly = true)
  public List<RemedyJob> newest(int most) {
    return jobs("order by j.id desc limit " + most, Map.of());
  }

  @Transactional(readOnly = true)
  public RemedyJob job(long id) {
    return jobs("where j.id = :id", Map.of("id", id)).stream()
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("There is no remedy " + id + "."));
  }

  private List<RemedyJob> jobs(String where, Map<String, Object> parameters) {
    Map<Long, RemedyJob> jobs = new LinkedHashMap<>();
    jdbc.sql(
            "select j.*, u.id undone_by from remedy_job j left join remedy_job u on u.undo_of = j.id "
                + where)
        .params(parameters)
        .query(
            (RowCallbackHandler)
                r ->
                    jobs.put(
                        r.getLong("id"),
                        new RemedyJob(
                            r.getLong("id"),
                            r.getString("what"),
                            r.getString("by_whom"),
                            instant(r.getObject("at", LocalDateTime.class)),
                            r.getObject("undo_of", Long.class),
                            r.getObject("undone_by", Long.class),
                            0,
                            0,
                            new LinkedHashMap<>(),
                            null)));
    if (!jobs.isEmpty()) {
      count(jobs);
    }
    return List.copyOf(jobs.values());
  }

  private void count(Map<Long, RemedyJob> jobs) {
    jdbc.sql(
            "select job, state, count(*), sum(sent), max(if(state in ('waiting', 'refused',"
                + " 'given-up'), trouble, null)) from remedy_item where job in (:jobs) group by job,"
                + " state")
        .param("jobs", jobs.keySet())
        .query(
            (RowCallbackHandler)
                r -> {
                  String state = r.getString(2);
                  int items = r.getInt(3);
                  int sent = r.getInt(4);
                  String trouble = r.getString(5);
                  jobs.computeIfPresent(
                      r.getLong(1),
                      (id, j) -> {
                        j.states().put(state, items);
                        return new RemedyJob(
                            j.id(),
                            j.what(),
                            j.by(),
                            j.at(),
                            j.undoOf(),
                            j.undoneBy(),
                            j.items() + items,
                            j.sent() + sent,
                            j.states(),
                            trouble == null ? j.trouble() : trouble);
                      });
                });
  }

  @Transactional(readOnly = true)
  public List<RemedyItem> items(long job, int most) {
    return jdbc.sql(ITEMS + "where i.job = ? order by i.state = 'done', i.id limit ?")
        .params(job, most)
        .query(this::item)
        .list();
  }

  @Transactional(readOnly = true)
  public List<Work> doneItems(long job) {
    return jdbc.sql(ITEMS + "where i.job = ? and i.state = 'done' order by i.id")
        .param(job)
        .query(this::work)
        .list();
  }

  /** What was done to meetings lately, by whom; for the report. */
  @Transactional(readOnly = true)
  public List<RemedyItem> doneSince(Instant since, int most) {
    return jdbc.sql(ITEMS + "where i.state = 'done' and i.done_at >= ? order by i.id limit ?")
        .params(utc(since), most)
        .query(this::item)
        .list();
  }

  /** Which of these meetings have a remedy under way. */
  @Transactional(readOnly = true)
  public List<String> underWay(Collection<String> meetings) {
    return meetings.isEmpty()
        ? List.of()
        : jdbc.sql(
                "select distinct meeting from remedy_item where meeting in (:meetings) and state in"
                    + " ('waiting', 'sending')")
            .param("meetings", meetings)
            .query(String.class)
            .list();
  }

  private Work work(ResultSet r, int n) throws SQLException {
    return new Work(
        item(r, n),
        new SignedIn(
            r.getString("by_whom"),
            r.getString("by_name"),
            Role.valueOf(r.getString("by_role").toUpperCase(Locale.ROOT))),
        r.getString("what"),
        r.getObject("back_to", Long.class),
        r.getObject("was_version", Long.class));
  }

  private RemedyItem item(ResultSet r, int n) throws SQLException {
    LocalDateTime next = r.getObject("next_try", LocalDateTime.class);
    LocalDateTime done = r.getObject("done_at", LocalDateTime.class);
    return new RemedyItem(
        r.getLong("id"),
        r.getLong("job"),
        r.getString("meeting"),
        r.getString("title"),
        r.getString("occurrence"),
        new RemedyPlan(
            json.readValue(r.getString("changes"), STEPS),
            r.getBoolean("new_passcode"),
            r.getBoolean("new_number"),
            true),
        r.getString("state"),
        r.getInt("attempts"),
        next == null ? null : instant(next),
        r.getString("trouble"),
        r.getInt("sent"),
        done == null ? null : instant(done));
  }

  private static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }

  private static Instant instant(LocalDateTime time) {
    return time.toInstant(ZoneOffset.UTC);
  }
}
