package app.uprightwarden.core.calendar;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;

import app.uprightwarden.core.MeetingMaker;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.OccurrenceChange;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;
import org.testng.annotations.Test;

/** Series in their zone, over clock changes, with dates dropped, added and moved. */
public class OccurrencesTest {
  private static Meeting series(
      String start,
      String zone,
      String rule,
      List<LocalDateTime> ex,
      List<LocalDateTime> r,
      OccurrenceChange... changes) {
    return new MeetingMaker(LocalDateTime.parse(start), ZoneId.of(zone))
        .recurrence(rule)
        .dates(ex, r)
        .changes(changes)
        .make();
  }

  private static List<String> starts(Meeting meeting, String from, String to) {
    return Occurrences.between(meeting, Instant.parse(from), Instant.parse(to)).stream()
        .map(Occurrence::start)
        .map(Instant::toString)
        .toList();
  }

  @Test
  public void nineOClockStaysNineWhenClocksChange() {
    // Ireland: clocks go forward on 28 March 2027 (EU directive 2000/84/EC: last Sunday in March)
    Meeting daily =
        series("2027-03-27T09:00", "Europe/Dublin", "FREQ=DAILY;COUNT=3", List.of(), List.of());
    assertEquals(
        starts(daily, "2027-03-01T00:00:00Z", "2027-04-01T00:00:00Z"),
        List.of("2027-03-27T09:00:00Z", "2027-03-28T08:00:00Z", "2027-03-29T08:00:00Z"));
  }

  @Test
  public void aTimeThatIsSkippedMovesOnAndOneThatComesTwiceIsTheFirst() {
    // RFC 5545 section 3.3.5: the offset before the gap; the first of the two
    Meeting skipped = series("2027-03-28T01:30", "Europe/Dublin", null, List.of(), List.of());
    assertEquals(
        starts(skipped, "2027-03-01T00:00:00Z", "2027-04-01T00:00:00Z"),
        List.of("2027-03-28T01:30:00Z"));
    Meeting twice = series("2027-10-31T01:30", "Europe/Dublin", null, List.of(), List.of());
    assertEquals(
        starts(twice, "2027-10-01T00:00:00Z", "2027-11-01T00:00:00Z"),
        List.of("2027-10-31T00:30:00Z"));
  }

  @Test
  public void datesAreDroppedAddedAndMoved() {
    LocalDateTime second = LocalDateTime.parse("2027-01-18T09:00");
    LocalDateTime third = LocalDateTime.parse("2027-01-25T09:00");
    Meeting weekly =
        series(
            "2027-01-11T09:00",
            "UTC",
            "FREQ=WEEKLY;COUNT=4",
            List.of(second),
            List.of(LocalDateTime.parse("2027-01-20T15:00")),
            new OccurrenceChange(
                third, LocalDateTime.parse("2027-01-26T10:00"), 30, ControlValues.NONE));
    assertEquals(
        starts(weekly, "2027-01-01T00:00:00Z", "2027-03-01T00:00:00Z"),
        List.of(
            "2027-01-11T09:00:00Z",
            "2027-01-20T15:00:00Z",
            "2027-01-26T10:00:00Z",
            "2027-02-01T09:00:00Z"));
    Occurrence moved =
        Occurrences.between(
                weekly,
                Instant.parse("2027-01-26T00:00:00Z"),
                Instant.parse("2027-01-27T00:00:00Z"))
            .get(0);
    assertEquals(moved.at(), third, "it keeps its original start as its name");
    assertEquals(moved.end(), Instant.parse("2027-01-26T10:30:00Z"));
  }

  @Test
  public void theWindowCutsAndAnOccurrenceStillRunningIsIn() {
    Meeting daily = series("2020-01-01T09:00", "UTC", "FREQ=DAILY", List.of(), List.of());
    assertEquals(
        starts(daily, "2027-01-11T09:30:00Z", "2027-01-13T09:00:00Z"),
        List.of("2027-01-11T09:00:00Z", "2027-01-12T09:00:00Z"));
  }

  @Test
  public void aRuleThatGivesTooManyIsRefused() {
    Meeting secondly = series("2027-01-01T00:00", "UTC", "FREQ=SECONDLY", List.of(), List.of());
    assertThrows(
        IllegalArgumentException.class,
        () -> starts(secondly, "2027-01-01T00:00:00Z", "2027-04-01T00:00:00Z"));
  }
}
