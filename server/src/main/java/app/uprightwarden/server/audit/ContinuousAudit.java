package app.uprightwarden.server.audit;

import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Optional;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Service;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * The audit that is always current: it looks at a meeting as soon as that is saved or imported, and
 * goes through everything when the edition in force or the directory changes, and once a day.
 */
@Service
public class ContinuousAudit implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(ContinuousAudit.class);
  private static final Duration WINDOW = Duration.ofDays(90);
  private static final Duration RENEWED = Duration.ofHours(24);
  private static final Duration HELD = Duration.ofSeconds(8);
  private static final long POLL_MILLIS = 1000;

  /** A stopped server left a way through everything half done. */
  private static final String HALF_DONE = "half-done";

  private static final int AT_ONCE = 200;

  private final AuditRuns runs;
  private final AuditWriter writer;
  private final PassWork passes;
  private final ChangeWork changes;
  private final RulebookService rulebook;
  private final SettingsService settings;
  private final Clock clock;
  private final ScheduledExecutorService worker =
      Executors.newSingleThreadScheduledExecutor(task -> new Thread(task, "standing-audit"));
  private Instant heldSince = Instant.MIN;
  private Instant passedAt = Instant.EPOCH;
  private boolean isAway;
  private volatile boolean isBegun;
  private @Nullable Renewal renewal;

  ContinuousAudit(
      AuditRuns runs,
      AuditWriter writer,
      PassWork passes,
      ChangeWork changes,
      RulebookService rulebook,
      SettingsService settings,
      Clock clock) {
    this.runs = runs;
    this.writer = writer;
    this.passes = passes;
    this.changes = changes;
    this.rulebook = rulebook;
    this.settings = settings;
    this.clock = clock;
  }

  /** What it goes by at a time. */
  private record Ground(int edition, long directory) {}

  private record Renewal(Ground ground, Pass pass) {}

  @EventListener(ApplicationReadyEvent.class)
  void begin() {
    isBegun = true;
    var unused = worker.scheduleWithFixedDelay(this::tick, 0, POLL_MILLIS, TimeUnit.MILLISECONDS);
  }

  /** Looks at everything that waits to be looked at, before this returns. For a demo's past. */
  public void lookNow() {
    look();
    forget();
  }

  /** Waits for no poll where the change was made here. */
  @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
  void changed(RegisterChanges.SomethingDue due) {
    if (isBegun && !worker.isShutdown()) {
      worker.execute(this::tick);
    }
  }

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

  /** The standing audit's number, or empty before there is any edition. */
  public Optional<AuditRun> now() {
    return runs.standing();
  }

  private void tick() {
    try {
      look();
      isAway = false;
    } catch (AuditRuns.LeaseLost e) {
      forget();
    } catch (DataAccessException | TransactionException e) {
      if (!isAway) {
        LOG.warn("the standing audit waits for the database: {}", AuditService.oneLine(e));
      }
      isAway = true;
      forget();
    } catch (RuntimeException e) {
      LOG.error("the standing audit stumbled", e);
      forget();
    }
  }

  /** What was remembered may rest on what was never committed. */
  private void forget() {
    renewal = null;
    heldSince = Instant.MIN;
  }

  private synchronized void look() {
    int edition = rulebook.inForce().number();
    Instant now = clock.instant();
    if (edition == 0) {
      while (changes.isAnythingDue() && changes.judgeLines(now, now.plus(WINDOW))) {
        // some at a time
      }
      return;
    }
    long id = id(edition);
    if (now.isAfter(heldSince.plus(HELD))) {
      if (!runs.takeStanding(id)) {
        forget();
        return;
      }
      heldSince = now;
    }
    Ground ground = new Ground(edition, settings.directoryRevision());
    AuditRuns.Known known = runs.known(id);
    String cause = causeOfRenewal(known, ground, now);
    if (cause != null && cause.equals(HALF_DONE)) {
      renewal = new Renewal(ground, passes.resume(id, known, now));
      LOG.info("the standing audit goes on where it was");
    } else if (cause != null) {
      beginRenewal(id, known, ground, cause, now);
    } else if (changes.isMuchDue()) {
      if (!changes.isMostDue()) {
        changes.refreshAlone(id, writer.auditor(edition, now, now.plus(WINDOW)));
      }
      beginRenewal(id, known, ground, "change", now);
    } else {
      lookAtChanges(id, ground, now);
      letTimePass(id, ground, now);
    }
    while (renewal != null && !Thread.currentThread().isInterrupted()) {
      Renewal current = renewal;
      // what changes meanwhile does not wait for the end
      if (passes.page(
          id, current.pass(), () -> lookAtChanges(id, current.ground(), clock.instant()))) {
        renewal = null;
        LOG.info("the standing audit has gone through everything");
      }
      lookAtChanges(id, current.ground(), clock.instant());
      Ground present = new Ground(rulebook.inForce().number(), settings.directoryRevision());
      if (present.edition() != current.ground().edition()) {
        return; // the next look begins again
      }
      if (renewal != null && !present.equals(current.ground())) {
        // people change all day where there are many: beginning again would never come to an end.
        // What was looked at already is gone through once more after this.
        passes.lookAnew(current.pass());
        renewal = new Renewal(present, current.pass());
      }
    }
  }

  /** Why everything is to be gone through again, or null where it is not. */
  private @Nullable String causeOfRenewal(AuditRuns.Known known, Ground ground, Instant now) {
    if (known.edition() != ground.edition()) {
      return "edition";
    }
    if (known.directory() == null || known.directory() != ground.directory()) {
      return "directory";
    }
    if (known.renewedAt() == null) {
      return renewal != null ? null : known.cursor() > 0 ? HALF_DONE : "change";
    }
    return known.renewedAt().isBefore(now.minus(RENEWED)) ? "time" : null;
  }

  private void beginRenewal(
      long id, AuditRuns.Known known, Ground ground, String cause, Instant now) {
    Instant to = now.plus(WINDOW);
    String told = known.directory() == null ? Pass.FIRST : cause;
    passes.renew(id, ground.edition(), ground.directory(), now, to, told);
    renewal = new Renewal(ground, passes.begin(id, ground.edition(), told, now, to));
  }

  /** What changed goes first, also between two steps of this. */
  private void letTimePass(long id, Ground ground, Instant now) {
    if (now.isBefore(passedAt.plus(HELD))) {
      return;
    }
    passedAt = now;
    MeetingAuditor auditor = writer.auditor(ground.edition(), now, now.plus(WINDOW));
    CrossMeetingRecheck.Keys between = new CrossMeetingRecheck.Keys();
    Optional<CrossMeetingRecheck.Keys> some = changes.passTime(id, auditor, now);
    while (some.isPresent() && !Thread.currentThread().isInterrupted()) {
      between.addAll(some.get());
      lookAtChanges(id, ground, clock.instant());
      some = changes.passTime(id, auditor, now);
    }
    for (CrossMeetingRecheck.Keys one : between.apart()) {
      if (Thread.currentThread().isInterrupted()) {
        return; // it is found when everything is gone through
      }
      changes.passTimeBetween(id, auditor, one);
      lookAtChanges(id, ground, clock.instant());
    }
  }

  /**
   * Looks at what changed. Waivers come and go too, so that an auditor is good for one round; the
   * round is cheap to prepare beside what it looks at. Where more comes than can be looked at one
   * by one, as while a service is read for the first time, it ends: everything is gone through
   * sooner.
   */
  private void lookAtChanges(long id, Ground ground, Instant now) {
    while (changes.isAnythingDue()
        && !changes.isMuchDue()
        && !Thread.currentThread().isInterrupted()) {
      changes.refresh(
          id,
          writer.auditor(ground.edition(), now, now.plus(WINDOW)),
          AT_ONCE,
          renewal == null ? null : renewal.pass());
    }
  }

  private long id(int edition) {
    return runs.standing()
        .map(AuditRun::id)
        .orElseGet(
            () -> {
              Instant now = clock.instant();
              return runs.create(
                  new AuditRuns.Wanted(
                      "standing",
                      AuditScope.ALL,
                      edition,
                      now,
                      now.plus(WINDOW),
                      "upright-warden",
                      now,
                      0,
                      null),
                  "standing");
            });
  }
}
