package app.uprightwarden.server.jobs;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.server.ServerTest;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.TestConfiguration;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Import;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.IllegalTransactionStateException;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Work in the background: each item once where it goes well, and again where it does not. */
@Import(JobsTest.Kinds.class)
@DirtiesContext
@TestPropertySource(properties = {"test.schema=warden_jobs", "warden.jobs.poll=50ms"})
public class JobsTest extends ServerTest {
  private static final Map<String, AtomicInteger> DONE = new ConcurrentHashMap<>();
  private static final Map<String, String> BROKEN = new ConcurrentHashMap<>();
  private static final AtomicBoolean RECURRING_BROKEN = new AtomicBoolean();
  private static final CountDownLatch LET_GO = new CountDownLatch(1);

  @Autowired private Jobs jobs;
  @Autowired private JdbcClient jdbc;
  @Autowired private TransactionTemplate transaction;

  /** Work for these tests. */
  @TestConfiguration
  static class Kinds {
    private static final JobKind.Retries THREE =
        new JobKind.Retries(3, Duration.ofMillis(50), Duration.ofSeconds(1));

    @Bean
    JobKind testWork() {
      return new JobKind("test", "a test", JobKind.Lane.HOUSE, THREE, JobsTest::work)
          .named(id -> "number " + id)
          .telling(JobsTest::failed, id -> count(id + " again"));
    }

    @Bean
    JobKind slowWork() {
      return new JobKind("slow", "a slow one", JobKind.Lane.OUTWARD, THREE, id -> waits());
    }

    @Bean
    RecurringJob testRecurring() {
      return new RecurringJob(
          "test-again",
          "a test again and again",
          Duration.ofMillis(50),
          () -> {
            count("recurring");
            if (RECURRING_BROKEN.get()) {
              throw new IllegalStateException("does not recur");
            }
          });
    }
  }

  private static void waits() {
    try {
      assertTrue(LET_GO.await(60, TimeUnit.SECONDS));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private static void failed(String id, String why) {
    count(id + " failed");
    if (id.equals("untold")) {
      throw new IllegalStateException("nobody can be told");
    }
  }

  private static void work(String id) {
    count(id);
    switch (BROKEN.getOrDefault(id, "")) {
      case "" -> {}
      case "later" -> {
        if (done(id) < 5) {
          throw new JobKind.Later(Duration.ofMillis(20));
        }
      }
      case "goes on" -> {
        if (done(id) % 3 == 0) {
          throw new IllegalStateException("now and then");
        }
        throw JobKind.Later.goingOn(Duration.ofMillis(20));
      }
      case "refused" -> throw new JobKind.Refused("nobody is called that");
      default -> throw new IllegalStateException(BROKEN.get(id));
    }
  }

  private static void count(String id) {
    DONE.computeIfAbsent(id, i -> new AtomicInteger()).incrementAndGet();
  }

  private static int done(String id) {
    AtomicInteger done = DONE.get(id);
    return done == null ? 0 : done.get();
  }

  private void give(String kind, String... items) {
    transaction.executeWithoutResult(status -> jobs.give(kind, List.of(items)));
  }

  private boolean isStored(String item) {
    return jdbc.sql("select count(*) from job where task_instance = ?")
            .param(item)
            .query(Integer.class)
            .single()
        > 0;
  }

  private JsonNode inTrouble(String item) {
    return get(AUDITOR, "/api/service/work")
        .is(200)
        .json()
        .get("items")
        .valueStream()
        .filter(job -> job.get("item").stringValue().equals(item))
        .findFirst()
        .orElse(json.nullNode());
  }

  @Test
  public void whatFailsIsTriedAgainThenFailedAndSomebodyCanHaveItTriedOnceMore() {
    BROKEN.put("fails", "the paper is out");
    give("test", "fails", "goes well");
    until("the other was done", () -> done("goes well") == 1 && !isStored("goes well"));
    until("it failed", () -> inTrouble("fails").path("failed").asBoolean(false));
    assertEquals(done("fails"), 3);
    JsonNode shown = inTrouble("fails");
    assertEquals(shown.get("title").stringValue(), "a test: number fails");
    assertEquals(shown.get("reason").stringValue(), "the paper is out");
    assertEquals(shown.get("tries").intValue(), 3);
    assertTrue(shown.get("next").isNull());
    assertEquals(done("fails failed"), 1);

    post(WARDEN, "/api/service/work/test/fails/again", null).is(204);
    until("it failed again", () -> done("fails failed") == 2);
    until("it is shown", () -> inTrouble("fails").path("failed").asBoolean(false));
    assertEquals(done("fails"), 6);
    assertEquals(done("fails again"), 1);
    BROKEN.remove("fails");
    post(WARDEN, "/api/service/work/test/fails/again", null).is(204);
    until("it is done", () -> !isStored("fails"));
    assertEquals(done("fails"), 7);
    assertTrue(inTrouble("fails").isNull());
    post(WARDEN, "/api/service/work/test/fails/again", null).is(409);
  }

  @Test
  public void whatAnotherTryWouldNotHelpFailsAtOnceAndCanBeGivenUp() {
    BROKEN.put("refused", "refused");
    give("test", "refused");
    until("it failed", () -> inTrouble("refused").path("failed").asBoolean(false));
    assertEquals(done("refused"), 1);
    send(AUDITOR, "DELETE", "/api/service/work/test/refused", null).is(403);
    send(WARDEN, "DELETE", "/api/service/work/test/refused", null).is(204);
    assertTrue(!isStored("refused"));
    send(WARDEN, "DELETE", "/api/service/work/test/refused", null).is(409);
  }

  @Test
  public void whatFailsIsOverWhereNobodyCanBeToldToo() {
    BROKEN.put("untold", "refused");
    give("test", "untold");
    until("it failed", () -> inTrouble("untold").path("failed").asBoolean(false));
    assertEquals(done("untold"), 1);
    assertEquals(done("untold failed"), 1);
  }

  @Test
  public void whatIsNotToBeDoneYetCountsAsNoTry() {
    BROKEN.put("later", "later");
    give("test", "later");
    until("it is done", () -> !isStored("later"));
    assertEquals(done("later"), 5);
    assertEquals(done("later failed"), 0);
  }

  /** Three tries are all it has, so its third failure would be its last. */
  @Test
  public void whatGoesOnForeverForgetsWhatFailedOnce() {
    BROKEN.put("goes on", "goes on");
    give("test", "goes on");
    until("it failed now and then", () -> done("goes on") > 12);
    assertEquals(done("goes on failed"), 0);
    BROKEN.put("goes on", "");
    until("it is done", () -> !isStored("goes on"));
  }

  @Test
  public void workIsGivenInATransactionAndWithIt() {
    expectThrows(
        IllegalTransactionStateException.class, () -> jobs.give("test", List.of("nowhere")));
    transaction.executeWithoutResult(
        status -> {
          jobs.give("test", List.of("taken back"));
          status.setRollbackOnly();
        });
    transaction.executeWithoutResult(
        status -> {
          jobs.give("test", List.of("twice", "once"));
          jobs.give("test", List.of("twice"));
        });
    until("both are done", () -> done("twice") == 1 && done("once") == 1);
    until("both are gone", () -> !isStored("twice") && !isStored("once"));
    assertEquals(done("twice"), 1);
    assertEquals(done("taken back"), 0);
  }

  /**
   * One of the two cannot see yet what the other gave: it reads as of its transaction's beginning.
   */
  @Test
  public void theSameGivenByTwoAtOnceWaitsOnce() {
    BROKEN.put("by two", "goes on");
    transaction.executeWithoutResult(
        status -> {
          assertFalse(isStored("by two"));
          CompletableFuture.runAsync(() -> give("test", "by two")).join();
          assertFalse(isStored("by two"), "not to be seen from here");
          jobs.give("test", List.of("by two"));
        });
    until("it is done again and again", () -> done("by two") > 2);
    BROKEN.put("by two", "");
    until("it is done", () -> !isStored("by two"));
  }

  @Test
  public void whatAServerLeftThatIsGoneIsDoneByAnother() {
    jdbc.sql(
            "insert into job (task_name, task_instance, execution_time, picked, picked_by,"
                + " last_heartbeat, lane) values ('test', 'left', utc_timestamp(6), true,"
                + " 'house-gone', utc_timestamp(6) - interval 1 minute, 'house')")
        .update();
    jdbc.sql(
            "insert into job (task_name, task_instance, execution_time, picked, picked_by,"
                + " last_heartbeat, lane) values ('test', 'in hand', utc_timestamp(6), true,"
                + " 'house-other', utc_timestamp(6) + interval 1 hour, 'house')")
        .update();
    until("it is done", () -> done("left") == 1 && !isStored("left"));
    assertEquals(done("in hand"), 0, "somebody else has it in hand");
    jdbc.sql("delete from job where task_instance = 'in hand'").update();
  }

  @Test
  public void oneLaneDoesNotWaitForAnother() {
    give("slow", "s-1", "s-2", "s-3", "s-4", "s-5", "s-6");
    give("test", "beside");
    until("it is done", () -> done("beside") == 1);
    assertTrue(isStored("s-6"), "all the other lane's threads still wait");
    LET_GO.countDown();
    until("they are done", () -> !isStored("s-6") && !isStored("s-1"));
  }

  @Test
  public void whatRecursIsNeverGivenUp() {
    until("it recurs", () -> done("recurring") > 1);
    RECURRING_BROKEN.set(true);
    until("it is in trouble", () -> inTrouble("recurring").path("tries").asInt(0) > 2);
    JsonNode shown = inTrouble("recurring");
    assertEquals(shown.get("title").stringValue(), "a test again and again");
    assertEquals(shown.get("reason").stringValue(), "does not recur");
    assertTrue(!shown.get("failed").booleanValue() && !shown.get("next").isNull());
    RECURRING_BROKEN.set(false);
    until("it is well again", () -> inTrouble("recurring").isNull());
  }

  @Test
  public void workOfAKindThatIsNotKnownIsLeftToWhoKnowsIt() {
    jdbc.sql(
            "insert into job (task_name, task_instance, execution_time) values ('newer', 'n-1',"
                + " utc_timestamp(6))")
        .update();
    give("test", "after a newer one");
    until("it is done", () -> done("after a newer one") == 1);
    assertTrue(isStored("n-1"));
    jdbc.sql("delete from job where task_instance = 'n-1'").update();
  }
}
