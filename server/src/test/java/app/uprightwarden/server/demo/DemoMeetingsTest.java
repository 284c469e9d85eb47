package app.uprightwarden.server.demo;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.util.Map;
import net.fortuna.ical4j.model.Recur;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The demo's meetings, on any day on which it is started. */
public class DemoMeetingsTest {
  @DataProvider
  public Object[][] days() {
    Object[][] days = new Object[40][];
    for (int i = 0; i < days.length; i++) {
      days[i] = new Object[] {LocalDate.of(2026, 2, 20).plusDays(i)};
    }
    return days;
  }

  /** What recurs begins on a date of its own rule, as ical4j reads it (RFC 5545). */
  @Test(dataProvider = "days")
  public void theFirstDateIsOneOfTheRule(LocalDate today) {
    int recurring = 0;
    for (Map<String, Object> meeting :
        new DemoMeetings(today, (edition, host, kind) -> Map.of()).all()) {
      Object rule = meeting.get("recurrence");
      if (rule == null) {
        continue;
      }
      recurring++;
      LocalDateTime start = LocalDateTime.parse(meeting.get("start").toString());
      Recur<LocalDateTime> recur =
          new Recur<>(rule.toString().replaceAll("UNTIL=\\w+", "COUNT=200"));
      assertEquals(
          recur.getNextDate(start, start.minusSeconds(1)), start, meeting.get("title").toString());
      assertTrue(start.isAfter(today.atStartOfDay()), meeting.get("title").toString());
    }
    assertTrue(recurring > 90, "only " + recurring + " recur");
  }
}
