package app.uprightwarden.core.calendar;

import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/**
 * When people of a zone are at work: the same hours on each of some weekdays, on their own clock.
 *
 * @param from the first moment
 * @param to the first moment after; {@code 00:00} means the end of the day
 */
public record WorkingHours(ZoneId zone, LocalTime from, LocalTime to, Set<DayOfWeek> days) {
  public WorkingHours {
    days = Set.copyOf(days);
  }

  /**
   * The working time in a window.
   *
   * @param begin minutes since the epoch
   * @param end the first minute after the window
   * @return in minutes since the epoch; a time that a clock change skips begins after the gap
   */
  public Intervals between(long begin, long end) {
    LocalDate day = date(begin).minusDays(1);
    LocalDate last = date(end).plusDays(1);
    List<Intervals.Span> spans = new ArrayList<>();
    for (; !day.isAfter(last); day = day.plusDays(1)) {
      if (days.contains(day.getDayOfWeek())) {
        long opens = minute(day, from);
        long closes = minute(to.equals(LocalTime.MIN) ? day.plusDays(1) : day, to);
        if (opens < closes) {
          spans.add(new Intervals.Span(opens, closes));
        }
      }
    }
    return Intervals.of(spans).intersect(Intervals.of(begin, Math.max(begin, end)));
  }

  private LocalDate date(long minute) {
    return LocalDate.ofInstant(java.time.Instant.ofEpochSecond(minute * 60), zone);
  }

  private long minute(LocalDate day, LocalTime time) {
    return Math.floorDiv(day.atTime(time).atZone(zone).toEpochSecond(), 60);
  }
}
