package app.uprightwarden.server.calendars;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.passcode.PasscodeJudge;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.io.StringReader;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.temporal.Temporal;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Random;
import java.util.TreeMap;
import net.fortuna.ical4j.data.CalendarBuilder;
import net.fortuna.ical4j.model.Calendar;
import net.fortuna.ical4j.model.Period;
import net.fortuna.ical4j.model.Property;
import net.fortuna.ical4j.model.Recur;
import net.fortuna.ical4j.model.component.Observance;
import net.fortuna.ical4j.model.component.VEvent;
import net.fortuna.ical4j.model.component.VTimeZone;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Calendars written here, read by an independent library (ical4j) and by ourselves. */
public class CalendarWriterTest {
  private static final Instant NOW = Instant.parse("2026-11-25T10:00:00Z");
  private static final String AWKWARD =
      "Quay; berth, \\slip \"east\" <script>alert(1)</script>\nsecond line – Œuvre 🌊 ";

  private static String write(CalendarWriter.Style style, Scheduled... meetings) {
    return new CalendarWriter(
            CalendarReaderTest.HARBOUR,
            Map.of("m.okafor@saltmarsh.example", "Okafor, \"Mo\"; Moira"),
            NOW,
            style)
        .write(List.of(meetings), "Harbour");
  }

  private static Scheduled meeting(Random random) {
    Map<Control, app.uprightwarden.core.control.Value> controls = new EnumMap<>(Control.class);
    controls.put(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"));
    controls.put(Control.EARLY_ENTRY, Control.EARLY_ENTRY.parse(random.nextInt(3) * 5));
    controls.put(Control.DIAL_IN_COUNTRIES, Control.DIAL_IN_COUNTRIES.parse(List.of("IE", "GB")));
    controls.put(Control.REGIONS, Control.REGIONS.parse(List.of()));
    LocalDateTime start =
        LocalDateTime.of(
            2027,
            1 + random.nextInt(12),
            1 + random.nextInt(28),
            random.nextInt(24),
            5 * random.nextInt(12));
    ZoneId zone =
        ZoneId.of(
            List.of("Europe/Dublin", "America/St_Johns", "Asia/Tokyo", "Australia/Lord_Howe", "UTC")
                .get(random.nextInt(5)));
    boolean whole = random.nextInt(5) == 0;
    LocalDateTime begin = whole ? start.toLocalDate().atStartOfDay() : start;
    String passcode = "kelp-Rudder-" + (10 + random.nextInt(90));
    String title = random.nextBoolean() ? "Plain title" : AWKWARD.replace("\n", " ").strip();
    Meeting made =
        new Meeting(
            "m-" + random.nextInt(1_000_000),
            title,
            AWKWARD.repeat(1 + random.nextInt(4)).strip(),
            random.nextBoolean() ? "hearing" : null,
            "m.okafor@saltmarsh.example",
            List.of("co@saltmarsh.example"),
            List.of("talks@elsewhere.example"),
            List.of(
                new Invitee("a@saltmarsh.example", Invitee.Need.REQUIRED),
                new Invitee(
                    "b@elsewhere.example",
                    Invitee.Need.OPTIONAL,
                    Invitee.Task.INTERPRETER,
                    "ga-IE")),
            List.of("crew"),
            null,
            begin,
            zone,
            whole ? 1440 * (1 + random.nextInt(3)) : 1 + random.nextInt(300),
            "FREQ=WEEKLY;COUNT=9",
            List.of(begin.plusWeeks(2)),
            List.of(begin.plusDays(3)),
            "482 119 730",
            PasscodeJudge.judge(passcode, title, "", "m.okafor@x", "print-" + passcode),
            ControlValues.of(controls),
            List.of(
                new OccurrenceChange(
                    begin.plusWeeks(1),
                    begin.plusWeeks(1).plusDays(1),
                    whole ? null : 17,
                    ControlValues.NONE.with(
                        Control.SCREEN_SHARE, Control.SCREEN_SHARE.parse("everyone")))));
    Details details =
        new Details(
            "loft",
            whole,
            random.nextBoolean() ? 15 : null,
            List.of(new Details.Group("Red; \"one\"", List.of("a@saltmarsh.example"))),
            "uid-" + random.nextInt() + "@maker.example",
            random.nextInt(9),
            List.of("TRANSP:OPAQUE", "X-MAKER-COLOUR;X-A=\"b;c\":ultramarine"));
    return new Scheduled(made, details, passcode, false);
  }

  @DataProvider
  public Object[][] seeds() {
    return new Random(5).longs(40).mapToObj(s -> new Object[] {s}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "seeds")
  public void aRoundTripLosesNothing(long seed) {
    Scheduled given = meeting(new Random(seed));
    CalendarReader.Reading reading =
        CalendarReaderTest.read(write(CalendarWriter.Style.WHOLE, given).replace("\r\n", "\n"));
    assertEquals(reading.entries().size(), 1);
    CalendarReader.Entry entry = reading.entries().get(0);
    assertEquals(entry.refused(), null);
    Scheduled back = Objects.requireNonNull(entry.meeting());
    if (given.details().wholeDay()) {
      // a day has no zone of its own: it is read in the reader's
      assertEquals(back.meeting().start(), given.meeting().start());
      assertEquals(back.meeting().minutes(), given.meeting().minutes());
    } else {
      assertEquals(back.meeting(), given.meeting());
    }
    assertEquals(back.details().withoutStamp(), given.details());
    assertEquals(back.details().stamp(), "20261125T100000Z", "when it was written is known, too");
    assertEquals(back.passcode(), given.passcode());
  }

  /** What an independent library understands of it: names, people, times, exceptions. */
  @Test(dataProvider = "seeds")
  public void anotherLibraryReadsTheSame(long seed) throws Exception {
    Scheduled given = meeting(new Random(seed));
    Calendar calendar =
        new CalendarBuilder()
            .build(new StringReader(write(CalendarWriter.Style.INVITATION, given)));
    List<VEvent> events = calendar.getComponents("VEVENT");
    assertEquals(events.size(), 2, "the series and its exception");
    VEvent series = events.get(0);
    Meeting meeting = given.meeting();
    assertEquals(value(series, Property.SUMMARY), meeting.title());
    assertEquals(value(series, Property.DESCRIPTION), meeting.description());
    assertEquals(value(series, Property.UID), given.details().uid());
    assertEquals(value(series, Property.SEQUENCE), String.valueOf(given.details().sequence()));
    assertEquals(value(series, Property.ORGANIZER), "mailto:m.okafor@saltmarsh.example");
    assertEquals(series.getProperties(Property.ATTENDEE).size(), 4, "two, a list and a room");
    if (!given.details().wholeDay()) {
      List<Instant> starts = new ArrayList<>();
      ZonedDateTime from = meeting.start().atZone(meeting.zone()).minusDays(1);
      for (Period<?> period :
          series.calculateRecurrenceSet(new Period<ZonedDateTime>(from, from.plusYears(1)))) {
        starts.add(instant(period.getStart(), meeting.zone()));
      }
      List<Instant> expected = new ArrayList<>();
      for (int week = 0; week < 9; week++) {
        if (week != 2) {
          expected.add(meeting.start().plusWeeks(week).atZone(meeting.zone()).toInstant());
        }
      }
      expected.add(meeting.start().plusDays(3).atZone(meeting.zone()).toInstant());
      expected.sort(null);
      starts.sort(null);
      assertEquals(starts, expected, meeting.zone() + " " + meeting.start());
    }
  }

  private static String value(VEvent event, String property) {
    return event.getRequiredProperty(property).getValue();
  }

  private static Instant instant(Temporal time, ZoneId zone) {
    return time instanceof LocalDateTime local
        ? local.atZone(zone).toInstant()
        : Instant.from(time);
  }

  @DataProvider
  public Object[][] zones() {
    return new Object[][] {
      {"Europe/Dublin"},
      {"America/New_York"},
      {"Australia/Lord_Howe"},
      {"Asia/Kolkata"},
      {"Pacific/Chatham"},
      {"America/Santiago"},
      {"Africa/Casablanca"},
    };
  }

  /**
   * The clock a calendar describes is the clock the zone has, hour by hour over two years: its
   * parts read as RFC 5545 section 3.6.5 says, their rules expanded by ical4j.
   */
  @Test(dataProvider = "zones")
  public void aDescribedZoneHasTheZonesClock(String id) throws Exception {
    ZoneId zone = ZoneId.of(id);
    ContentLines out = new ContentLines();
    out.line("BEGIN", "VCALENDAR");
    out.line("VERSION", "2.0");
    out.line("PRODID", "-//t//EN");
    ZoneText.write(out, zone, LocalDateTime.of(2027, 1, 1, 0, 0));
    out.line("END", "VCALENDAR");
    Calendar calendar = new CalendarBuilder().build(new StringReader(out.toString()));
    VTimeZone described = (VTimeZone) calendar.getComponents("VTIMEZONE").get(0);
    TreeMap<Instant, ZoneOffset> clock = new TreeMap<>();
    for (Observance part : described.getObservances()) {
      ZoneOffset to = ZoneOffset.of(value(part, "TZOFFSETTO"));
      ZoneOffset from = ZoneOffset.of(value(part, "TZOFFSETFROM"));
      LocalDateTime first = LocalDateTime.parse(value(part, "DTSTART"), CalendarTimes.TIME);
      clock.put(first.toInstant(from), to);
      part.getProperty("RRULE")
          .ifPresent(
              rule ->
                  new Recur<LocalDateTime>(rule.getValue())
                      .getDates(first, first, LocalDateTime.of(2031, 1, 1, 0, 0))
                      .forEach(onset -> clock.put(onset.toInstant(from), to)));
    }
    Instant at = Instant.parse("2027-01-01T00:30:00Z");
    for (int hour = 0; hour < 2 * 366 * 24; hour++) {
      Instant moment = at.plusSeconds(hour * 3600L);
      assertEquals(
          clock.floorEntry(moment).getValue(),
          zone.getRules().getOffset(moment),
          id + " at " + moment);
    }
  }

  private static String value(Observance part, String property) {
    return part.getRequiredProperty(property).getValue();
  }

  @Test
  public void linesAreFoldedAtSeventyFiveOctetsAndNeverInsideACharacter() {
    String text = write(CalendarWriter.Style.WHOLE, meeting(new Random(3)));
    for (String line : text.split("\r\n")) {
      assertTrue(line.getBytes(StandardCharsets.UTF_8).length <= 75, line);
      assertFalse(line.contains("\ufffd"), line);
    }
    assertFalse(text.replace("\r\n", "").contains("\n"), "every line ends in CRLF");
  }

  @Test
  public void aForeignLineStaysOneLine() {
    ContentLines out = new ContentLines();
    out.raw("X-MADE-UP:a\r\nEND:VEVENT\nBEGIN:VEVENT");
    assertEquals(out.toString(), "X-MADE-UP:aEND:VEVENTBEGIN:VEVENT\r\n");
  }

  @Test
  public void aFeedHoldsNoSecretAndNobody() {
    Scheduled given = meeting(new Random(11));
    String feed = write(CalendarWriter.Style.FEED, given);
    for (String secret :
        List.of(
            Objects.requireNonNull(given.passcode()),
            "482 119 730",
            "@saltmarsh.example",
            "DESCRIPTION",
            "ATTENDEE",
            "X-WARDEN",
            "X-MAKER")) {
      assertFalse(feed.contains(secret), secret + " in " + feed);
    }
    assertTrue(feed.contains("SUMMARY:"), feed);
  }

  @Test
  public void anInvitationDoesNotTellTheControls() {
    String invitation = write(CalendarWriter.Style.INVITATION, meeting(new Random(12)));
    assertTrue(invitation.contains("METHOD:REQUEST"), invitation);
    assertFalse(invitation.contains("X-WARDEN"), invitation);
  }
}
