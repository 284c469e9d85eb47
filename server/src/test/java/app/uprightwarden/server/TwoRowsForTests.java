package app.uprightwarden.server;

import java.util.concurrent.BrokenBarrierException;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** Two rows, and transactions that lock them one after the other. */
@Component
public class TwoRowsForTests {
  private final JdbcClient jdbc;
  private final AtomicInteger tries = new AtomicInteger();

  TwoRowsForTests(JdbcClient jdbc) {
    this.jdbc = jdbc;
  }

  public void make() {
    jdbc.sql("create table if not exists two_rows (id int primary key, n int not null)").update();
    jdbc.sql("replace into two_rows values (1, 0), (2, 0)").update();
    tries.set(0);
  }

  public int tries() {
    return tries.get();
  }

  public int sum() {
    return jdbc.sql("select sum(n) from two_rows").query(Integer.class).single();
  }

  /** Adds one to both; with the first lock in hand it waits for the other at the barrier. */
  @Transactional
  public void add(int first, int second, CyclicBarrier meet) {
    lock(first, second, meet);
  }

  public void lock(int first, int second, CyclicBarrier meet) {
    int tried = tries.incrementAndGet();
    jdbc.sql("update two_rows set n = n + 1 where id = ?").param(first).update();
    if (tried <= 2) {
      try {
        meet.await(20, TimeUnit.SECONDS);
      } catch (InterruptedException | BrokenBarrierException | TimeoutException e) {
        throw new IllegalStateException(e);
      }
    }
    jdbc.sql("update two_rows set n = n + 1 where id = ?").param(second).update();
  }
}
