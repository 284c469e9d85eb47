package app.uprightwarden.server.audit;

import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
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
  private static final Set<String> UNDER_WAY = Set.of("waiting", "running");

  private final AuditRunRepository runs;
  private final FindingRepository findings;
  private final DatabaseClock database;
  private final JsonMapper json;
  private final Ledger ledger;
  private final Clock clock;
  private final TransactionTemplate transaction;
  private final String worker = UUID.randomUUID().toString();

  AuditRuns(
      AuditRunRepository runs,
      FindingRepository findings,
      DatabaseClock database,
      JsonMapper json,
      Ledger ledger,
      Clock clock,
      TransactionTemplate transaction) {
    this.runs = runs;
    this.findings = findings;
    this.database = database;
    this.json = json;
    this.ledger = ledger;
    this.clock = clock;
    this.transaction = transaction;
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
    AuditRunEntity row = new AuditRunEntity();
    row.state = state;
    row.cause = wanted.cause();
    row.scope = json.writeValueAsString(wanted.scope());
    row.edition = wanted.edition();
    row.windowFrom = wanted.from();
    row.windowTo = wanted.to();
    row.startedBy = wanted.by();
    row.startedAt = wanted.at();
    row.meetings = wanted.meetings();
    row.schedule = wanted.schedule();
    runs.insert(row);
    long id = row.id;
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
   * Takes a run, where it waits or goes on and nobody else works on it.
   *
   * @return whether it is this server's now
   */
  @Transactional
  public boolean take(long id) {
    Instant now = database.instant();
    return runs.take(id, worker, now, now.plus(LEASE)) > 0;
  }

  /** Whether a run waits for somebody to work on it, or has somebody. */
  boolean isUnderWay(long id) {
    return runs.find(id).filter(row -> UNDER_WAY.contains(row.state)).isPresent();
  }

  /** By the database's clock: one server's may be hours before another's. */
  private Instant leaseEnd(Duration lease) {
    return database.instant().plus(lease);
  }

  /** Takes the standing audit, where nobody else holds it. */
  @Transactional
  public boolean takeStanding(long id) {
    Instant now = database.instant();
    return runs.takeStanding(id, worker, now, now.plus(LEASE)) > 0;
  }

  /** Lets another server take at once what this one worked on. */
  @Override
  public void destroy() {
    try {
      // in a transaction that is tried again: whoever audits at this moment may hold the row
      transaction.executeWithoutResult(status -> runs.letGo(worker));
    } catch (DataAccessException | TransactionException e) {
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
        runs.step(
            id,
            worker,
            leaseEnd(LEASE),
            step.cursor(),
            step.scanned(),
            step.judged(),
            step.occurrences(),
            step.findings());
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
    int held = runs.hold(id, worker, leaseEnd(isLong ? LONG_LEASE : LEASE));
    if (held == 0) {
      throw new LeaseLost();
    }
  }

  @Transactional
  public void addFindings(long id, int findings) {
    runs.addFindings(id, findings);
  }

  @Transactional
  public void end(long id, String state, @Nullable String message) {
    int held = runs.end(id, worker, state, message, clock.instant());
    if (held == 0) {
      throw new LeaseLost();
    }
  }

  /** Stops a run where it is; what it found stays, and it can go on. */
  @Transactional
  public void cancel(long id) {
    int stopped = runs.cancel(id, clock.instant());
    if (stopped == 0) {
      throw ProblemException.conflict("not-running", "This audit is not running any more.");
    }
  }

  @Transactional
  public void resume(long id) {
    int waiting = runs.resume(id);
    if (waiting == 0) {
      throw ProblemException.conflict("not-stopped", "This audit was not stopped.");
    }
  }

  long cursor(long id) {
    return runs.find(id).orElseThrow().cursorRow;
  }

  /** Makes one run the baseline to work down from; null for none. */
  @Transactional
  public void baseline(@Nullable Long id) {
    runs.noBaseline();
    if (id != null) {
      runs.setBaseline(id);
    }
  }

  Optional<AuditRun> baseline() {
    return runs.baseline().map(this::run);
  }

  Optional<AuditRun> standing() {
    return runs.standing().map(this::run);
  }

  /**
   * What the standing audit knows.
   *
   * @param cause why it is going through everything, where it is
   */
  record Known(
      int edition,
      @Nullable Long directory,
      @Nullable Instant renewedAt,
      long cursor,
      Instant to,
      @Nullable String cause) {}

  Known known(long standing) {
    AuditRunEntity row = runs.find(standing).orElseThrow();
    return new Known(
        row.edition, row.directory, row.renewedAt, row.cursorRow, row.windowTo, row.message);
  }

  /** Begins to go through everything again. */
  @Transactional
  public void renew(
      long standing, int edition, long directory, Instant from, Instant to, int all, String cause) {
    runs.renew(standing, edition, directory, from, to, all, cause);
  }

  @Transactional
  public void renewed(long standing) {
    runs.renewed(
        standing,
        clock.instant(),
        Math.toIntExact(findings.countMeetings(standing)),
        Math.toIntExact(findings.countFindings(standing)));
  }

  Optional<AuditRun> find(long id) {
    return runs.find(id).map(this::run);
  }

  AuditRun get(long id) {
    return find(id).orElseThrow(() -> ProblemException.notFound("There is no audit " + id + "."));
  }

  /** Recorded runs, the newest first; the standing audit is not among them. */
  List<AuditRun> newest(int from, int most) {
    return runs.newest(from, most).stream().map(this::run).toList();
  }

  /** The last done audits of everything, the newest first. */
  List<AuditRun> done(int most) {
    return runs.done(json.writeValueAsString(AuditScope.ALL), most).stream()
        .map(this::run)
        .toList();
  }

  boolean noteReported(long id) {
    return runs.setReported(id) > 0;
  }

  private AuditRun run(AuditRunEntity row) {
    return new AuditRun(
        row.id,
        row.state,
        row.cause,
        json.readValue(row.scope, AuditScope.class),
        row.edition,
        row.windowFrom,
        row.windowTo,
        row.startedBy,
        row.startedAt,
        row.finishedAt,
        row.meetings,
        row.scanned,
        row.judged,
        row.occurrences,
        row.findings,
        row.baseline,
        row.schedule,
        row.message);
  }
}
