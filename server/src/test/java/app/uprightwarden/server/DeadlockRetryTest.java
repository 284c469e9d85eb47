package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;

import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.dao.CannotAcquireLockException;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** A transaction that the database takes back for another's sake is done again, as a whole. */
public class DeadlockRetryTest extends ServerTest {
  @Autowired private TwoRowsForTests rows;
  @Autowired private TransactionTemplate transaction;

  @BeforeMethod
  public void anew() {
    rows.make();
  }

  /** Both lock their first row, meet, and want the other's: one of them must give way. */
  private void meet(Runnable one, Runnable other) throws Exception {
    ExecutorService two = Executors.newFixedThreadPool(2);
    try {
      Future<?> first = two.submit(one);
      Future<?> second = two.submit(other);
      first.get();
      second.get();
    } finally {
      two.shutdownNow();
    }
    assertEquals(rows.tries(), 3, "one of the two was tried again");
    assertEquals(rows.sum(), 4, "each was done once");
  }

  @Test
  public void whatAnAnnotationAsksFor() throws Exception {
    CyclicBarrier both = new CyclicBarrier(2);
    meet(() -> rows.add(1, 2, both), () -> rows.add(2, 1, both));
  }

  @Test
  public void whatCodeAsksFor() throws Exception {
    CyclicBarrier both = new CyclicBarrier(2);
    meet(
        () -> transaction.executeWithoutResult(status -> rows.lock(1, 2, both)),
        () -> transaction.executeWithoutResult(status -> rows.lock(2, 1, both)));
  }

  @Test
  public void onlyTheOutermostIsTriedAgainAndNotForEver() {
    AtomicInteger tries = new AtomicInteger();
    assertThrows(
        CannotAcquireLockException.class,
        () ->
            transaction.executeWithoutResult(
                outer ->
                    transaction.executeWithoutResult(
                        inner -> {
                          tries.incrementAndGet();
                          throw new CannotAcquireLockException("for ever");
                        })));
    assertEquals(tries.get(), 6);
  }
}
