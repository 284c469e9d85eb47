package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.people.Organisation;
import java.time.Instant;
import java.time.ZoneId;
import java.util.List;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;

/** When a calendar's owner has no time. */
public class BusyReaderTest extends ServerTest {
  private static final ZoneId DUBLIN = ZoneId.of("Europe/Dublin");

  @Autowired private BusyReader reader;

  private List<String> read(String inside, String from, String to) {
    String text = "BEGIN:VCALENDAR\nVERSION:2.0\n" + inside + "END:VCALENDAR\n";
    return reader
        .read(text, DUBLIN, Organisation.EMPTY, Instant.parse(from), Instant.parse(to))
        .stream()
        .map(each -> each.start() + "/" + each.end())
        .toList();
  }

  /** RFC 5545 section 3.6.4, its third example: a published calendar's busy time. */
  @Test
  public void thePeriodsOfTheStandardsExample() {
    String busy =
        """
        BEGIN:VFREEBUSY
        UID:19970901T115957Z-76A912@example.com
        DTSTAMP:19970901T120000Z
        ORGANIZER:jsmith@example.com
        DTSTART:19980313T141711Z
        DTEND:19980410T141711Z
        FREEBUSY:19980314T233000Z/19980315T003000Z
        FREEBUSY:19980316T153000Z/19980316T163000Z
        FREEBUSY:19980318T030000Z/19980318T040000Z
        URL:http://www.example.com/calendar/busytime/jsmith.ifb
        END:VFREEBUSY
        """;
    assertEquals(
        read(busy, "1998-03-13T00:00:00Z", "1998-04-11T00:00:00Z"),
        List.of(
            "1998-03-14T23:30:00Z/1998-03-15T00:30:00Z",
            "1998-03-16T15:30:00Z/1998-03-16T16:30:00Z",
            "1998-03-18T03:00:00Z/1998-03-18T04:00:00Z"));
  }

  /** RFC 5545 section 3.8.2.6: the examples of the property FREEBUSY. */
  @Test
  public void whatIsFreeTakesUpNoTimeAndPeriodsMayHaveALength() {
    String busy =
        """
        BEGIN:VFREEBUSY
        FREEBUSY;FBTYPE=BUSY-UNAVAILABLE:19970308T160000Z/PT8H30M
        FREEBUSY;FBTYPE=FREE:19970308T160000Z/PT3H,19970308T200000Z/PT1H
        FREEBUSY:nonsense
        END:VFREEBUSY
        """;
    assertEquals(
        read(busy, "1997-03-08T00:00:00Z", "1997-03-10T00:00:00Z"),
        List.of("1997-03-08T16:00:00Z/1997-03-09T00:30:00Z"));
  }

  /** RFC 5545 sections 3.8.2.7 and 3.8.1.11. */
  @Test
  public void eventsTakeUpTheirTimeUnlessTransparentOrCancelled() {
    String events =
        """
        BEGIN:VEVENT
        UID:a
        DTSTART;TZID=Europe/Dublin:20270601T090000
        DURATION:PT1H
        RRULE:FREQ=DAILY;COUNT=2
        END:VEVENT
        BEGIN:VEVENT
        UID:b
        DTSTART:20270601T120000Z
        DURATION:PT1H
        TRANSP:TRANSPARENT
        END:VEVENT
        BEGIN:VEVENT
        UID:c
        DTSTART:20270601T130000Z
        DURATION:PT1H
        STATUS:CANCELLED
        END:VEVENT
        """;
    assertEquals(
        read(events, "2027-06-01T00:00:00Z", "2027-06-10T00:00:00Z"),
        List.of(
            "2027-06-01T08:00:00Z/2027-06-01T09:00:00Z",
            "2027-06-02T08:00:00Z/2027-06-02T09:00:00Z"));
  }
}
