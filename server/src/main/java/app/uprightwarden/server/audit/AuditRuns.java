package app.uprightwarden.server.audit;

import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.Arrays;
import java.util.List;
import java.util.Optional;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/**
 * The rows of audit runs. A run is worked on by whoever holds its lease: one server at a time, and
 * another once that one has gone silent. Every step's transaction proves that the lease is still
 * held, so that nothing is written twice.
 */
@Component
class AuditRuns implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(AuditRuns.class);
  private static final Duration LEASE = Duration.ofSeconds(20);
  private static final Duration LONG_LEASE = Duration.ofMinutes(10);

  /** By the database's clock: one server's may be hours before another's. */
  private static final String IN_SECONDS = "utc_timestamp(3) + interval ? second";

  private final JdbcClient jdbc;
  private final JsonMapper json;
  private final Ledger ledger;
  private final Clock clock;
  private final String worker = UUID.randomUUID().toString();

  AuditRuns(JdbcClient jdbc, JsonMapper json, Ledger ledger, Clock clock) {
    this.jdbc = jdbc;
    this.json = json;
    this.ledger = ledger;
    this.clock = clock;
  }

  /** The lease is another's, or the run was cancelled: whoever worked on it stops. */
  static final class LeaseLost extends RuntimeException {
    private static final long serialVersionUID = 1;
  }

  /** A run to make. */
  record Wanted(
      String cause,
      AuditScope scope,
      int edition,
      Instant from,
      Instant to,
      String by,
      Instant at,
      int meetings,
      @Nullable Long schedule) {}

  @Transactional
  public long create(Wanted wanted, String state) {
    jdbc.sql(
            "insert into audit_run (state, cause, scope, edition, window_from, window_to,"
                + " started_by, started_at, meetings, judged, occurrences, findings, schedule)"
                + " values (?, ?, ?, ?, ?, ?, ?, ?, ?, 0, 0, 0, ?)")
        .params(
            Arrays.asList(
                state,
                wanted.cause(),
                json.writeValueAsString(wanted.scope()),
                wanted.edition(),
                utc(wanted.from()),
                utc(wanted.to()),
                wanted.by(),
                utc(wanted.at()),
                wanted.meetings(),
                wanted.schedule()))
        .update();
    long id = jdbc.sql("select last_insert_id()").query(Long.class).single();
    if (!wanted.cause().equals("standing")) {
      ledger.changed(
          "audit",
          Long.toString(id),
          "audit " + id,
          null,
          () -> InOrder.map("cause", wanted.cause(), "edition", wanted.edition()),
          wanted.by());
    }
    return id;
  }

  /**
   * Takes a run that nobody works on, the first begun first.
   *
   * @return its id, or empty where there is none
   */
  @Transactional
  public Optional<Long> take() {
    Optional<Long> free =
        jdbc.sql(
                "select id from audit_run where state in ('waiting', 'running') and (lease_until is"
                    + " null or lease_until < utc_timestamp(3) or worker = ?) order by id limit 1 for"
                    + " update skip locked")
            .param(worker)
            .query(Long.class)
            .optional();
    free.ifPresent(
        id ->
            jdbc.sql(
                    "update audit_run set state = 'running', worker = ?, lease_until = "
                        + IN_SECONDS
                        + " where id = ?")
                .params(worker, LEASE.toSeconds(), id)
                .update());
    return free;
  }

  /** Takes the standing audit, where nobody else holds it. */
  @Transactional
  public boolean takeStanding(long id) {
    return jdbc.sql(
                "update audit_run set worker = ?, lease_until = "
                    + IN_SECONDS
                    + " where id = ? and (worker = ? or lease_until is null or lease_until <"
                    + " utc_timestamp(3))")
            .params(worker, LEASE.toSeconds(), id, worker)
            .update()
        > 0;
  }

  /** Lets another server take at once what this one worked on. */
  @Override
  public void destroy() {
    try {
      jdbc.sql("update audit_run set lease_until = null where worker = ?").param(worker).update();
    } catch (DataAccessException e) {
      LOG.info("the audits of this server are free once their leases lapse: the database is away");
    }
  }

  /** How far a run has come: with the findings of a page, in one transaction. */
  record Step(long cursor, int scanned, int judged, int occurrences, int findings) {}

  /**
   * Notes a step and keeps the lease.
   *
   * @throws LeaseLost where it is another's or the run was cancelled, so that all of this is undone
   */
  @Transactional
  public void step(long id, Step step) {
    int held =
        jdbc.sql(
                "update audit_run set cursor_row = ?, scanned = scanned + ?, judged = judged + ?,"
                    + " occurrences = occurrences + ?, findings = findings + ?, lease_until = "
                    + IN_SECONDS
                    + " where id = ? and worker = ? and state in ('running', 'standing')")
            .params(
                step.cursor(),
                step.scanned(),
                step.judged(),
                step.occurrences(),
                step.findings(),
                LEASE.toSeconds(),
                id,
                worker)
            .update();
    if (held == 0) {
      throw new LeaseLost();
    }
  }

  /**
   * Keeps the lease where there is nothing else to write.
   *
   * @param isLong where the next step takes longer than usual
   * @throws LeaseLost where it is another's
   */
  @Transactional
  public void hold(long id, boolean isLong) {
    int held =
        jdbc.sql(
                "update audit_run set lease_until = "
                    + IN_SECONDS
                    + " where id = ? and worker = ? and state in ('running', 'standing')")
            .params((isLong ? LONG_LEASE : LEASE).toSeconds(), id, worker)
            .update();
    if (held == 0) {
      throw new LeaseLost();
    }
  }

  @Transactional
  public void addFindings(long id, int findings) {
    jdbc.sql("update audit_run set findings = findings + ? where id = ?")
        .params(findings, id)
        .update();
  }

  @Transactional
  public void end(long id, String state, @Nullable String message) {
    int held =
        jdbc.sql(
                "update audit_run set state = ?, message = ?, finished_at = ?, worker = null,"
                    + " lease_until = null where id = ? and worker = ? and state = 'running'")
            .params(Arrays.asList(state, message, utc(clock.instant()), id, worker))
            .update();
    if (held == 0) {
      throw new LeaseLost();
    }
  }

  /** Stops a run where it is; what it found stays, and it can go on. */
  @Transactional
  public void cancel(long id) {
    int stopped =
        jdbc.sql(
                "update audit_run set state = 'cancelled', finished_at = ?, worker = null,"
                    + " lease_until = null where id = ? and state in ('waiting', 'running')")
            .params(utc(clock.instant()), id)
            .update();
    if (stopped == 0) {
      throw ProblemException.conflict("not-running", "This audit is not running any more.");
    }
  }

  @Transactional
  public void resume(long id) {
    int waiting =
        jdbc.sql(
                "update audit_run set state = 'waiting', finished_at = null, message = null where"
                    + " id = ? and state in ('cancelled', 'failed')")
            .param(id)
            .update();
    if (waiting == 0) {
      throw ProblemException.conflict("not-stopped", "This audit was not stopped.");
    }
  }

  long cursor(long id) {
    return jdbc.sql("select cursor_row from audit_run where id = ?")
        .param(id)
        .query(Long.class)
        .single();
  }

  /** Makes one run the baseline to work down from; null for none. */
  @Transactional
  public void baseline(@Nullable Long id) {
    jdbc.sql("update audit_run set baseline = false where baseline").update();
    if (id != null) {
      jdbc.sql("update audit_run set baseline = true where id = ?").param(id).update();
    }
  }

  Optional<AuditRun> baseline() {
    return jdbc.sql("select * from audit_run where baseline").query(this::run).optional();
  }

  Optional<AuditRun> standing() {
    return jdbc.sql("select * from audit_run where state = 'standing' order by id limit 1")
        .query(this::run)
        .optional();
  }

  /** What the standing audit knows. */
  record Known(
      int edition,
      @Nullable Long directory,
      @Nullable Instant renewedAt,
      long cursor,
      Instant to) {}

  Known known(long standing) {
    return jdbc.sql(
            "select edition, directory, renewed_at, cursor_row, window_to from audit_run where id ="
                + " ?")
        .param(standing)
        .query(
            (r, n) ->
                new Known(
                    r.getInt(1),
                    r.getObject(2, Long.class),
                    maybe(r.getObject(3, LocalDateTime.class)),
                    r.getLong(4),
                    instant(r.getObject(5, LocalDateTime.class))))
        .single();
  }

  /** Begins to go through everything again. */
  @Transactional
  public void renew(long standing, int edition, long directory, Instant from, Instant to, int all) {
    jdbc.sql(
            "update audit_run set edition = ?, directory = ?, window_from = ?, window_to = ?,"
                + " cursor_row = 0, scanned = 0, judged = 0, occurrences = 0, meetings = ?,"
                + " renewed_at = null where id = ?")
        .params(edition, directory, utc(from), utc(to), all, standing)
        .update();
  }

  @Transactional
  public void renewed(long standing) {
    jdbc.sql(
            "update audit_run set renewed_at = :now, started_at = :now, judged = (select count(*)"
                + " from audited_meeting where audit = :id), findings = (select count(*) from"
                + " finding where audit = :id) where id = :id")
        .param("now", utc(clock.instant()))
        .param("id", standing)
        .update();
  }

  Optional<AuditRun> find(long id) {
    return jdbc.sql("select * from audit_run where id = ?").param(id).query(this::run).optional();
  }

  AuditRun get(long id) {
    return find(id).orElseThrow(() -> ProblemException.notFound("There is no audit " + id + "."));
  }

  /** Recorded runs, the newest first; the standing audit is not among them. */
  List<AuditRun> newest(int from, int most) {
    return jdbc.sql(
            "select * from audit_run where state <> 'standing' order by started_at desc, id desc"
                + " limit ? offset ?")
        .params(most, from)
        .query(this::run)
        .list();
  }

  private AuditRun run(ResultSet r, int n) throws SQLException {
    return new AuditRun(
        r.getLong("id"),
        r.getString("state"),
        r.getString("cause"),
        json.readValue(r.getString("scope"), AuditScope.class),
        r.getInt("edition"),
        instant(r.getObject("window_from", LocalDateTime.class)),
        instant(r.getObject("window_to", LocalDateTime.class)),
        r.getString("started_by"),
        instant(r.getObject("started_at", LocalDateTime.class)),
        maybe(r.getObject("finished_at", LocalDateTime.class)),
        r.getInt("meetings"),
        r.getInt("scanned"),
        r.getInt("judged"),
        r.getInt("occurrences"),
        r.getInt("findings"),
        r.getBoolean("baseline"),
        r.getObject("schedule", Long.class),
        r.getString("message"));
  }

  static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }

  static Instant instant(LocalDateTime time) {
    return time.toInstant(ZoneOffset.UTC);
  }

  static @Nullable Instant maybe(@Nullable LocalDateTime time) {
    return time == null ? null : instant(time);
  }
}
