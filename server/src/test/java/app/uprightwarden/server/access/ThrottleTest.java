package app.uprightwarden.server.access;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import org.testng.annotations.Test;

/** Guessing is slowed, and nobody can shut another out. */
public class ThrottleTest {
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

  private Throttle failed(int times) {
    Throttle throttle = new Throttle(clock);
    for (int i = 0; i < times; i++) {
      throttle.failed("a@x.example", "10.0.0.1");
    }
    return throttle;
  }

  @Test
  public void fourAreFreeAndThenEachDoubles() {
    assertEquals(failed(4).waitFor("a@x.example", "10.0.0.1"), Duration.ZERO);
    assertEquals(failed(5).waitFor("a@x.example", "10.0.0.1"), Duration.ofSeconds(2));
    assertEquals(failed(6).waitFor("a@x.example", "10.0.0.1"), Duration.ofSeconds(4));
    assertEquals(failed(7).waitFor("a@x.example", "10.0.0.1"), Duration.ofSeconds(8));
  }

  @Test
  public void theWaitPassesAndIsNeverLongerThanAQuarterOfAnHour() {
    Throttle throttle = failed(500);
    Duration wait = throttle.waitFor("a@x.example", "10.0.0.1");
    assertEquals(wait, Duration.ofMinutes(15));
    now = now.plus(wait);
    assertEquals(throttle.waitFor("a@x.example", "10.0.0.1"), Duration.ZERO);
  }

  @Test
  public void fromElsewhereTheSamePersonIsNotShutOut() {
    Throttle throttle = failed(50);
    assertEquals(throttle.waitFor("a@x.example", "10.0.0.2"), Duration.ZERO);
    assertEquals(throttle.waitFor("b@x.example", "10.0.0.1"), Duration.ZERO);
  }

  @Test
  public void aRightPasswordForgetsTheWrongOnes() {
    Throttle throttle = failed(6);
    assertTrue(throttle.waitFor("a@x.example", "10.0.0.1").compareTo(Duration.ZERO) > 0);
    throttle.succeeded("a@x.example", "10.0.0.1");
    assertEquals(throttle.waitFor("a@x.example", "10.0.0.1"), Duration.ZERO);
  }

  @Test
  public void aTokenIsKeptAsItsDigestOnly() {
    // FIPS 180-4's example: SHA-256 of "abc"
    assertEquals(
        AccessHash.sha256("abc"),
        "ba7816bf8f01cfea414140de5dae2223b00361a396177a9cb410ff61f20015ad");
  }
}
