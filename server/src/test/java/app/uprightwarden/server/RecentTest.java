package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;

import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.atomic.AtomicLong;
import org.testng.annotations.Test;

/** What is remembered, for how long, and for whom. */
public class RecentTest {
  private final AtomicLong now = new AtomicLong();
  private final Recent<String, Long> recent = new Recent<>(now::get);

  private long ask(String key, long takes) {
    return recent.get(key, () -> now.addAndGet(takes));
  }

  @Test
  public void itIsGoodForThreeTimesWhatItTook() {
    long first = ask("a", 100);
    now.addAndGet(299);
    assertEquals(ask("a", 100), first);
    now.addAndGet(1);
    assertEquals(ask("a", 7), first + 300 + 7, "made anew");
    now.addAndGet(21);
    assertEquals(ask("a", 1), first + 300 + 7 + 21 + 1, "what was quick is soon made again");
  }

  @Test
  public void oneKeyIsNotAnother() {
    long first = ask("b", 1000);
    assertEquals(ask("c", 1000), first + 1000);
    assertEquals(ask("b", 1000), first);
  }

  @Test
  public void whatFailsIsNotRemembered() {
    assertThrows(
        IllegalStateException.class,
        () ->
            recent.get(
                "d",
                () -> {
                  throw new IllegalStateException("not this time");
                }));
    assertEquals(ask("d", 5), now.get());
  }

  @Test
  public void whileOneMakesItTheOthersHaveTheLast()
      throws InterruptedException, ExecutionException {
    long last = ask("e", 10);
    now.addAndGet(1000);
    CountDownLatch begun = new CountDownLatch(1);
    CountDownLatch go = new CountDownLatch(1);
    ExecutorService other = Executors.newSingleThreadExecutor();
    try {
      Future<Long> slow =
          other.submit(
              () ->
                  recent.get(
                      "e",
                      () -> {
                        begun.countDown();
                        awaited(go);
                        return -1L;
                      }));
      begun.await();
      assertEquals(ask("e", 10), last);
      go.countDown();
      assertEquals(slow.get(), -1L);
    } finally {
      go.countDown();
      other.shutdown();
    }
  }

  private static void awaited(CountDownLatch latch) {
    try {
      latch.await();
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }
}
