package app.uprightwarden.server.calendars;

import static app.uprightwarden.server.calendars.CalendarReaderTest.event;
import static app.uprightwarden.server.calendars.CalendarReaderTest.read;
import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.calendars.CalendarReader.Act;
import app.uprightwarden.server.calendars.CalendarReader.Entry;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * What a scheduling object may change of a meeting that is known: RFC 5546 section 2.1.5 (which of
 * two is newer) and section 3.2 (what each METHOD is for). Objects in the manner of section 4.
 */
public class SchedulingObjectTest {
  private static final String[] SERIES = {
    "UID:series@example.com",
    "SEQUENCE:2",
    "DTSTAMP:20270101T120000Z",
    "ORGANIZER:mailto:a@example.com",
    "ATTENDEE:mailto:b@example.com",
    "ATTENDEE:mailto:c@example.com",
    "DTSTART:20270111T090000Z",
    "DURATION:PT1H",
    "RRULE:FREQ=WEEKLY;COUNT=6",
    "SUMMARY:Series"
  };

  private static String calendar(@Nullable String method, String... events) {
    return "BEGIN:VCALENDAR\nVERSION:2.0\nPRODID:-//t//EN\n"
        + (method == null ? "" : "METHOD:" + method + "\n")
        + String.join("", events)
        + "END:VCALENDAR\n";
  }

  private static String with(String... lines) {
    String[] all = new String[lines.length + 3];
    all[0] = "UID:series@example.com";
    all[1] = "ORGANIZER:mailto:a@example.com";
    all[2] = "SUMMARY:Series";
    System.arraycopy(lines, 0, all, 3, lines.length);
    return event(all);
  }

  private static CalendarReader.Known known(Scheduled... meetings) {
    return new CalendarReader.Known() {
      @Override
      public @Nullable Scheduled byUid(String uid) {
        for (Scheduled each : meetings) {
          if (Details.uid(each.meeting().id(), each.details()).equals(uid)) {
            return each;
          }
        }
        return null;
      }

      @Override
      public @Nullable Scheduled byId(String id) {
        for (Scheduled each : meetings) {
          if (each.meeting().id().equals(id)) {
            return each;
          }
        }
        return null;
      }
    };
  }

  private static Scheduled stored() {
    return CalendarReaderTest.one(calendar("REQUEST", event(SERIES)));
  }

  private static Entry take(String text) {
    List<Entry> entries = read(text, known(stored())).entries();
    assertEquals(entries.size(), 1, entries.toString());
    return entries.get(0);
  }

  private static Meeting changed(String text) {
    Entry entry = take(text);
    assertNull(entry.refused());
    assertEquals(entry.act(), Act.PART);
    Meeting meeting = Objects.requireNonNull(entry.meeting()).meeting();
    assertEquals(meeting.id(), stored().meeting().id());
    return meeting;
  }

  /** Sections 3.2.3, 3.2.6, 3.2.7 and 3.2.8: none of these changes a meeting, known or not. */
  @DataProvider
  public Object[][] changeNothing() {
    return new Object[][] {{"REPLY"}, {"COUNTER"}, {"REFRESH"}, {"DECLINECOUNTER"}, {"NONSENSE"}};
  }

  @Test(dataProvider = "changeNothing")
  public void whatAsksOrAnswersIsNoMeeting(String method) {
    String text =
        calendar(
            method,
            with(
                "SEQUENCE:9",
                "ATTENDEE;PARTSTAT=DECLINED:mailto:b@example.com",
                "DTSTART:20270112T090000Z"));
    assertNotNull(take(text).refused());
    assertNotNull(read(text, CalendarReader.Known.NONE).entries().get(0).refused());
  }

  /** Section 2.1.5: a lower SEQUENCE is older, and of equal ones the earlier DTSTAMP. */
  @Test
  public void whatIsOlderChangesNothing() {
    String older = event(SERIES).replace("SEQUENCE:2", "SEQUENCE:1").replace(":Series", ":Old");
    assertTrue(String.valueOf(take(calendar("REQUEST", older)).refused()).contains("older"));
    String earlier = event(SERIES).replace("20270101T120000Z", "20261231T120000Z");
    assertTrue(
        String.valueOf(take(calendar("REQUEST", earlier)).refused()).contains("written before"));
    String later = event(SERIES).replace("20270101T120000Z", "20270102T120000Z");
    assertNull(take(calendar("REQUEST", later.replace(":Series", ":New"))).refused());
    String newer = event(SERIES).replace("SEQUENCE:2", "SEQUENCE:3");
    assertNull(take(calendar("PUBLISH", newer)).refused());
    assertTrue(
        String.valueOf(take(calendar("CANCEL", with("SEQUENCE:1", "STATUS:CANCELLED"))).refused())
            .contains("older"));
  }

  @Test
  public void ofTwoInOneFileTheNewerIsTakenWhateverTheirOrder() {
    String one = event(SERIES);
    String two =
        event(SERIES).replace("20270101T120000Z", "20270105T120000Z").replace(":Series", ":New");
    for (String text : List.of(calendar(null, one, two), calendar(null, two, one))) {
      List<Entry> entries = read(text, CalendarReader.Known.NONE).entries();
      assertEquals(entries.get(0).title(), "New");
      assertNull(entries.get(0).refused());
      assertNotNull(entries.get(1).refused());
    }
  }

  /** Section 3.2.2.1 and 4.4.2: an instance with RECURRENCE-ID changes that instance alone. */
  @Test
  public void oneDateChangesThatDate() {
    Meeting meeting =
        changed(
            calendar(
                "REQUEST",
                with(
                    "SEQUENCE:3",
                    "RECURRENCE-ID:20270118T090000Z",
                    "DTSTART:20270119T110000Z",
                    "DURATION:PT30M")));
    assertEquals(meeting.recurrence(), "FREQ=WEEKLY;COUNT=6");
    assertEquals(meeting.changes().size(), 1);
    assertEquals(meeting.changes().get(0).start(), LocalDateTime.parse("2027-01-19T11:00"));
    assertEquals(meeting.changes().get(0).minutes(), Integer.valueOf(30));
    assertEquals(meeting.invitees().size(), 2, "who is invited stays");
  }

  /** One date with a stranger, without its series: it stays in the register, as what it is. */
  @Test
  public void aDateThatComesAloneWithOthersInvitedIsNotLost() {
    String alone =
        with(
            "SEQUENCE:3",
            "RECURRENCE-ID:20270118T090000Z",
            "DTSTART:20270118T090000Z",
            "DURATION:PT1H",
            "ATTENDEE:mailto:stranger@elsewhere.example");
    List<Entry> entries = read(calendar("REQUEST", alone), known(stored())).entries();
    assertEquals(entries.size(), 2, entries.toString());
    assertEquals(
        Objects.requireNonNull(entries.get(0).meeting()).meeting().exDates(),
        List.of(LocalDateTime.parse("2027-01-18T09:00")));
    Meeting apart = Objects.requireNonNull(entries.get(1).meeting()).meeting();
    assertEquals(apart.start(), LocalDateTime.parse("2027-01-18T09:00"));
    assertEquals(apart.invitees().get(0).email(), "stranger@elsewhere.example");
    Scheduled whole =
        Objects.requireNonNull(
            read(calendar("REQUEST", event(SERIES), alone), known()).entries().get(1).meeting());
    assertEquals(apart.id(), whole.meeting().id(), "the same meeting as with its series");
  }

  /** Section 3.2.4: ADD adds an instance and replaces nothing. */
  @Test
  public void addAdds() {
    Meeting meeting =
        changed(calendar("ADD", with("SEQUENCE:3", "DTSTART:20270401T090000Z", "DURATION:PT2H")));
    assertEquals(meeting.rDates(), List.of(LocalDateTime.parse("2027-04-01T09:00")));
    assertEquals(meeting.recurrence(), "FREQ=WEEKLY;COUNT=6");
    assertEquals(meeting.changes().get(0).minutes(), Integer.valueOf(120));
    assertNotNull(
        read(calendar("ADD", event(SERIES)), CalendarReader.Known.NONE).entries().get(0).refused());
  }

  /** Section 3.2.5: the whole, single instances, this and all later ones, or some attendees. */
  @Test
  public void cancelCancelsWhatItNames() {
    assertEquals(
        take(calendar("CANCEL", with("SEQUENCE:3", "STATUS:CANCELLED"))).act(), Act.CANCEL);
    Meeting dropped =
        changed(calendar("CANCEL", with("SEQUENCE:3", "RECURRENCE-ID:20270118T090000Z")));
    assertEquals(dropped.exDates(), List.of(LocalDateTime.parse("2027-01-18T09:00")));
    Meeting ended =
        changed(
            calendar(
                "CANCEL",
                with("SEQUENCE:3", "RECURRENCE-ID;RANGE=THISANDFUTURE:20270125T090000Z")));
    assertEquals(ended.recurrence(), "FREQ=WEEKLY;UNTIL=20270125T085959Z");
    Meeting uninvited =
        changed(calendar("CANCEL", with("SEQUENCE:3", "ATTENDEE:mailto:B@example.com")));
    assertEquals(
        uninvited.invitees().stream().map(i -> i.email()).toList(), List.of("c@example.com"));
    String unknown = calendar("CANCEL", with("STATUS:CANCELLED"));
    assertNotNull(read(unknown, CalendarReader.Known.NONE).entries().get(0).refused());
  }

  @Test
  public void onlyTheOrganiserCancels() {
    String foreign =
        calendar(
            "CANCEL",
            event("UID:series@example.com", "SEQUENCE:9", "ORGANIZER:mailto:evil@example.com"));
    assertTrue(String.valueOf(take(foreign).refused()).contains("evil@example.com"));
  }

  private static Scheduled ours() {
    Meeting m = stored().meeting();
    String made =
        calendar(
            null,
            event(
                "UID:m-0001@upright-warden",
                "X-WARDEN-ID:m-0001",
                "ORGANIZER:mailto:a@example.com",
                "ATTENDEE:mailto:b@example.com",
                "DTSTART:20270111T090000Z",
                "SUMMARY:" + m.title()));
    return CalendarReaderTest.one(made);
  }

  /** Our own invitation to one person names them alone; it must not empty the meeting. */
  @Test
  public void ourOwnInvitationIsKnownAsOurs() {
    Scheduled ours = ours();
    assertNull(ours.details().uid());
    for (String method : List.of("REQUEST", "CANCEL", "ADD")) {
      Entry entry =
          read(
                  calendar(
                      method,
                      event(
                          "UID:m-0001@upright-warden",
                          "SEQUENCE:9",
                          "ORGANIZER:mailto:a@example.com",
                          "DTSTART:20280111T090000Z",
                          "SUMMARY:Taken over")),
                  known(ours))
              .entries()
              .get(0);
      boolean isSame = ours.equals(entry.meeting());
      assertTrue(method.equals("REQUEST") ? isSame : entry.refused() != null, entry.toString());
    }
  }

  /** A foreign file that carries one of our ids under a UID of its own. */
  @Test
  public void noForeignFileTakesOneOfOurIds() {
    Entry entry =
        read(
                calendar(
                    null,
                    event(
                        "UID:evil@example.com",
                        "X-WARDEN-ID:m-0001",
                        "DTSTART:20280111T090000Z",
                        "SUMMARY:Mine now")),
                known(ours()))
            .entries()
            .get(0);
    Scheduled taken = Objects.requireNonNull(entry.meeting());
    assertTrue(!taken.meeting().id().equals("m-0001"), taken.meeting().id());
    assertTrue(entry.notes().toString().contains("m-0001"), entry.notes().toString());
  }
}
