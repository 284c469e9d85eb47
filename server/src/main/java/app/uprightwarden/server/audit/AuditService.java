package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;

/**
 * Runs audits, one after the other, in the background. A run goes on where it was after it was
 * cancelled, after the database was away, and after the server was stopped in the middle of it.
 */
@Service
public class AuditService implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(AuditService.class);
  private static final Duration LONGEST_WINDOW = Duration.ofDays(366);
  private static final int MOST_TRIES = 60;

  private final AuditRuns runs;
  private final RunWork work;
  private final RegisterService register;
  private final RulebookService rulebook;
  private final Signals signals;
  private final ApplicationEventPublisher events;
  private final Clock clock;
  private final AtomicBoolean isQueued = new AtomicBoolean();
  private final ExecutorService worker =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "audit"));

  AuditService(
      AuditRuns runs,
      RunWork work,
      RegisterService register,
      RulebookService rulebook,
      Signals signals,
      ApplicationEventPublisher events,
      Clock clock) {
    this.runs = runs;
    this.work = work;
    this.register = register;
    this.rulebook = rulebook;
    this.signals = signals;
    this.events = events;
    this.clock = clock;
  }

  /** Said when a run has come to its end. */
  public record AuditDone(AuditRun run) {}

  @Override
  public void destroy() {
    worker.shutdownNow();
    try {
      if (!worker.awaitTermination(5, TimeUnit.SECONDS)) {
        LOG.info("an audit is left in the middle of a step; it is done again elsewhere");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

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
    long id = runs.create(wanted, "waiting");
    signals.send(Signals.Topic.RUNS);
    poke();
    return runs.get(id);
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
    work();
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
    runs.resume(id);
    signals.send(Signals.Topic.RUNS);
    poke();
    return runs.get(id);
  }

  /** Looks for runs that nobody works on: new ones, and those a stopped server left behind. */
  @Scheduled(fixedDelay = 2000, initialDelay = 1000)
  void poke() {
    if (isQueued.compareAndSet(false, true)) {
      try {
        worker.execute(
            () -> {
              isQueued.set(false);
              work();
            });
      } catch (RejectedExecutionException e) {
        isQueued.set(false); // the server is going down
      }
    }
  }

  private synchronized void work() {
    int tries = 0;
    while (!Thread.currentThread().isInterrupted()) {
      long id = -1;
      try {
        Optional<Long> next = runs.take();
        if (next.isEmpty()) {
          return;
        }
        id = next.get();
        work.go(id);
        tries = 0;
        signals.send(Signals.Topic.RUNS);
        events.publishEvent(new AuditDone(runs.get(id)));
      } catch (AuditRuns.LeaseLost e) {
        LOG.info("audit {} goes on elsewhere, or was cancelled", id);
      } catch (DataAccessException | TransactionException e) {
        tries++;
        LOG.warn("audit {} is interrupted: {}", id < 0 ? "" : id, oneLine(e));
        if (tries > MOST_TRIES) {
          fail(id, e);
          tries = 0;
        } else if (!pause(tries)) {
          return;
        }
      } catch (RuntimeException e) {
        LOG.error("audit {} failed", id, e);
        fail(id, e);
      }
    }
  }

  private void fail(long id, RuntimeException e) {
    if (id < 0) {
      return;
    }
    try {
      String reason =
          e instanceof IllegalArgumentException ? String.valueOf(e.getMessage()) : "a fault here";
      runs.end(id, "failed", "The audit stopped: " + reason + ". It can go on where it was.");
      signals.send(Signals.Topic.RUNS);
    } catch (AuditRuns.LeaseLost | DataAccessException | TransactionException late) {
      LOG.warn("that audit {} failed could not be noted", id);
    }
  }

  /** A moment longer each time, so that a database that comes back is not trampled. */
  private static boolean pause(int tries) {
    try {
      Thread.sleep(Math.min(5000, 250L * tries));
      return true;
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return false;
    }
  }

  static String oneLine(Exception e) {
    String text = String.valueOf(e.getMessage()).replaceAll("\\s+", " ");
    return text.length() > 200 ? Texts.cut(text, 200) + "…" : text;
  }
}
