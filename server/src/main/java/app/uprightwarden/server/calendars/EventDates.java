package app.uprightwarden.server.calendars;

import app.uprightwarden.server.calendars.CalendarTimes.Moment;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.LinkedHashSet;
import java.util.Set;

/** The dates that belong to a series, on its own clock. */
final class EventDates {
  private EventDates() {}

  static Set<LocalDateTime> of(
      CalendarText.Component event, String name, ZoneId zone, Moment first, Zones zones) {
    Set<LocalDateTime> dates = new LinkedHashSet<>();
    for (CalendarText.Line line : event.all(name).toList()) {
      for (Moment moment : CalendarTimes.moments(line, zones)) {
        dates.add(local(moment, zone, first));
      }
    }
    return dates;
  }

  /** A date alone names the occurrence of that day. */
  static LocalDateTime local(Moment moment, ZoneId zone, Moment first) {
    return moment.day() && !first.day()
        ? moment.local().toLocalDate().atTime(first.local().toLocalTime())
        : moment.in(zone);
  }
}
