package app.uprightwarden.core.calendar;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.MeetingMaker;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.OccurrenceChange;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.temporal.ChronoUnit;
import java.time.temporal.TemporalAdjusters;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * The kinds of series that people schedule, on random data, against asking of each day whether it
 * is one of theirs; and the busy minutes they make against asking of each minute.
 */
public class RecurrenceByDaysTest {
  private static final String[] CODES = {"MO", "TU", "WE", "TH", "FR", "SA", "SU"};
  private static final String[] ZONES = {
    "UTC", "Europe/Dublin", "America/New_York", "Australia/Lord_Howe", "Asia/Kathmandu"
  };

  /** A series and the days it has, by itself. */
  private record Series(Meeting meeting, List<LocalDate> days) {}

  @DataProvider
  public Object[][] seeds() {
    return new Random(99).longs(150).mapToObj(s -> new Object[] {s}).toArray(Object[][]::new);
  }

  private static Series series(Random random) {
    LocalDate first = LocalDate.of(2027, 1 + random.nextInt(12), 1 + random.nextInt(31) % 28);
    LocalTime time = LocalTime.of(random.nextInt(24), 5 * random.nextInt(12));
    int interval = 1 + random.nextInt(3);
    StringBuilder rule = new StringBuilder();
    Predicate<LocalDate> theirs = pattern(random, first, interval, rule);
    if (interval > 1) {
      rule.append(";INTERVAL=").append(interval);
    }
    boolean counts = random.nextBoolean();
    int count = 1 + random.nextInt(20);
    LocalDate until = first.plusDays(random.nextInt(400));
    if (counts) {
      rule.append(";COUNT=").append(count);
    } else {
      rule.append(";UNTIL=").append(until.toString().replace("-", "")).append("T235959");
    }
    List<LocalDate> days = new ArrayList<>();
    for (LocalDate day = first; day.isBefore(first.plusYears(6)); day = day.plusDays(1)) {
      boolean open = counts ? days.size() < count : !day.isAfter(until);
      if (open && theirs.test(day)) {
        days.add(day);
      }
    }
    LocalDateTime start = first.atTime(time);
    Meeting meeting =
        new MeetingMaker(start, ZoneId.of(ZONES[random.nextInt(ZONES.length)]))
            .minutes(1 + random.nextInt(180))
            .recurrence(rule.toString())
            .make();
    return new Series(meeting, days);
  }

  /** Writes the rule's pattern, and gives the same as a question to a day; the first day fits. */
  private static Predicate<LocalDate> pattern(
      Random random, LocalDate first, int interval, StringBuilder rule) {
    switch (random.nextInt(5)) {
      case 0 -> {
        rule.append("FREQ=DAILY");
        return day -> ChronoUnit.DAYS.between(first, day) % interval == 0;
      }
      case 1 -> {
        Set<DayOfWeek> weekdays = EnumSet.of(first.getDayOfWeek());
        for (int i = random.nextInt(4); i > 0; i--) {
          weekdays.add(DayOfWeek.of(1 + random.nextInt(7)));
        }
        rule.append("FREQ=WEEKLY;BYDAY=")
            .append(
                weekdays.stream().map(d -> CODES[d.ordinal()]).collect(Collectors.joining(",")));
        LocalDate monday = first.with(TemporalAdjusters.previousOrSame(DayOfWeek.MONDAY));
        return day ->
            weekdays.contains(day.getDayOfWeek())
                && ChronoUnit.DAYS.between(monday, day) / 7 % interval == 0;
      }
      case 2 -> {
        rule.append("FREQ=MONTHLY");
        return day ->
            day.getDayOfMonth() == first.getDayOfMonth() && months(first, day) % interval == 0;
      }
      case 3 -> {
        int nth = (first.getDayOfMonth() - 1) / 7 + 1;
        rule.append("FREQ=MONTHLY;BYDAY=")
            .append(nth)
            .append(CODES[first.getDayOfWeek().ordinal()]);
        return day ->
            day.getDayOfWeek() == first.getDayOfWeek()
                && (day.getDayOfMonth() - 1) / 7 + 1 == nth
                && months(first, day) % interval == 0;
      }
      default -> {
        rule.append("FREQ=YEARLY");
        return day ->
            day.getDayOfYear()
                    == day.withMonth(first.getMonthValue())
                        .withDayOfMonth(Math.min(first.getDayOfMonth(), 28))
                        .getDayOfYear()
                && (day.getYear() - first.getYear()) % interval == 0;
      }
    }
  }

  private static int months(LocalDate first, LocalDate day) {
    return (day.getYear() - first.getYear()) * 12 + day.getMonthValue() - first.getMonthValue();
  }

  @Test(dataProvider = "seeds")
  public void aSeriesHasTheDaysThatAreItsOwn(long seed) {
    Series series = series(new Random(seed));
    Meeting meeting = series.meeting();
    Instant from = Instant.parse("2026-12-01T00:00:00Z");
    List<LocalDateTime> found =
        Occurrences.between(meeting, from, Instant.parse("2032-12-01T00:00:00Z")).stream()
            .map(Occurrence::at)
            .toList();
    LocalTime time = meeting.start().toLocalTime();
    assertEquals(
        found,
        series.days().stream().map(day -> day.atTime(time)).toList(),
        meeting.recurrence() + " from " + meeting.start());
  }

  @Test(dataProvider = "seeds")
  public void itsBusyMinutesAreThoseOfItsOccurrences(long seed) {
    Random random = new Random(seed);
    Series series = series(random);
    List<LocalDateTime> dropped = new ArrayList<>();
    List<OccurrenceChange> moved = new ArrayList<>();
    LocalTime time = series.meeting().start().toLocalTime();
    Set<Long> expected = new HashSet<>();
    long begin = Instant.parse("2027-01-01T00:00:00Z").getEpochSecond() / 60;
    long end = begin + 90 * 24 * 60;
    for (LocalDate day : series.days()) {
      LocalDateTime at = day.atTime(time);
      LocalDateTime start = at;
      int choice = random.nextInt(6);
      if (choice == 0) {
        dropped.add(at);
        continue;
      }
      if (choice == 1) {
        start = at.plusMinutes(random.nextInt(3000));
        moved.add(new OccurrenceChange(at, start, null, ControlValues.NONE));
      }
      long minute = Math.floorDiv(start.atZone(series.meeting().zone()).toEpochSecond(), 60);
      for (int i = 0; i < series.meeting().minutes(); i++) {
        if (minute + i >= begin && minute + i < end) {
          expected.add(minute + i);
        }
      }
    }
    Meeting meeting = series.meeting().withExceptions(dropped, moved);
    Intervals busy =
        Intervals.of(
                Occurrences.between(
                        meeting, Instant.ofEpochSecond(begin * 60), Instant.ofEpochSecond(end * 60))
                    .stream()
                    .map(
                        o ->
                            new Intervals.Span(
                                o.start().getEpochSecond() / 60, o.end().getEpochSecond() / 60))
                    .toList())
            .intersect(Intervals.of(begin, end));
    assertEquals(busy.length(), expected.size(), meeting.recurrence());
    for (Intervals.Span span : busy.spans()) {
      for (long minute = span.from(); minute < span.to(); minute++) {
        assertEquals(expected.contains(minute), true, meeting.recurrence() + " at " + minute);
      }
    }
  }
}
