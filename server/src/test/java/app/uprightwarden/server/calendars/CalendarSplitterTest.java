package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** Calendars taken apart into their events. */
public class CalendarSplitterTest {
  private static String event(String uid, String stamp, String more) {
    return "BEGIN:VEVENT\nUID:" + uid + "\nDTSTAMP:" + stamp + "\n" + more + "END:VEVENT\n";
  }

  private static String calendar(String inside) {
    return "BEGIN:VCALENDAR\nVERSION:2.0\nMETHOD:PUBLISH\n" + inside + "END:VCALENDAR\n";
  }

  private static final String ZONES =
      """
      BEGIN:VTIMEZONE
      TZID:Here
      BEGIN:STANDARD
      DTSTART:19700101T000000
      TZOFFSETFROM:+0000
      TZOFFSETTO:+0000
      END:STANDARD
      END:VTIMEZONE
      BEGIN:VTIMEZONE
      TZID:There
      END:VTIMEZONE
      """;

  @Test
  public void anEventGoesWithItsExceptionsAndItsZoneAndNoOther() {
    String text =
        calendar(
            ZONES
                + event("a", "1", "DTSTART;TZID=Here:20270101T090000\n")
                + event("b", "1", "DTSTART:20270101T090000Z\n")
                + event("a", "1", "RECURRENCE-ID:20270108T090000\nSUMMARY:Another\n"));
    Map<String, CalendarSplitter.Part> parts = CalendarSplitter.split(text);
    assertEquals(List.copyOf(parts.keySet()), List.of("a", "b"));
    String a = parts.get("a").text();
    assertTrue(a.contains("RECURRENCE-ID") && a.contains("TZID:Here") && !a.contains("TZID:There"));
    assertTrue(a.startsWith("BEGIN:VCALENDAR") && a.contains("METHOD:PUBLISH"));
    assertFalse(parts.get("b").text().contains("VTIMEZONE"));
    assertEquals(CalendarText.read(a).events().size(), 2);
  }

  @Test
  public void theMarkChangesWithWhatItSaysAndNotWithWhenItWasWritten() {
    String before =
        CalendarSplitter.split(calendar(event("a", "1", "SUMMARY:A\n"))).get("a").mark();
    String later = CalendarSplitter.split(calendar(event("a", "2", "SUMMARY:A\n"))).get("a").mark();
    String other = CalendarSplitter.split(calendar(event("a", "1", "SUMMARY:B\n"))).get("a").mark();
    assertEquals(later, before);
    assertNotEquals(other, before);
  }

  /** Folding: RFC 5545 section 3.1. A reminder may have a UID of its own: RFC 9074 section 4. */
  @Test
  public void aNameMayBeFoldedAndAReminderHasItsOwn() {
    String text =
        calendar(
            """
            BEGIN:VEVENT
            BEGIN:VALARM
            UID:alarm
            END:VALARM
            UID:a-long
             -name
            DESCRIPTION:first
             UID:none
            END:VEVENT
            """);
    assertEquals(List.copyOf(CalendarSplitter.split(text).keySet()), List.of("a-long-name"));
  }

  @Test
  public void eventsWithoutANameAreToldApart() {
    String text =
        calendar("BEGIN:VEVENT\nSUMMARY:A\nEND:VEVENT\nBEGIN:VEVENT\nSUMMARY:B\nEND:VEVENT\n");
    assertEquals(CalendarSplitter.split(text).size(), 2);
    assertEquals(CalendarSplitter.split(text).keySet(), CalendarSplitter.split(text).keySet());
    assertTrue(CalendarSplitter.split("no calendar").isEmpty());
  }
}
