package app.uprightwarden.server.calendars;

import static app.uprightwarden.server.calendars.CalendarReaderTest.calendar;
import static app.uprightwarden.server.calendars.CalendarReaderTest.event;
import static app.uprightwarden.server.calendars.CalendarReaderTest.one;
import static app.uprightwarden.server.calendars.CalendarReaderTest.read;
import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import java.util.TimeZone;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Rules of RFC 5545 that are easily got wrong, each with its clause. */
public class CalendarRulesTest {
  private static String zone(String id, String... parts) {
    return "BEGIN:VTIMEZONE\nTZID:" + id + "\n" + String.join("", parts) + "END:VTIMEZONE\n";
  }

  private static String part(String name, String start, String rule, String from, String to) {
    return "BEGIN:"
        + name
        + "\nDTSTART:"
        + start
        + (rule.isEmpty() ? "" : "\nRRULE:" + rule)
        + "\nTZOFFSETFROM:"
        + from
        + "\nTZOFFSETTO:"
        + to
        + "\nEND:"
        + name
        + "\n";
  }

  private static CalendarReader.Entry in(String zone, String id, String start) {
    return read(calendar(zone, event("UID:z", "DTSTART;TZID=\"" + id + "\":" + start, "SUMMARY:Z")))
        .entries()
        .get(0);
  }

  private static String zoneOf(CalendarReader.Entry entry) {
    return Objects.requireNonNull(entry.meeting()).meeting().zone().getId();
  }

  /**
   * Section 3.6.5. Office programs commonly begin their clocks in 1601, in January both; when they
   * change is in BYMONTH (common practice).
   */
  @Test
  public void aClockFrom1601ChangesWhenItsRuleSays() {
    String south =
        zone(
            "Our southern office",
            part(
                "STANDARD", "16010101T030000", "FREQ=YEARLY;BYDAY=1SU;BYMONTH=4", "+1100", "+1000"),
            part(
                "DAYLIGHT",
                "16010101T020000",
                "FREQ=YEARLY;BYDAY=1SU;BYMONTH=10",
                "+1000",
                "+1100"));
    CalendarReader.Entry entry = in(south, "Our southern office", "20270111T090000");
    ZoneId zone = ZoneId.of(zoneOf(entry));
    assertEquals(
        zone.getRules().getOffset(LocalDateTime.parse("2027-01-11T09:00")).getId(), "+11:00");
    assertEquals(
        zone.getRules().getOffset(LocalDateTime.parse("2027-07-11T09:00")).getId(), "+10:00");
  }

  /** A name nobody knows is found by its rules, over the years the event lives in. */
  @Test
  public void aClockIsHeldAgainstTheYearsOfItsEvent() {
    // Turkey changed its clock until 2016 and has kept +03:00 since
    String turkey =
        zone(
            "Local",
            part(
                "STANDARD",
                "20071028T040000",
                "FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10;UNTIL=20141026T010000Z",
                "+0300",
                "+0200"),
            part(
                "DAYLIGHT",
                "20070325T030000",
                "FREQ=YEARLY;BYDAY=-1SU;BYMONTH=3;UNTIL=20150329T010000Z",
                "+0200",
                "+0300"),
            part("STANDARD", "20151108T040000", "", "+0300", "+0200"),
            part("DAYLIGHT", "20160327T030000", "", "+0200", "+0300"));
    ZoneId read = ZoneId.of(zoneOf(in(turkey, "Local", "20270111T090000")));
    assertEquals(
        read.getRules().getOffset(LocalDateTime.parse("2027-01-11T09:00")).getId(), "+03:00");
  }

  /** The end of a name is no reason where the description says otherwise. */
  @Test
  public void aLikelyNameDoesNotCountAgainstTheRules() {
    String id = "/maker.example/Office/Europe/London";
    String plusFive = zone(id, part("STANDARD", "19700101T000000", "", "+0500", "+0500"));
    ZoneId read = ZoneId.of(zoneOf(in(plusFive, id, "20270111T090000")));
    assertEquals(
        read.getRules().getOffset(LocalDateTime.parse("2027-07-11T09:00")).getId(), "+05:00");
  }

  @Test
  public void aContradictionIsSaid() {
    String wrong = zone("Europe/London", part("STANDARD", "19700101T000000", "", "+0500", "+0500"));
    CalendarReader.Entry entry = in(wrong, "Europe/London", "20270111T090000");
    assertEquals(zoneOf(entry), "Europe/London");
    assertTrue(entry.notes().toString().contains("another clock"), entry.notes().toString());
  }

  /** Section 3.6.5: every zone there is can be described, and is found by what was described. */
  @Test
  public void everyZoneIsWrittenAndReadBack() {
    List<String> wrong = new ArrayList<>();
    int compared = 0;
    Set<String> all = new TreeSet<>(ZoneId.getAvailableZoneIds());
    // a library that other tests read calendars with adds names of its own, whose rules may go away
    all.retainAll(Set.of(TimeZone.getAvailableIDs()));
    for (String id : all) {
      ZoneId zone = ZoneId.of(id);
      ContentLines out = new ContentLines();
      ZoneText.write(out, zone, LocalDateTime.parse("2027-01-01T00:00"));
      CalendarText.Document document =
          CalendarText.read("BEGIN:VCALENDAR\r\n" + out + "END:VCALENDAR\r\n");
      DescribedClock clock = DescribedClock.of(document.zones().get(0), 2027, 2035);
      compared++;
      if (clock == null || !clock.agrees(zone)) {
        wrong.add(id);
      }
    }
    assertEquals(wrong, List.of());
    assertTrue(compared > 500, compared + " zones");
  }

  /** Section 3.3.6: a day is a day on the calendar, 24 hours are 24 hours. */
  @Test
  public void daysAreNominalAndHoursExact() {
    // the clock goes forward in the night to 28 March 2027
    String start = "DTSTART;TZID=Europe/Dublin:20270327T120000";
    assertEquals(one(calendar(event("UID:d", start, "DURATION:P1D"))).meeting().minutes(), 1380);
    assertEquals(one(calendar(event("UID:d", start, "DURATION:PT24H"))).meeting().minutes(), 1440);
    assertEquals(
        one(calendar(event("UID:d", "DTSTART;VALUE=DATE:20270327", "DURATION:P2D")))
            .meeting()
            .minutes(),
        2880);
  }

  /** Section 3.8.5.2 and 3.3.9: a period among the dates besides keeps its length. */
  @Test
  public void periodsKeepTheirLength() {
    Meeting meeting =
        one(calendar(
                event(
                    "UID:p",
                    "DTSTART:20270111T090000Z",
                    "DURATION:PT1H",
                    "RDATE;VALUE=PERIOD:20270112T090000Z/PT3H,20270113T090000Z/20270113T093000Z",
                    "SUMMARY:P")))
            .meeting();
    assertEquals(meeting.rDates().size(), 2);
    assertEquals(meeting.changes().stream().map(c -> c.minutes()).toList(), List.of(180, 30));
  }

  /** Section 3.3.12: the sixtieth second is a leap second. */
  @Test
  public void aLeapSecondIsNoFault() {
    assertEquals(
        one(calendar(event("UID:l", "DTSTART:20161231T235960Z", "DURATION:PT1H")))
            .meeting()
            .start(),
        LocalDateTime.parse("2016-12-31T23:59:59"));
  }

  private static final String[] WEEKLY = {
    "UID:w",
    "DTSTART;TZID=Europe/Dublin:20270111T090000",
    "DURATION:PT1H",
    "RRULE:FREQ=WEEKLY;COUNT=5",
    "SUMMARY:Weekly",
    "ATTENDEE:mailto:b@example.com"
  };

  private static String except(String id, String... lines) {
    String[] all = new String[lines.length + 2];
    all[0] = "UID:w";
    all[1] = id;
    System.arraycopy(lines, 0, all, 2, lines.length);
    return event(all);
  }

  /** Section 3.2.13: this and all later dates move by as much as this one does. */
  @Test
  public void thisAndFutureMovesAllLaterDates() {
    Meeting meeting =
        one(calendar(
                event(WEEKLY),
                except(
                    "RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Dublin:20270125T090000",
                    "DTSTART;TZID=Europe/Dublin:20270126T100000",
                    "DURATION:PT30M")))
            .meeting();
    assertEquals(
        meeting.changes().stream().map(c -> c.start()).toList(),
        List.of(
            LocalDateTime.parse("2027-01-26T10:00"),
            LocalDateTime.parse("2027-02-02T10:00"),
            LocalDateTime.parse("2027-02-09T10:00")));
    assertTrue(meeting.changes().stream().allMatch(c -> Integer.valueOf(30).equals(c.minutes())));
  }

  @Test
  public void anEndlessSeriesIsSplitThere() {
    String[] endless = WEEKLY.clone();
    endless[3] = "RRULE:FREQ=WEEKLY";
    List<CalendarReader.Entry> entries =
        read(calendar(
                event(endless),
                except(
                    "RECURRENCE-ID;RANGE=THISANDFUTURE;TZID=Europe/Dublin:20270125T090000",
                    "DTSTART;TZID=Europe/Dublin:20270125T140000")))
            .entries();
    assertEquals(entries.size(), 2, entries.toString());
    Meeting head = Objects.requireNonNull(entries.get(0).meeting()).meeting();
    Meeting tail = Objects.requireNonNull(entries.get(1).meeting()).meeting();
    assertEquals(head.recurrence(), "FREQ=WEEKLY;UNTIL=20270125T085959Z");
    assertEquals(tail.recurrence(), "FREQ=WEEKLY");
    assertEquals(tail.start(), LocalDateTime.parse("2027-01-25T14:00"));
    assertEquals(tail.title(), "Weekly");
  }

  @DataProvider
  public Object[][] differing() {
    return new Object[][] {
      {"ATTENDEE:mailto:stranger@elsewhere.example"},
      {"SUMMARY:Another title"},
      {"LOCATION:Somewhere else"},
      {"DESCRIPTION:Passcode: kelp-41"},
      {"CONFERENCE;VALUE=URI:https://meet.example/482119730?pwd=kelp-41"},
    };
  }

  /** What a date says of itself counts for it: it is judged as a meeting of its own. */
  @Test(dataProvider = "differing")
  public void aDateThatDiffersStandsForItself(String line) {
    String text =
        calendar(event(WEEKLY), except("RECURRENCE-ID;TZID=Europe/Dublin:20270118T090000", line));
    List<CalendarReader.Entry> entries = read(text).entries();
    assertEquals(entries.size(), 2, entries.toString());
    Meeting series = Objects.requireNonNull(entries.get(0).meeting()).meeting();
    Scheduled apart = Objects.requireNonNull(entries.get(1).meeting());
    assertEquals(series.exDates(), List.of(LocalDateTime.parse("2027-01-18T09:00")));
    assertEquals(apart.meeting().start(), LocalDateTime.parse("2027-01-18T09:00"));
    assertEquals(apart.meeting().minutes(), 60);
    assertNull(apart.meeting().recurrence());
    assertEquals(
        line.contains("kelp-41") ? "kelp-41" : "none",
        apart.passcode() == null ? "none" : apart.passcode());
    assertEquals(read(text).entries().get(1).meeting(), apart, "what is read twice is the same");
  }

  @Test
  public void aDateThatIsWrittenOutInFullIsNoOther() {
    Meeting meeting =
        one(calendar(
                event(WEEKLY),
                except(
                    "RECURRENCE-ID;TZID=Europe/Dublin:20270118T090000",
                    "SUMMARY:Weekly",
                    "ATTENDEE;PARTSTAT=ACCEPTED:MAILTO:B@example.com",
                    "DTSTART;TZID=Europe/Dublin:20270118T110000",
                    "DTEND;TZID=Europe/Dublin:20270118T120000")))
            .meeting();
    assertEquals(meeting.changes().size(), 1);
    assertNull(meeting.changes().get(0).minutes());
  }

  /** A date written on another clock than its series has its own length. */
  @Test
  public void aDateOnAnotherClockHasItsOwnLength() {
    Meeting meeting =
        one(calendar(
                event(WEEKLY),
                except(
                    "RECURRENCE-ID;TZID=Europe/Dublin:20270118T090000",
                    "DTSTART;TZID=America/New_York:20270118T040000",
                    "DTEND;TZID=Europe/Dublin:20270118T113000")))
            .meeting();
    assertNull(meeting.changes().get(0).start());
    assertEquals(meeting.changes().get(0).minutes(), Integer.valueOf(150));
  }

  /** RFC 6068 section 2: an address in a URI may be percent-encoded. */
  @Test
  public void addressesArePercentDecoded() {
    Meeting meeting =
        one(calendar(
                event(
                    "UID:a",
                    "DTSTART:20270111T090000Z",
                    "ORGANIZER:mailto:jo%2Bmeetings@example.com",
                    "ATTENDEE:MAILTO:o%27neill@example.com")))
            .meeting();
    assertEquals(meeting.host(), "jo+meetings@example.com");
    assertEquals(meeting.invitees().get(0).email(), "o'neill@example.com");
  }

  @Test
  public void whatIsLeftOutIsSaid() {
    CalendarReader.Entry entry =
        read(calendar(
                event(
                    "UID:a",
                    "DTSTART:20270111T090000Z",
                    "SUMMARY:A",
                    "ATTACH;ENCODING=BASE64;VALUE=BINARY:" + "QUJD".repeat(6000))))
            .entries()
            .get(0);
    assertTrue(entry.notes().toString().contains("attached"), entry.notes().toString());
  }
}
