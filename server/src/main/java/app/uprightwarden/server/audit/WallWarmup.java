package app.uprightwarden.server.audit;

import java.util.concurrent.locks.LockSupport;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;

/**
 * Reads the wall's first page a few times after the start, so that the first person who asks for it
 * does not wait for classes to be loaded and for the database to fetch its pages.
 */
@Component
class WallWarmup {
  private static final Logger LOG = LoggerFactory.getLogger(WallWarmup.class);
  private static final int LOOKS = 5;
  private static final int PAGE = 200;
  private static final long PAUSE_NANOS = 100_000_000;
  private static final Wall.WallFilter EVERYTHING =
      new Wall.WallFilter(
          "open", null, null, null, null, null, null, null, null, null, null, null, null);

  private final AuditRuns runs;
  private final Wall wall;

  WallWarmup(AuditRuns runs, Wall wall) {
    this.runs = runs;
    this.wall = wall;
  }

  @EventListener(ApplicationReadyEvent.class)
  void ready() {
    Thread thread = new Thread(this::look, "wall-warmup");
    thread.setDaemon(true);
    thread.start();
  }

  private void look() {
    try {
      for (int i = 0; i < LOOKS; i++) {
        Long base = runs.baseline().map(AuditRun::id).orElse(null);
        runs.standing().ifPresent(run -> wall.page(run.id(), base, EVERYTHING, 0, PAGE));
        LockSupport.parkNanos(PAUSE_NANOS);
      }
    } catch (DataAccessException | TransactionException e) {
      LOG.debug("there is no first look while the database is away");
    }
  }
}
