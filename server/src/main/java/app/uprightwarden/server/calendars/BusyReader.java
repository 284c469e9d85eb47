package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.RegisterService;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;

/** When the owner of a calendar has no time: what its events and VFREEBUSYs say, and no more. */
@Service
public class BusyReader {
  /** So many stretches of time are read of one calendar. */
  public static final int MAX = 20_000;

  private static final String NOBODY = "nobody@invalid";

  private final CalendarReader calendars;
  private final RegisterService register;

  BusyReader(CalendarReader calendars, RegisterService register) {
    this.calendars = calendars;
    this.register = register;
  }

  /** A stretch of time, its end not in it. */
  public record Stretch(Instant start, Instant end) {}

  /**
   * What of a time a calendar takes up: its events but for those that are transparent or cancelled
   * (RFC 5545 sections 3.8.2.7 and 3.8.1.11), and the periods of a VFREEBUSY that are not FREE
   * (section 3.2.9).
   *
   * @param zone of times that have none
   * @return the first {@link #MAX}, by their start
   */
  public List<Stretch> read(
      String text, ZoneId zone, Organisation organisation, Instant from, Instant to) {
    CalendarText.Document document = CalendarText.read(text);
    List<Stretch> busy = new ArrayList<>();
    Zones zones = new Zones(document, zone);
    for (Component each : document.busy()) {
      each.all("FREEBUSY").forEach(line -> periods(line, zones, zone, busy));
    }
    Set<Integer> free =
        document.events().stream()
            .filter(BusyReader::takesNoTime)
            .map(Component::number)
            .collect(Collectors.toSet());
    CalendarReader.Defaults defaults =
        new CalendarReader.Defaults(zone, NOBODY, organisation, CalendarReader.Known.NONE);
    for (CalendarReader.Entry entry : calendars.read(text, defaults, register::judge).entries()) {
      if (entry.meeting() != null && !free.contains(entry.line())) {
        for (Occurrence each : Occurrences.between(entry.meeting().meeting(), from, to)) {
          busy.add(new Stretch(each.start(), each.end()));
        }
      }
    }
    return busy.stream()
        .filter(each -> each.end().isAfter(from) && each.start().isBefore(to))
        .sorted((a, b) -> a.start().compareTo(b.start()))
        .limit(MAX)
        .toList();
  }

  private static boolean takesNoTime(Component event) {
    return is(event, "TRANSP", "TRANSPARENT") || is(event, "STATUS", "CANCELLED");
  }

  private static boolean is(Component event, String name, String value) {
    Line line = event.first(name);
    return line != null && line.value().strip().equalsIgnoreCase(value);
  }

  private static void periods(Line line, Zones zones, ZoneId zone, List<Stretch> busy) {
    String type = line.parameter("FBTYPE");
    if (type != null && type.toUpperCase(Locale.ROOT).equals("FREE")) {
      return;
    }
    try {
      for (CalendarTimes.Period period : CalendarTimes.periods(line, zones, zone)) {
        if (period.length() != null) {
          Instant start = period.begin().local().atZone(ZoneId.of("UTC")).toInstant();
          busy.add(new Stretch(start, start.plus(period.length())));
        }
      }
    } catch (CalendarTimes.Fault e) {
      return; // one line that cannot be read takes up no time
    }
  }
}
