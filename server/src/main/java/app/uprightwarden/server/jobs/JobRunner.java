package app.uprightwarden.server.jobs;

import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.Texts;
import com.github.kagkarlsson.scheduler.Scheduler;
import com.github.kagkarlsson.scheduler.SchedulerName;
import com.github.kagkarlsson.scheduler.event.AbstractSchedulerListener;
import com.github.kagkarlsson.scheduler.event.SchedulerListener;
import com.github.kagkarlsson.scheduler.jdbc.MariaDBJdbcCustomization;
import com.github.kagkarlsson.scheduler.logging.LogLevel;
import com.github.kagkarlsson.scheduler.task.ExecutionComplete;
import com.github.kagkarlsson.scheduler.task.ExecutionContext;
import com.github.kagkarlsson.scheduler.task.ExecutionOperations;
import com.github.kagkarlsson.scheduler.task.helper.OneTimeTask;
import com.github.kagkarlsson.scheduler.task.helper.RecurringTask;
import com.github.kagkarlsson.scheduler.task.helper.Tasks;
import com.github.kagkarlsson.scheduler.task.schedule.FixedDelay;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Executors;
import javax.sql.DataSource;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.concurrent.CustomizableThreadFactory;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/** Does the work, by db-scheduler: a lane has threads of its own, and each server all lanes. */
@Component
class JobRunner implements DisposableBean {
  private static final Logger LOG = LoggerFactory.getLogger(JobRunner.class);

  /** Of a server that has missed so many heartbeats another takes the work. */
  private static final int MISSED = 4;

  private static final Duration STOPPING = Duration.ofSeconds(5);
  private static final Duration LONGEST_PAUSE = Duration.ofMinutes(10);
  private static final Duration QUIET = Duration.ofMinutes(1);

  private final DataSource database;
  private final JobRepository rows;
  private final ObjectProvider<JobKind> kinds;
  private final ObjectProvider<RecurringJob> recurring;
  private final DatabaseClock clock;
  private final Duration poll;
  private final Duration heartbeat;
  private final Map<JobKind.Lane, Scheduler> lanes = new EnumMap<>(JobKind.Lane.class);
  private volatile Compared compared = new Compared(Instant.EPOCH, 0);
  private volatile long loggedAt = System.nanoTime() - QUIET.toNanos();

  JobRunner(
      DataSource database,
      JobRepository rows,
      ObjectProvider<JobKind> kinds,
      ObjectProvider<RecurringJob> recurring,
      DatabaseClock clock,
      @Value("${warden.jobs.poll:1s}") Duration poll,
      @Value("${warden.jobs.heartbeat:5s}") Duration heartbeat) {
    this.database = database;
    this.rows = rows;
    this.kinds = kinds;
    this.recurring = recurring;
    this.clock = clock;
    this.poll = poll;
    this.heartbeat = heartbeat;
  }

  @EventListener(ApplicationReadyEvent.class)
  synchronized void start() {
    compareClocks();
    for (JobKind.Lane lane : JobKind.Lane.values()) {
      lanes.put(lane, scheduler(lane));
    }
    lanes.values().forEach(Scheduler::start);
  }

  @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
  void given(Jobs.Given given) {
    Scheduler scheduler = lanes.get(given.lane());
    if (scheduler != null) {
      scheduler.triggerCheckForDueExecutions();
    }
  }

  @Override
  public synchronized void destroy() {
    lanes.values().parallelStream().forEach(scheduler -> scheduler.stop());
  }

  /** What the database's clock said at a time. */
  private record Compared(Instant database, long nanos) {}

  /** Work is due by the database's clock: servers' own may differ. */
  private Instant now() {
    Compared last = compared;
    return last.database().plusNanos(System.nanoTime() - last.nanos());
  }

  private void compareClocks() {
    compared = new Compared(clock.instant(), System.nanoTime());
  }

  private Scheduler scheduler(JobKind.Lane lane) {
    List<OneTimeTask<Void>> items = new ArrayList<>();
    kinds.stream().filter(kind -> kind.lane() == lane).forEach(kind -> items.add(task(kind)));
    List<RecurringTask<Void>> again = new ArrayList<>();
    if (lane == JobKind.Lane.HOUSE) {
      recurring.forEach(job -> again.add(task(job)));
      again.add(
          Tasks.recurring("clock", FixedDelay.of(Duration.ofMinutes(5)))
              .execute((instance, context) -> compareClocks()));
    }
    return Scheduler.create(database, List.copyOf(items))
        .startTasks(again)
        .tableName("job_" + lane.id())
        .schedulerName(new SchedulerName.Fixed(lane.id() + "-" + UUID.randomUUID()))
        .threads(lane.threads())
        .executorService(
            Executors.newFixedThreadPool(
                lane.threads(), new CustomizableThreadFactory("work-" + lane.id() + "-")))
        .pollingInterval(poll)
        .pollUsingFetch(0.5, 3.0)
        .heartbeatInterval(heartbeat)
        .missedHeartbeatsLimit(MISSED)
        .shutdownMaxWait(STOPPING)
        .jdbcCustomization(new MariaDBJdbcCustomization(true))
        .clock(this::now)
        // an older server beside this one may not know all kinds yet
        .deleteUnresolvedAfter(Duration.ofDays(3650))
        .failureLogging(LogLevel.OFF, false)
        .addSchedulerListener(new Listener())
        .build();
  }

  private OneTimeTask<Void> task(JobKind kind) {
    return Tasks.oneTime(kind.name())
        .onFailure((done, operations) -> failed(kind, done, operations))
        .onDeadExecutionRevive()
        .execute((instance, context) -> kind.work().accept(instance.getId()));
  }

  /** What failed is tried again after a pause, or kept as failed. */
  private void failed(JobKind kind, ExecutionComplete done, ExecutionOperations<Void> operations) {
    String item = done.getExecution().taskInstance.getId();
    Throwable why = done.getCause().orElse(null);
    if (why instanceof JobKind.Later later) {
      if (later.goesOn()) {
        rows.mended(kind.name(), item);
      }
      operations.reschedule(done, now().plus(later.pause()));
      return;
    }
    int tries = rows.find(kind.name(), item).map(row -> row.tries).orElse(0) + 1;
    String reason = reason(why);
    rows.note(kind.name(), item, tries, reason);
    boolean isOver = why instanceof JobKind.Refused || tries >= kind.retries().most();
    if (isOver) {
      LOG.warn("{} {} failed: {}", kind.title(), kind.item().apply(item), reason, unexpected(why));
      tell(kind, item, reason);
      operations.reschedule(done, Jobs.NEVER);
    } else {
      LOG.info("{} {} is tried again: {}", kind.title(), item, reason);
      operations.reschedule(done, now().plus(kind.retries().after(tries)));
    }
  }

  /** What goes wrong in telling does not have the work tried for ever. */
  private static void tell(JobKind kind, String item, String reason) {
    try {
      kind.whenFailed().accept(item, reason);
    } catch (RuntimeException e) {
      LOG.error("that {} {} failed could not be told", kind.title(), item, e);
    }
  }

  private RecurringTask<Void> task(RecurringJob job) {
    return Tasks.recurring(job.name(), FixedDelay.of(job.every()))
        .onFailure((done, operations) -> failed(job, done, operations))
        .onDeadExecutionRevive()
        .execute(
            (instance, context) -> {
              job.work().run();
              mended(job.name(), instance.getId(), context);
            });
  }

  private void mended(String name, String item, ExecutionContext context) {
    Integer failures = context.getExecution().consecutiveFailures;
    if (failures > 0) {
      rows.mended(name, item);
    }
  }

  /** What recurs is never given up. */
  private void failed(
      RecurringJob job, ExecutionComplete done, ExecutionOperations<Void> operations) {
    int tries = done.getExecution().consecutiveFailures + 1;
    Throwable why = done.getCause().orElse(null);
    rows.note(job.name(), done.getExecution().taskInstance.getId(), tries, reason(why));
    if (tries == 1) {
      LOG.warn("{} is tried again: {}", job.title(), reason(why), unexpected(why));
    }
    Duration pause = new JobKind.Retries(1, job.every(), LONGEST_PAUSE).after(tries);
    operations.reschedule(done, now().plus(pause));
  }

  private static @Nullable Throwable unexpected(@Nullable Throwable why) {
    return why instanceof DataAccessException
            || why instanceof TransactionException
            || why instanceof JobKind.Refused
        ? null
        : why;
  }

  private static String reason(@Nullable Throwable why) {
    if (why == null) {
      return "stopped in the middle";
    }
    String said = why.getMessage();
    return Texts.oneLine(said == null ? why.getClass().getSimpleName() : said, 500);
  }

  /** Where the database is away, the scheduler says so at every look; here once a minute. */
  private final class Listener extends AbstractSchedulerListener {
    @Override
    public void onSchedulerEvent(SchedulerListener.SchedulerEventType type) {
      if (type == SchedulerListener.SchedulerEventType.UNEXPECTED_ERROR
          && System.nanoTime() - loggedAt > QUIET.toNanos()) {
        loggedAt = System.nanoTime();
        LOG.warn("work in the background waits for the database");
      }
    }
  }
}
