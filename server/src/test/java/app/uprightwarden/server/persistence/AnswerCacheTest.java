package app.uprightwarden.server.persistence;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;

import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.concurrent.atomic.AtomicLong;
import org.testng.annotations.Test;

public class AnswerCacheTest {
  private final AtomicLong now = new AtomicLong();
  private final AtomicInteger made = new AtomicInteger();

  private AnswerCache<String, Integer> cache() {
    made.set(0);
    return new AnswerCache<>(now::get);
  }

  /** Takes ten nanoseconds by the test's clock. */
  private int make() {
    now.addAndGet(10);
    return made.incrementAndGet();
  }

  @Test
  public void anAnswerIsGoodForThreeTimesWhatItTook() {
    AnswerCache<String, Integer> cache = cache();
    assertEquals(cache.get("a", this::make).intValue(), 1);
    now.addAndGet(29);
    assertEquals(cache.get("a", this::make).intValue(), 1);
    now.addAndGet(2);
    assertEquals(cache.get("a", this::make).intValue(), 2);
    assertEquals(cache.get("b", this::make).intValue(), 3, "another question");
  }

  @Test
  public void whatFailsIsAskedAgain() {
    AnswerCache<String, Integer> cache = cache();
    assertThrows(
        IllegalStateException.class,
        () ->
            cache.get(
                "a",
                () -> {
                  throw new IllegalStateException("no");
                }));
    assertEquals(cache.get("a", this::make).intValue(), 1);
  }

  @Test
  public void ofManyAtOnceOneMakesIt() throws Exception {
    AnswerCache<String, Integer> cache = cache();
    CyclicBarrier all = new CyclicBarrier(4);
    ExecutorService threads = Executors.newFixedThreadPool(4);
    try {
      Callable<Integer> asks =
          () -> {
            all.await();
            return cache.get("a", this::make);
          };
      for (Future<Integer> each : threads.invokeAll(java.util.Collections.nCopies(4, asks))) {
        assertEquals(each.get().intValue(), 1);
      }
    } finally {
      threads.shutdownNow();
    }
  }
}
