package app.uprightwarden.server.alerting;

import static org.testng.Assert.assertEquals;

import java.time.Duration;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** When nobody is told but of the gravest. The cases are ours. */
public class QuietHoursTest {
  private static final ZoneId DUBLIN = ZoneId.of("Europe/Dublin");

  @DataProvider
  public Object[][] cases() {
    return new Object[][] {
      // over midnight, in winter, when Dublin has the universal time
      {"22:00", "07:00", "2026-12-01T21:59:00Z", 0},
      {"22:00", "07:00", "2026-12-01T22:00:00Z", 9 * 60},
      {"22:00", "07:00", "2026-12-02T06:59:00Z", 1},
      {"22:00", "07:00", "2026-12-02T07:00:00Z", 0},
      // within a day, in summer, an hour ahead
      {"12:00", "13:30", "2026-07-01T11:00:00Z", 90},
      {"12:00", "13:30", "2026-07-01T12:29:00Z", 1},
      {"12:00", "13:30", "2026-07-01T12:30:00Z", 0},
      // the night in which the clock is put back is an hour longer
      {"22:00", "07:00", "2026-10-24T21:00:00Z", 10 * 60},
    };
  }

  @Test(dataProvider = "cases")
  public void theyGoOnUntilTheirEnd(String from, String to, String now, int minutes) {
    QuietHours quiet = new QuietHours(LocalTime.parse(from), LocalTime.parse(to), DUBLIN);
    assertEquals(quiet.left(Instant.parse(now)), Duration.ofMinutes(minutes));
  }
}
