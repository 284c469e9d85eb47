package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.dao.DataAccessException;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Runs audits, one after the other, in the background. A run goes on where it was after it was
 * cancelled, after the database was away, and after the server was stopped in the middle of it.
 */
@Configuration(proxyBeanMethods = false)
public class AuditService {
  private static final Logger LOG = LoggerFactory.getLogger(AuditService.class);
  private static final Duration LONGEST_WINDOW = Duration.ofDays(366);
  private static final String JOB = "audit";
  private static final String FAULT = "a fault here";
  private static final JobKind.Retries RETRIES =
      new JobKind.Retries(60, Duration.ofMillis(250), Duration.ofSeconds(5));

  /** When it is looked again whether the server is gone that works on a run. */
  private static final Duration HELD_ELSEWHERE = Duration.ofSeconds(3);

  private final AuditRuns runs;
  private final RunWork work;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final Signals signals;
  private final Jobs jobs;
  private final TransactionTemplate transaction;
  private final Clock clock;

  AuditService(
      AuditRuns runs,
      RunWork work,
      RegisterService register,
      RulebookService rulebook,
      Signals signals,
      Jobs jobs,
      TransactionTemplate transaction,
      Clock clock) {
    this.runs = runs;
    this.work = work;
    this.register = register;
    this.rulebook = rulebook;
    this.signals = signals;
    this.jobs = jobs;
    this.transaction = transaction;
    this.clock = clock;
  }

  /** Said in the transaction in which a run comes to its end. */
  public record AuditDone(AuditRun run) {}

  /**
   * Begins an audit against the edition in force.
   *
   * @throws ProblemException 409 where there is no edition yet, 422 for a window that is none
   */
  public AuditRun start(Instant from, Instant to, AuditScope scope, SignedIn by) {
    return start(from, to, scope, "by-hand", by.email(), null);
  }

  /** The same for another cause: {@code schedule} or {@code publication}. */
  AuditRun start(
      Instant from,
      Instant to,
      AuditScope scope,
      String cause,
      String by,
      @Nullable Long schedule) {
    AuditRuns.Wanted wanted = wanted(from, to, scope, cause, by, schedule);
    Long id =
        transaction.execute(
            status -> {
              long made = runs.create(wanted, "waiting");
              jobs.give(JOB, made);
              return made;
            });
    signals.send(Signals.Topic.RUNS);
    return runs.get(Objects.requireNonNull(id));
  }

  private AuditRuns.Wanted wanted(
      Instant from,
      Instant to,
      AuditScope scope,
      String cause,
      String by,
      @Nullable Long schedule) {
    if (!to.isAfter(from) || Duration.between(from, to).compareTo(LONGEST_WINDOW) > 0) {
      throw ProblemException.invalid(
          "The window ends after it begins, and lasts a year at most.", List.of());
    }
    int edition = rulebook.inForce().number();
    if (edition == 0) {
      throw ProblemException.conflict(
          "no-edition", "There is no rulebook yet. Publish the first edition, then audit.");
    }
    return new AuditRuns.Wanted(
        cause, scope, edition, from, to, by, clock.instant(), register.count(), schedule);
  }

  /**
   * An audit that is done when this returns, as one at a set time would be; what was mended since
   * the one before is noted. For a demo's past.
   *
   * @param before the audit before, or null
   */
  public AuditRun runNow(Instant to, String by, @Nullable AuditRun before) {
    long id =
        runs.create(wanted(clock.instant(), to, AuditScope.ALL, "schedule", by, null), "waiting");
    work(Long.toString(id));
    if (before != null) {
      work.noteGone(before, runs.get(id));
    }
    return runs.get(id);
  }

  /** Stops a run where it is. */
  public AuditRun cancel(long id) {
    runs.get(id);
    runs.cancel(id);
    signals.send(Signals.Topic.RUNS);
    return runs.get(id);
  }

  /** Lets a run go on that was cancelled or failed. */
  public AuditRun resume(long id) {
    runs.get(id);
    transaction.executeWithoutResult(
        status -> {
          runs.resume(id);
          jobs.give(JOB, id);
        });
    signals.send(Signals.Topic.RUNS);
    return runs.get(id);
  }

  @Bean
  JobKind auditJobs() {
    return new JobKind(JOB, "Audit", JobKind.Lane.AUDIT, RETRIES, this::work)
        .named(id -> "audit " + id)
        .telling((id, why) -> fail(Long.parseLong(id), FAULT), id -> {});
  }

  /** Works on a run to its end, or until it is cancelled. */
  private synchronized void work(String item) {
    long id = Long.parseLong(item);
    if (!runs.take(id)) {
      if (runs.isUnderWay(id)) {
        throw new JobKind.Later(HELD_ELSEWHERE);
      }
      return; // it was cancelled, or is gone
    }
    try {
      work.go(id);
      signals.send(Signals.Topic.RUNS);
    } catch (AuditRuns.LeaseLost e) {
      LOG.info("audit {} goes on elsewhere, or was cancelled", id);
      if (runs.isUnderWay(id)) {
        throw new JobKind.Later(HELD_ELSEWHERE);
      }
    } catch (DataAccessException | TransactionException e) {
      throw e; // tried again
    } catch (RuntimeException e) {
      LOG.error("audit {} failed", id, e);
      fail(id, e instanceof IllegalArgumentException ? String.valueOf(e.getMessage()) : FAULT);
    }
  }

  /** What failed says so where it is looked at, and can be gone on with there. */
  private void fail(long id, String reason) {
    try {
      if (runs.take(id)) {
        runs.end(id, "failed", "The audit stopped: " + reason + ". It can go on where it was.");
        signals.send(Signals.Topic.RUNS);
      }
    } catch (AuditRuns.LeaseLost | DataAccessException | TransactionException late) {
      LOG.warn("that audit {} failed could not be noted", id);
    }
  }

  static String oneLine(Exception e) {
    String text = String.valueOf(e.getMessage()).replaceAll("\\s+", " ");
    return text.length() > 200 ? Texts.cut(text, 200) + "…" : text;
  }
}
