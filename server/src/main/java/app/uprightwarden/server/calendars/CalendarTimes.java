package app.uprightwarden.server.calendars;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.ZonedDateTime;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Dates, times and lengths of time as calendars write them (RFC 5545 section 3.3). */
final class CalendarTimes {
  static final DateTimeFormatter DATE =
      DateTimeFormatter.ofPattern("uuuuMMdd", Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
  static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss", Locale.ROOT)
          .withResolverStyle(ResolverStyle.STRICT);
  private static final Pattern DURATION =
      Pattern.compile(
          "([+-]?)P(?:(\\d{1,4})W|(?:(\\d{1,5})D)?(?:T(?:(\\d{1,6})H)?(?:(\\d{1,7})M)?(?:(\\d{1,9})S)?)?)");

  private CalendarTimes() {}

  /**
   * A moment as it is written.
   *
   * @param zone null for one that floats
   * @param day a date alone
   */
  record Moment(LocalDateTime local, @Nullable ZoneId zone, boolean day, List<String> notes) {
    /** On the clock of another zone. */
    LocalDateTime in(ZoneId other) {
      return zone == null || day || zone.equals(other)
          ? local
          : local.atZone(zone).withZoneSameInstant(other).toLocalDateTime();
    }
  }

  /**
   * Reads the one moment of a line.
   *
   * @throws Fault where it is none
   */
  static Moment moment(CalendarText.Line line, Zones zones) {
    return moment(line, line.value().strip(), zones);
  }

  /**
   * A moment, and of a period its length.
   *
   * @param length null for a moment alone
   */
  record Period(Moment begin, @Nullable Duration length) {}

  /** Reads all moments and periods of a line (section 3.3.9). */
  static List<Period> periods(CalendarText.Line line, Zones zones, ZoneId zone) {
    List<Period> periods = new ArrayList<>();
    for (String value : line.value().strip().split(",")) {
      if (value.isBlank()) {
        continue;
      }
      int slash = value.indexOf('/');
      Moment begin = moment(line, (slash < 0 ? value : value.substring(0, slash)).strip(), zones);
      periods.add(
          new Period(
              begin,
              slash < 0 ? null : length(line, begin, value.substring(slash + 1), zones, zone)));
    }
    return periods;
  }

  private static Duration length(
      CalendarText.Line line, Moment begin, String end, Zones zones, ZoneId zone) {
    ZoneId there = begin.zone() == null ? zone : begin.zone();
    String text = end.strip();
    if (text.startsWith("P") || text.startsWith("+P")) {
      return length(line, text).from(begin.local(), there);
    }
    Moment until = moment(line, text, zones);
    return Duration.between(
        begin.local().atZone(there),
        until.local().atZone(until.zone() == null ? there : until.zone()));
  }

  private static Moment moment(CalendarText.Line line, String written, Zones zones) {
    // a leap second is the last second of its minute to clocks that have none (section 3.3.12)
    String value = written.replaceFirst("(?<=T\\d{4})60", "59");
    try {
      if (value.length() == 8) {
        return new Moment(LocalDate.parse(value, DATE).atStartOfDay(), null, true, List.of());
      }
      if (value.endsWith("Z")) {
        String local = value.substring(0, value.length() - 1);
        return new Moment(LocalDateTime.parse(local, TIME), ZoneId.of("UTC"), false, List.of());
      }
      LocalDateTime local = LocalDateTime.parse(value, TIME);
      String name = line.parameter("TZID");
      if (name == null) {
        return new Moment(local, null, false, List.of());
      }
      Zones.Found found = zones.find(name);
      if (found.zone() == null) {
        throw new Fault(line, "the zone “" + shortened(name) + "” is not known");
      }
      List<String> notes = found.note() == null ? List.of() : List.of(found.note());
      return new Moment(local, found.zone(), false, notes);
    } catch (DateTimeException e) {
      throw new Fault(line, "“" + shortened(value) + "” is no date or time", e);
    }
  }

  /**
   * A length of time (section 3.3.6): weeks and days are days on the calendar, however long they
   * are; hours, minutes and seconds are exact.
   */
  record Length(int days, Duration exact) {
    /** From a local time on in a zone. */
    Duration from(LocalDateTime start, ZoneId zone) {
      ZonedDateTime begin = start.atZone(zone);
      return Duration.between(begin, begin.plusDays(days).plus(exact));
    }

    Length negated() {
      return new Length(-days, exact.negated());
    }

    /** Where no calendar day is meant. */
    Duration plain() {
      return exact.plusDays(days);
    }
  }

  /** Reads a length of time. */
  static Length length(CalendarText.Line line) {
    return length(line, line.value().strip());
  }

  private static Length length(CalendarText.Line line, String value) {
    Matcher matcher = DURATION.matcher(value);
    if (!matcher.matches() || value.endsWith("P") || value.endsWith("T")) {
      throw new Fault(line, "“" + shortened(value) + "” is no length of time");
    }
    Length length =
        new Length(
            (int) (7 * number(matcher.group(2)) + number(matcher.group(3))),
            Duration.ofHours(number(matcher.group(4)))
                .plusMinutes(number(matcher.group(5)))
                .plusSeconds(number(matcher.group(6))));
    return matcher.group(1).equals("-") ? length.negated() : length;
  }

  private static long number(@Nullable String digits) {
    return digits == null ? 0 : Long.parseLong(digits);
  }

  static String utc(java.time.Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC).format(TIME) + "Z";
  }

  static String shortened(String text) {
    return text.length() > 60 ? text.substring(0, 60) + "…" : text;
  }

  /** The event is cancelled, and says so itself. */
  static final class Cancelled extends Fault {
    Cancelled(CalendarText.Line line, String what) {
      super(line, what);
    }
  }

  /** What is wrong with an event, and in which line. */
  static class Fault extends RuntimeException {
    Fault(CalendarText.Line line, String what) {
      super("line " + line.number() + ", " + line.name() + ": " + what);
    }

    Fault(CalendarText.Line line, String what, Exception cause) {
      super("line " + line.number() + ", " + line.name() + ": " + what, cause);
    }

    Fault(CalendarText.Component component, String what) {
      super("line " + component.number() + ": " + what);
    }
  }
}
