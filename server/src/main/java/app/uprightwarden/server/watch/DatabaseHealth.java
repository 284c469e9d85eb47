package app.uprightwarden.server.watch;

import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.springframework.beans.factory.DisposableBean;
import org.springframework.boot.health.contributor.Health;
import org.springframework.boot.health.contributor.HealthIndicator;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * Whether the database answers, said within two seconds whatever it does: one that hangs, or a pool
 * that is spent, is as good as away.
 */
@Component("database")
class DatabaseHealth implements HealthIndicator, DisposableBean {
  private static final long PATIENCE_MILLIS = 2000;

  private final JdbcClient jdbc;
  private final ExecutorService asking =
      Executors.newFixedThreadPool(
          2,
          runnable -> {
            Thread thread = new Thread(runnable, "database-health");
            thread.setDaemon(true);
            return thread;
          });

  DatabaseHealth(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  @Override
  public Health health() {
    Future<Integer> answer =
        asking.submit(() -> jdbc.sql("select 1").query(Integer.class).single());
    try {
      answer.get(PATIENCE_MILLIS, TimeUnit.MILLISECONDS);
      return Health.up().build();
    } catch (TimeoutException e) {
      answer.cancel(true);
      return Health.down().withDetail("why", "it does not answer in time").build();
    } catch (ExecutionException e) {
      return Health.down().withDetail("why", "it does not answer").build();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      return Health.down().build();
    }
  }

  @Override
  public void destroy() {
    asking.shutdownNow();
  }
}
