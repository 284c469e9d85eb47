package app.uprightwarden.server.remedies;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.ConferenceBridge;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.scheduling.Amendments;
import java.time.Duration;
import java.time.LocalDateTime;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.atomic.AtomicBoolean;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Carries remedies out, each in three steps: it is taken; the conference service is told, under a
 * number that is the same however often it is told; and the register is changed and the item marked
 * in one transaction. Stopped between any two, it is taken again and comes to the same end.
 */
@Component
class RemedyWork implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(RemedyWork.class);
  private static final Duration LEASE = Duration.ofSeconds(30);
  private static final Duration LONGEST_WAIT = Duration.ofMinutes(5);
  private static final int MAX_ATTEMPTS = 60;

  /** How long until it is looked whether a service has confirmed, where it says nothing. */
  private static final Duration LOOK = Duration.ofSeconds(30);

  private final RemedyJobs jobs;
  private final ConferenceBridge bridge;
  private final RegisterService register;
  private final Amendments amendments;
  private final RequestRows requests;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final Duration firstWait;
  private final AtomicBoolean isQueued = new AtomicBoolean();
  private final ExecutorService worker =
      Executors.newSingleThreadExecutor(task -> new Thread(task, "remedies"));

  RemedyWork(
      RemedyJobs jobs,
      ConferenceBridge bridge,
      RegisterService register,
      Amendments amendments,
      RequestRows requests,
      Signals signals,
      TransactionTemplate transaction,
      @org.springframework.beans.factory.annotation.Value("${warden.remedies.first-wait:2s}")
          Duration firstWait) {
    this.jobs = jobs;
    this.firstWait = firstWait;
    this.bridge = bridge;
    this.register = register;
    this.amendments = amendments;
    this.requests = requests;
    this.signals = signals;
    this.transaction = transaction;
  }

  @Override
  public void destroy() {
    worker.shutdownNow();
  }

  @Scheduled(fixedDelayString = "${warden.remedies.look:1s}", initialDelay = 2000)
  void poke() {
    if (isQueued.compareAndSet(false, true)) {
      try {
        worker.execute(
            () -> {
              isQueued.set(false);
              go();
            });
      } catch (RejectedExecutionException e) {
        isQueued.set(false); // the server is going down
      }
    }
  }

  private void go() {
    try {
      while (!Thread.currentThread().isInterrupted()) {
        Optional<RemedyJobs.Work> next = jobs.take(LEASE);
        if (next.isEmpty()) {
          return;
        }
        one(next.get());
      }
    } catch (DataAccessException | TransactionException e) {
      LOG.warn(
          "remedies wait for the database: {}",
          String.valueOf(e.getMessage()).lines().findFirst().orElse(""));
    }
  }

  private void one(RemedyJobs.Work work) {
    RemedyJobs.RemedyItem item = work.item();
    try {
      if (item.state().equals("confirming")) {
        confirm(item);
        return;
      }
      String obstacle = obstacle(work);
      if (obstacle != null) {
        jobs.ended(item.id(), obstacle.isEmpty() ? "gone" : "overtaken", obstacle);
      } else {
        tell(work);
      }
    } catch (SessionHolder.Away e) {
      away(item, String.valueOf(e.getMessage()));
    } catch (ProblemException e) {
      jobs.ended(item.id(), "refused", String.valueOf(e.getMessage()));
    } catch (DataAccessException | TransactionException e) {
      throw e; // of the database, not of this item
    } catch (RuntimeException e) {
      LOG.error("remedy item {} fails", item.id(), e);
      away(item, "the server could not do it; its log says why"); // the others go on
    }
    signals.send(Signals.Topic.REMEDIES);
  }

  private void away(RemedyJobs.RemedyItem item, String why) {
    int attempts = item.attempts() % 1000;
    if (attempts >= MAX_ATTEMPTS) {
      jobs.ended(item.id(), "given-up", why);
      return;
    }
    Duration wait = firstWait.multipliedBy(1L << Math.min(attempts, 12));
    jobs.again(item.id(), wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait, why);
  }

  /** Why it cannot be done any more: empty where the meeting is gone, null where nothing is. */
  private @Nullable String obstacle(RemedyJobs.Work work) {
    StoredMeeting stored = register.find(work.item().meeting()).orElse(null);
    if (stored == null) {
      return "";
    }
    ControlValues now = values(stored.meeting(), work.item().occurrence());
    for (Map.Entry<String, RemedyPlan.PlanStep> step : work.item().plan().changes().entrySet()) {
      Control control = Objects.requireNonNull(Control.byId(step.getKey()));
      if (control == Control.PASSCODE_LENGTH || control == Control.PASSCODE_MAKEUP) {
        continue; // read off the passcode, which the meeting's own values say nothing of
      }
      Value value = now.get(control);
      Object from = step.getValue().from();
      Value expected = from == null ? null : control.parse(from);
      if (!Objects.equals(value, expected)) {
        return "somebody set "
            + control.id()
            + " to "
            + (value == null ? "nothing" : control.label(value))
            + " meanwhile";
      }
    }
    return null;
  }

  private static ControlValues values(Meeting meeting, String occurrence) {
    if (occurrence.isEmpty()) {
      return meeting.controls();
    }
    LocalDateTime at = LocalDateTime.parse(occurrence);
    return meeting.changes().stream()
        .filter(change -> change.at().equals(at))
        .map(OccurrenceChange::controls)
        .findFirst()
        .map(over -> meeting.controls().overlaid(over))
        .orElse(meeting.controls());
  }

  /** Whether the service that holds the meeting has done it by now. */
  private void confirm(RemedyJobs.RemedyItem item) {
    HeldMeeting held = register.find(item.meeting()).map(StoredMeeting::service).orElse(null);
    if (held == null) {
      jobs.ended(item.id(), "gone", "the meeting was cancelled meanwhile");
    } else {
      switch (held.writing()) {
        case WAITING, SENT -> jobs.notYet(item.id(), LOOK);
        case CONFIRMED, NONE -> jobs.confirmed(item.id());
        case KEPT ->
            jobs.ended(item.id(), "refused", held.service().name() + " is not linked for writing");
        default ->
            jobs.ended(
                item.id(), "refused", Objects.requireNonNullElse(held.why(), "it was refused"));
      }
    }
    signals.send(Signals.Topic.REMEDIES);
  }

  private void tell(RemedyJobs.Work work) throws SessionHolder.Away {
    RemedyJobs.RemedyItem item = work.item();
    boolean isHeld = register.find(item.meeting()).map(StoredMeeting::service).isPresent();
    if (isHeld) {
      transaction.executeWithoutResult(status -> store(item.id()));
      return;
    }
    Map<String, @Nullable Object> controls = new LinkedHashMap<>();
    item.plan().changes().forEach((control, step) -> controls.put(control, step.to()));
    Wire.Answered answer =
        bridge.change(
            new ConferenceBridge.Command(
                "remedy-" + item.id() + "-" + item.attempts() / 1000,
                item.meeting(),
                item.occurrence(),
                controls,
                item.plan().newPasscode(),
                item.plan().newNumber()));
    if (!answer.done()) {
      jobs.ended(item.id(), "refused", answer.reason());
      return;
    }
    transaction.executeWithoutResult(status -> store(item.id()));
  }

  private void store(long id) {
    RemedyJobs.Work work = jobs.sending(id).orElse(null);
    if (work == null) {
      return; // somebody else came to the end of it
    }
    RemedyJobs.RemedyItem item = work.item();
    if (register.find(item.meeting()).isEmpty()) {
      jobs.ended(id, "gone", "the meeting was cancelled meanwhile");
      return;
    }
    Map<Control, @Nullable Value> controls = new EnumMap<>(Control.class);
    item.plan()
        .changes()
        .forEach(
            (name, step) -> {
              Control control = Objects.requireNonNull(Control.byId(name));
              controls.put(control, step.to() == null ? null : control.parse(step.to()));
            });
    Amendments.Amended amended =
        amendments.amend(
            item.meeting(),
            new Amendments.Amendment(
                item.occurrence(),
                controls,
                item.plan().newPasscode(),
                item.plan().newNumber(),
                work.backTo()),
            work.backTo() == null ? "remedied" : "undone",
            work.what(),
            work.by());
    // where this undoes a remedy, what that had answered is a question again
    requests.reopen(item.meeting(), item.occurrence(), id);
    boolean isHeld = register.find(item.meeting()).map(StoredMeeting::service).isPresent();
    if (isHeld) {
      jobs.confirming(id, amended.was(), amended.now(), amended.sent(), LOOK);
    } else {
      jobs.done(id, amended.was(), amended.now(), amended.sent());
    }
  }
}
