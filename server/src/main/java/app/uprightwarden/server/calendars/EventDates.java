package app.uprightwarden.server.calendars;

import app.uprightwarden.server.calendars.CalendarTimes.Moment;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.Map;
import java.util.Set;

/** The dates that belong to a series, on its own clock. */
final class EventDates {
  private EventDates() {}

  static Set<LocalDateTime> of(
      CalendarText.Component event, String name, ZoneId zone, Moment first, Zones zones) {
    Set<LocalDateTime> dates = new LinkedHashSet<>();
    for (CalendarText.Line line : event.all(name).toList()) {
      for (CalendarTimes.Period period : CalendarTimes.periods(line, zones, zone)) {
        dates.add(local(period.begin(), zone, first));
      }
    }
    return dates;
  }

  /** The dates besides that have a length of their own (RDATE;VALUE=PERIOD), in minutes. */
  static Map<LocalDateTime, Integer> lengths(
      CalendarText.Component event, ZoneId zone, Moment first, Zones zones) {
    Map<LocalDateTime, Integer> lengths = new LinkedHashMap<>();
    for (CalendarText.Line line : event.all("RDATE").toList()) {
      for (CalendarTimes.Period period : CalendarTimes.periods(line, zones, zone)) {
        Duration length = period.length();
        if (length != null && length.toMinutes() > 0) {
          lengths.put(
              local(period.begin(), zone, first),
              (int) Math.min(length.toMinutes(), EventReading.MAX_MINUTES));
        }
      }
    }
    return lengths;
  }

  /** A date alone names the occurrence of that day. */
  static LocalDateTime local(Moment moment, ZoneId zone, Moment first) {
    return moment.day() && !first.day()
        ? moment.local().toLocalDate().atTime(first.local().toLocalTime())
        : moment.in(zone);
  }
}
