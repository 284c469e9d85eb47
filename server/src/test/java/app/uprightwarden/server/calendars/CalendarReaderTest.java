package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.Scheduled;
import com.ibm.icu.util.TimeZone;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Calendars of any making read as meetings, and what is wrong with them told. */
public class CalendarReaderTest {
  private static final ZoneId DUBLIN = ZoneId.of("Europe/Dublin");
  static final Organisation HARBOUR =
      new Organisation(
          "Harbour",
          List.of("saltmarsh.example"),
          List.of(),
          new Organisation.Plan(100, 240),
          List.of(),
          List.of(new Organisation.Kind("hearing", "Public hearing", false)),
          List.of(),
          List.of(new Organisation.Gathering("crew", "Night crew", List.of())),
          List.of(new Organisation.Room("loft", "Sail loft", "loft@saltmarsh.example", 12)));

  /** One meeting is known, by its name in calendars alone. */
  private static final CalendarReader.Known KNOWN =
      new CalendarReader.Known() {
        @Override
        public Scheduled byUid(String uid) {
          return uid.equals("known@x")
              ? one(calendar(event("UID:other", "DTSTART:20270111T090000Z", "X-WARDEN-ID:m-7")))
              : null;
        }

        @Override
        public Scheduled byId(String id) {
          return null;
        }
      };

  static CalendarReader.Reading read(String text) {
    return read(text, KNOWN);
  }

  static CalendarReader.Reading read(String text, CalendarReader.Known known) {
    return new CalendarReader()
        .read(
            text.replace("\n", "\r\n"),
            new CalendarReader.Defaults(DUBLIN, "host@saltmarsh.example", HARBOUR, known),
            (p, t, d, h) -> PasscodeJudge.judge(p, t, d, h, "print-" + p));
  }

  static String calendar(String... events) {
    return "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//t//EN\n"
        + String.join("", events)
        + "END:VCALENDAR\n";
  }

  static String event(String... lines) {
    return "BEGIN:VEVENT\n" + String.join("\n", lines) + "\nEND:VEVENT\n";
  }

  static Scheduled one(String text) {
    CalendarReader.Reading reading = read(text);
    assertEquals(reading.entries().size(), 1, reading.toString());
    assertNull(reading.entries().get(0).refused());
    return Objects.requireNonNull(reading.entries().get(0).meeting());
  }

  /** RFC 5545 section 3.6.1: the first three examples of VEVENT, as printed there. */
  @Test
  public void theStandardsOwnEvents() {
    Meeting review =
        one(calendar(
                event(
                    "UID:19970901T130000Z-123401@example.com",
                    "DTSTAMP:19970901T130000Z",
                    "DTSTART:19970903T163000Z",
                    "DTEND:19970903T190000Z",
                    "SUMMARY:Annual Employee Review",
                    "CLASS:PRIVATE",
                    "CATEGORIES:BUSINESS,HUMAN RESOURCES")))
            .meeting();
    assertEquals(review.title(), "Annual Employee Review");
    assertEquals(review.start(), LocalDateTime.parse("1997-09-03T16:30"));
    assertEquals(review.zone().getId(), "UTC");
    assertEquals(review.minutes(), 150);
    Scheduled anniversary =
        one(
            calendar(
                event(
                    "UID:19970901T130000Z-123403@example.com",
                    "DTSTAMP:19970901T130000Z",
                    "DTSTART;VALUE=DATE:19971102",
                    "SUMMARY:Our Blissful Anniversary",
                    "TRANSP:TRANSPARENT",
                    "CLASS:CONFIDENTIAL",
                    "CATEGORIES:ANNIVERSARY,PERSONAL,SPECIAL OCCASION",
                    "RRULE:FREQ=YEARLY")));
    assertTrue(anniversary.details().wholeDay());
    assertEquals(anniversary.meeting().minutes(), 1440);
    assertEquals(anniversary.meeting().recurrence(), "FREQ=YEARLY");
    assertTrue(anniversary.details().foreign().contains("TRANSP:TRANSPARENT"), "survives");
    Scheduled festival =
        one(
            calendar(
                event(
                    "UID:20070423T123432Z-541111@example.com",
                    "DTSTAMP:20070423T123432Z",
                    "DTSTART;VALUE=DATE:20070628",
                    "DTEND;VALUE=DATE:20070709",
                    "SUMMARY:Festival International de Jazz de Montreal",
                    "TRANSP:TRANSPARENT")));
    assertEquals(festival.meeting().minutes(), 11 * 1440);
  }

  /** RFC 5545 section 3.1: the folded DESCRIPTION, as printed there, and folded inside a word. */
  @Test
  public void foldedLinesAreOneLine() {
    String text =
        calendar(
            event(
                "UID:fold@x",
                "DTSTART:20270111T090000Z",
                "SUMMARY:Fold",
                "DESCRIPTION:This is a lo",
                " ng description",
                "  that exists on a long line."));
    assertEquals(
        one(text).meeting().description(),
        "This is a long description that exists on a long line.");
  }

  /** RFC 5545 section 3.8.4.1 and 3.2.16: roles and kinds of attendees. */
  @Test
  public void whoTakesPart() {
    Scheduled read =
        one(
            calendar(
                event(
                    "UID:who@x",
                    "DTSTART;TZID=Europe/Dublin:20270111T090000",
                    "DURATION:PT1H",
                    "SUMMARY:Who",
                    "ORGANIZER;CN=\"Okafor, Moira\":MAILTO:m.okafor@saltmarsh.example",
                    "ATTENDEE;ROLE=REQ-PARTICIPANT:mailto:a@saltmarsh.example",
                    "ATTENDEE;ROLE=OPT-PARTICIPANT:mailto:b@elsewhere.example",
                    "ATTENDEE;CUTYPE=GROUP;CN=Night crew:mailto:nightcrew@saltmarsh.example",
                    "ATTENDEE;CUTYPE=ROOM:mailto:Loft@saltmarsh.example",
                    "ATTENDEE:mailto:M.Okafor@saltmarsh.example",
                    "ATTENDEE;CN=<script>alert(1)</script>:mailto:c@elsewhere.example")));
    Meeting meeting = read.meeting();
    assertEquals(meeting.host(), "m.okafor@saltmarsh.example");
    assertEquals(
        meeting.invitees(),
        List.of(
            new Invitee("a@saltmarsh.example", Invitee.Need.REQUIRED),
            new Invitee("b@elsewhere.example", Invitee.Need.OPTIONAL),
            new Invitee("c@elsewhere.example", Invitee.Need.REQUIRED)));
    assertEquals(meeting.lists(), List.of("crew"));
    assertEquals(read.details().room(), "loft");
    assertTrue(meeting.controls().asMap().isEmpty(), "a calendar evidences no control by itself");
  }

  @Test
  public void exceptionsToASeries() {
    Meeting meeting =
        one(calendar(
                event(
                    "UID:series@x",
                    "DTSTART;TZID=Europe/Dublin:20270111T090000",
                    "DTEND;TZID=Europe/Dublin:20270111T100000",
                    "RRULE:FREQ=WEEKLY;COUNT=6",
                    "EXDATE;TZID=Europe/Dublin:20270118T090000",
                    "EXDATE:20270125T090000Z",
                    "RDATE;TZID=Europe/Dublin;VALUE=PERIOD:20270120T140000/PT1H",
                    "SUMMARY:Series"),
                event(
                    "UID:series@x",
                    "RECURRENCE-ID;TZID=Europe/Dublin:20270201T090000",
                    "DTSTART;TZID=Europe/Dublin:20270202T110000",
                    "DURATION:PT30M",
                    "SUMMARY:Series"),
                event(
                    "UID:series@x",
                    "RECURRENCE-ID:20270208T090000Z",
                    "STATUS:CANCELLED",
                    "SUMMARY:Series")))
            .meeting();
    assertEquals(
        meeting.exDates(),
        List.of(
            LocalDateTime.parse("2027-01-18T09:00"),
            LocalDateTime.parse("2027-01-25T09:00"),
            LocalDateTime.parse("2027-02-08T09:00")));
    assertEquals(meeting.rDates(), List.of(LocalDateTime.parse("2027-01-20T14:00")));
    assertEquals(meeting.changes().size(), 1);
    assertEquals(meeting.changes().get(0).at(), LocalDateTime.parse("2027-02-01T09:00"));
    assertEquals(meeting.changes().get(0).start(), LocalDateTime.parse("2027-02-02T11:00"));
    assertEquals(meeting.changes().get(0).minutes(), Integer.valueOf(30));
  }

  @Test
  public void passcodesAndLinksInADescriptionAreRecognised() {
    Scheduled read =
        one(
            calendar(
                event(
                    "UID:secret@x",
                    "DTSTART:20270111T090000Z",
                    "DURATION:PT1H",
                    "SUMMARY:Secret",
                    "CLASS:PUBLIC",
                    "DESCRIPTION:Join at https://meet.saltmarsh.example/482119730?pwd=kelp%2DRudder"
                        + "-41\\nMeeting number: 482 119 730\\nPasscode: kelp-Rudder-41.")));
    assertEquals(read.passcode(), "kelp-Rudder-41");
    assertEquals(read.meeting().number(), "482 119 730");
    assertTrue(Objects.requireNonNull(read.meeting().passcode()).leaked());
    assertEquals(
        read.meeting().controls().asMap().keySet(),
        java.util.EnumSet.of(
            Control.PASSCODE, Control.PASSCODE_IN_LINK, Control.PASSCODE_IN_MAIL, Control.LISTING));
    assertTrue(read.meeting().controls().is(Control.PASSCODE_IN_LINK, "embedded"));
  }

  @DataProvider
  public Object[][] refused() {
    String start = "DTSTART:20270111T090000Z";
    return new Object[][] {
      {event("UID:a", "SUMMARY:A"), "no DTSTART"},
      {event("UID:a", "DTSTART:20270231T090000Z", "SUMMARY:A"), "is no date or time"},
      {event("UID:a", start, "DTEND:20270111T080000Z", "SUMMARY:A"), "ends before it begins"},
      {event("UID:a", start, "RRULE:FREQ=SOMETIMES", "SUMMARY:A"), "not a recurrence rule"},
      {event("UID:a", start, "RRULE:FREQ=MINUTELY", "SUMMARY:A"), "recurs more than 20000 times"},
      {event("UID:a", start, "RRULE:FREQ=DAILY;COUNT=1000000", "SUMMARY:A"), "20000 are the most"},
      {event("UID:a", start, "RRULE:FREQ=DAILY", "RRULE:FREQ=WEEKLY", "SUMMARY:A"), "split it"},
      {event("UID:a", "DTSTART;TZID=Atlantis/Main:20270111T090000", "SUMMARY:A"), "not known"},
      {event("UID:a", start, "STATUS:CANCELLED", "SUMMARY:A"), "cancelled there"},
      {event("UID:a", start, "DURATION:P200D", "SUMMARY:A"), "are the most"},
      {
        event("UID:a", start, "SUMMARY:A", "RRULE:FREQ=WEEKLY;BYDAY=MO")
            + event(
                "UID:a",
                "RECURRENCE-ID;RANGE=THISANDFUTURE:20270118T090000Z",
                "DTSTART:20270119T090000Z",
                "SUMMARY:A"),
        "split the series"
      },
    };
  }

  @Test(dataProvider = "refused")
  public void whatCannotBeAMeetingIsRefusedWithItsLine(String event, String words) {
    CalendarReader.Reading reading =
        read(calendar(event, event("UID:good", "DTSTART:20270111T090000Z", "SUMMARY:Good")));
    String told = reading.entries().get(0).refused();
    assertNotNull(told);
    assertTrue(told.contains(words), told);
    assertTrue(told.startsWith("line "), told);
    assertNull(reading.entries().get(1).refused(), "the other one is taken");
  }

  @Test
  public void aCalendarThatEndsInTheMiddle() {
    String whole =
        calendar(
            event("UID:a", "DTSTART:20270111T090000Z", "SUMMARY:First"),
            event("UID:b", "DTSTART:20270112T090000Z", "SUMMARY:Second"));
    CalendarReader.Reading reading = read(whole.substring(0, whole.indexOf("Second") + 3));
    assertEquals(reading.entries().size(), 2);
    assertNull(reading.entries().get(0).refused());
    assertTrue(String.valueOf(reading.entries().get(1).refused()).contains("ends before"));
    assertTrue(reading.notes().get(0).contains("ends in the middle"), reading.notes().toString());
  }

  @Test
  public void whatIsNoCalendarIsSaidSo() {
    ProblemException told =
        org.testng.Assert.expectThrows(
            ProblemException.class, () -> read("BEGIN:VCARD\nEND:VCARD\n"));
    assertTrue(String.valueOf(told.getMessage()).contains("no calendar"));
    assertTrue(read(calendar("GARBAGE LINE\n")).notes().toString().contains("cannot be read"));
  }

  @Test
  public void whatIsMissingIsAssumedAndSaid() {
    CalendarReader.Reading reading =
        read(calendar(event("DTSTART:20270111T090000", "UID:known@x")));
    CalendarReader.Entry entry = reading.entries().get(0);
    Meeting meeting = Objects.requireNonNull(entry.meeting()).meeting();
    assertEquals(meeting.host(), "host@saltmarsh.example");
    assertEquals(meeting.zone(), DUBLIN);
    assertEquals(meeting.minutes(), 30);
    assertEquals(meeting.id(), "m-7", "the one that is known by this name");
    String notes = String.join("; ", entry.notes());
    for (String said : List.of("no organiser", "no zone", "no length", "no title")) {
      assertTrue(notes.contains(said), notes);
    }
  }

  @DataProvider
  public Object[][] zones() {
    return new Object[][] {
      {"Europe/Berlin", "Europe/Berlin"},
      {"/maker.example/20070129_1/America/New_York", "America/New_York"},
      {"W. Europe Standard Time", "Europe/Berlin"},
      {"tokyo standard time", "Asia/Tokyo"},
    };
  }

  @Test(dataProvider = "zones")
  public void zonesByOtherNames(String name, String iana) {
    String event = event("UID:z", "DTSTART;TZID=\"" + name + "\":20270111T090000", "SUMMARY:Z");
    assertEquals(one(calendar(event)).meeting().zone().getId(), iana);
  }

  /**
   * RFC 5545 section 3.6.5: the example of the Eastern zone, as printed there, under a made-up
   * name.
   */
  @Test
  public void aZoneByWhatItsClockDoes() {
    String eastern =
        """
        BEGIN:VTIMEZONE
        TZID:Our own east
        LAST-MODIFIED:20050809T050000Z
        BEGIN:DAYLIGHT
        DTSTART:20070311T020000
        RRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=2SU
        TZOFFSETFROM:-0500
        TZOFFSETTO:-0400
        TZNAME:EDT
        END:DAYLIGHT
        BEGIN:STANDARD
        DTSTART:20071104T020000
        RRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=1SU
        TZOFFSETFROM:-0400
        TZOFFSETTO:-0500
        TZNAME:EST
        END:STANDARD
        END:VTIMEZONE
        """;
    CalendarReader.Reading reading =
        read(
            calendar(
                eastern, event("UID:z", "DTSTART;TZID=Our own east:20270111T090000", "SUMMARY:Z")));
    CalendarReader.Entry entry = reading.entries().get(0);
    assertEquals(
        Objects.requireNonNull(entry.meeting()).meeting().zone().getId(), "America/New_York");
    assertTrue(entry.notes().toString().contains("is read as"), entry.notes().toString());
  }

  /** Every Windows name against ICU, which has its own copy of the CLDR's mapping. */
  @Test
  public void windowsNamesAsIcuHasThem() throws IOException {
    List<String> different = new ArrayList<>();
    int compared = 0;
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(
                Objects.requireNonNull(
                    CalendarReaderTest.class.getResourceAsStream("/calendars/windows-zones.txt")),
                StandardCharsets.UTF_8))) {
      for (String line = in.readLine(); line != null; line = in.readLine()) {
        if (!line.startsWith("#")) {
          String[] pair = line.split("\t");
          String icu = TimeZone.getIDForWindowsID(pair[0], null);
          compared++;
          assertNotNull(ZoneId.of(pair[1]), "Java knows it");
          if (!pair[1].equals(icu)) {
            different.add(pair[0] + ": " + pair[1] + " / " + icu);
          }
        }
      }
    }
    assertTrue(compared > 130, compared + " were compared");
    assertEquals(different, List.of());
  }

  @Test
  public void anAnswerIsRead() {
    // RFC 5546 section 4.2.2: B accepts, as printed there
    String reply =
        """
        BEGIN:VCALENDAR
        PRODID:-//Example/ExampleCalendarClient//EN
        METHOD:REPLY
        VERSION:2.0
        BEGIN:VEVENT
        ATTENDEE;PARTSTAT=ACCEPTED:mailto:b@example.com
        ORGANIZER:mailto:a@example.com
        UID:calsrv.example.com-873970198738777@example.com
        SEQUENCE:0
        REQUEST-STATUS:2.0;Success
        DTSTAMP:19970612T190000Z
        END:VEVENT
        END:VCALENDAR
        """;
    List<CalendarReplies.Reply> replies = CalendarReplies.read(reply);
    assertEquals(replies.size(), 1);
    assertEquals(replies.get(0).email(), "b@example.com");
    assertEquals(replies.get(0).state(), "accepted");
    assertEquals(replies.get(0).uid(), "calsrv.example.com-873970198738777@example.com");
    assertFalse(replies.get(0).occurrence() != null);
  }
}
