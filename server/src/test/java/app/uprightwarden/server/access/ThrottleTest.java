package app.uprightwarden.server.access;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Guessing is slowed, and nobody can shut another out. */
public class ThrottleTest extends ServerTest {
  private static final String HOME = "10.0.0.1";
  private static final String OWNER = "a@x.example";

  @Autowired private JdbcClient jdbc;
  @Autowired private SignInFailureRepository failures;
  private Throttle throttle;
  private Instant now = Instant.parse("2027-01-11T09:00:00Z");

  private final Clock clock =
      new Clock() {
        @Override
        public ZoneId getZone() {
          return ZoneOffset.UTC;
        }

        @Override
        public Clock withZone(ZoneId zone) {
          return this;
        }

        @Override
        public Instant instant() {
          return now;
        }
      };

  @BeforeMethod
  public void fresh() {
    jdbc.sql("delete from sign_in_failure").update();
    throttle = new Throttle(failures, clock);
  }

  private Duration fails(int times, String email, String place) {
    Duration wait = Duration.ZERO;
    for (int i = 0; i < times; i++) {
      wait = throttle.take(email, place, false);
    }
    return wait;
  }

  @Test
  public void theFirstFewAreFreeAndThenTheWaitDoubles() {
    assertEquals(fails(Throttle.FREE_BOTH, OWNER, HOME), Duration.ZERO);
    assertEquals(throttle.take(OWNER, HOME, false), Duration.ofSeconds(2));
    now = now.plusSeconds(2);
    assertEquals(throttle.take(OWNER, HOME, false), Duration.ZERO, "one more may be tried");
    assertEquals(throttle.take(OWNER, HOME, false), Duration.ofSeconds(4));
    for (int i = 0; i < 20; i++) {
      now = now.plus(Duration.ofMinutes(16));
      throttle.take(OWNER, HOME, false);
    }
    assertEquals(throttle.take(OWNER, HOME, false), Duration.ofMinutes(15), "and no longer");
  }

  @Test
  public void beingRightClearsIt() {
    fails(Throttle.FREE_BOTH - 1, OWNER, HOME);
    throttle.take(OWNER, HOME, false);
    throttle.succeeded(OWNER, HOME, false);
    assertEquals(fails(Throttle.FREE_BOTH, OWNER, HOME), Duration.ZERO);
  }

  @Test
  public void aStrangerElsewhereShutsNobodyOut() {
    for (int i = 0; i < 60; i++) {
      throttle.take(OWNER, "192.0.2." + i, false);
    }
    assertTrue(
        throttle.take(OWNER, "198.51.100.7", false).toSeconds() > 0,
        "one more stranger has to wait");
    assertEquals(throttle.take(OWNER, HOME, true), Duration.ZERO, "the owner at home does not");
  }

  @Test
  public void onePasswordOnManyAddressesIsSlowedToo() {
    for (int i = 0; i < Throttle.FREE_PLACE; i++) {
      assertEquals(throttle.take(i + "@x.example", HOME, false), Duration.ZERO);
    }
    assertTrue(throttle.take("next@x.example", HOME, false).toSeconds() > 0);
    assertEquals(throttle.take("next@x.example", "10.0.0.2", false), Duration.ZERO);
  }

  @Test
  public void serversShareWhatTheyCounted() {
    fails(Throttle.FREE_BOTH, OWNER, HOME);
    assertTrue(new Throttle(failures, clock).take(OWNER, HOME, false).toSeconds() > 0);
  }

  @Test
  public void afterADayItIsForgotten() {
    fails(Throttle.FREE_BOTH + 3, OWNER, HOME);
    now = now.plus(Duration.ofHours(25));
    assertEquals(fails(Throttle.FREE_BOTH, OWNER, HOME), Duration.ZERO);
    throttle.forget();
    assertEquals(count(), 3, "what is fresh stays");
    now = now.plus(Duration.ofHours(25));
    throttle.forget();
    assertEquals(count(), 0);
  }

  private int count() {
    return jdbc.sql("select count(*) from sign_in_failure").query(Integer.class).single();
  }
}
