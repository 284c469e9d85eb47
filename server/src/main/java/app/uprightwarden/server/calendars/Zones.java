package app.uprightwarden.server.calendars;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Finds the IANA zone that a calendar means: by its name; by the name's end, where a maker puts a
 * path before it; by the Windows name (Unicode CLDR); by what its VTIMEZONE says of the clock.
 */
final class Zones {
  private static final Map<String, String> WINDOWS = windows();

  /** Where several zones have the same clock, people are likelier to mean one of these. */
  private static final List<String> USUAL =
      List.of(
          "Europe/London",
          "Europe/Dublin",
          "Europe/Berlin",
          "Europe/Athens",
          "America/New_York",
          "America/Chicago",
          "America/Denver",
          "America/Los_Angeles",
          "Asia/Tokyo",
          "Asia/Kolkata",
          "Australia/Sydney");

  private final Map<String, CalendarText.Component> described = new HashMap<>();
  private final Map<String, Found> found = new HashMap<>();
  private final ZoneId usual;

  /**
   * @param described the calendar's VTIMEZONEs
   * @param usual the zone that times without one are in
   */
  Zones(List<CalendarText.Component> described, ZoneId usual) {
    for (CalendarText.Component zone : described) {
      CalendarText.Line id = zone.first("TZID");
      if (id != null) {
        this.described.put(id.value().strip(), zone);
      }
    }
    this.usual = usual;
  }

  /**
   * A zone, and what was assumed in finding it.
   *
   * @param zone null where nothing fits
   */
  record Found(@Nullable ZoneId zone, @Nullable String note) {}

  Found find(String name) {
    return found.computeIfAbsent(name.strip(), this::search);
  }

  private Found search(String name) {
    ZoneId direct = iana(name);
    if (direct != null) {
      return new Found(direct, null);
    }
    String windows = WINDOWS.get(name.toLowerCase(Locale.ROOT));
    if (windows != null) {
      return read(name, ZoneId.of(windows));
    }
    String[] parts = name.split("/");
    for (int from = 1; from < parts.length; from++) {
      ZoneId end = iana(String.join("/", List.of(parts).subList(from, parts.length)));
      if (end != null) {
        return new Found(end, null);
      }
    }
    CalendarText.Component description = described.get(name);
    ZoneId byClock = description == null ? null : byClock(description);
    return byClock == null ? new Found(null, null) : read(name, byClock);
  }

  private static Found read(String name, ZoneId zone) {
    return new Found(zone, "the zone “" + name + "” is read as " + zone.getId());
  }

  private static @Nullable ZoneId iana(String name) {
    try {
      return name.isEmpty() || !Character.isLetter(name.charAt(0)) ? null : ZoneId.of(name);
    } catch (DateTimeException e) {
      return null;
    }
  }

  /** What a clock shows in the middle of January and of July: enough to tell common zones apart. */
  private record Clock(ZoneOffset january, ZoneOffset july) {
    static Clock of(ZoneId zone, int year) {
      return new Clock(at(zone, year, 1), at(zone, year, 7));
    }

    private static ZoneOffset at(ZoneId zone, int year, int month) {
      Instant noon = LocalDate.of(year, month, 15).atTime(12, 0).toInstant(ZoneOffset.UTC);
      return zone.getRules().getOffset(noon);
    }
  }

  private @Nullable ZoneId byClock(CalendarText.Component description) {
    CalendarText.Line location = description.first("X-LIC-LOCATION");
    ZoneId named = location == null ? null : iana(location.value().strip());
    if (named != null) {
      return named;
    }
    Clock clock = clock(description);
    if (clock == null) {
      return null;
    }
    int year = 2026; // any recent year: the description is of rules, not of a year
    List<String> candidates = new ArrayList<>(List.of(usual.getId()));
    candidates.addAll(USUAL);
    candidates.addAll(new TreeSet<>(ZoneId.getAvailableZoneIds()));
    return candidates.stream()
        .filter(id -> id.equals(usual.getId()) || id.contains("/"))
        .map(ZoneId::of)
        .filter(zone -> Clock.of(zone, year).equals(clock))
        .findFirst()
        .orElse(clock.january().equals(clock.july()) ? clock.january() : null);
  }

  private static @Nullable Clock clock(CalendarText.Component zone) {
    ZoneOffset standard = null;
    ZoneOffset summer = null;
    int summerFrom = 0;
    int standardFrom = 0;
    for (CalendarText.Component part : zone.inside()) {
      CalendarText.Line to = part.first("TZOFFSETTO");
      CalendarText.Line start = part.first("DTSTART");
      ZoneOffset offset = to == null ? null : offset(to.value().strip());
      int month = start == null ? 0 : month(start.value());
      if (part.name().equals("STANDARD")) {
        standard = offset;
        standardFrom = month;
      } else if (part.name().equals("DAYLIGHT")) {
        summer = offset;
        summerFrom = month;
      }
    }
    if (standard == null) {
      return summer == null ? null : new Clock(summer, summer);
    }
    if (summer == null) {
      return new Clock(standard, standard);
    }
    boolean north = summerFrom < standardFrom;
    return north ? new Clock(standard, summer) : new Clock(summer, standard);
  }

  private static @Nullable ZoneOffset offset(String text) {
    try {
      return ZoneOffset.of(text);
    } catch (DateTimeException e) {
      return null;
    }
  }

  private static int month(String time) {
    return time.length() >= 6 && time.substring(4, 6).chars().allMatch(Character::isDigit)
        ? Integer.parseInt(time.substring(4, 6))
        : 0;
  }

  private static Map<String, String> windows() {
    Map<String, String> names = new HashMap<>();
    try (BufferedReader in =
        new BufferedReader(
            new InputStreamReader(
                Objects.requireNonNull(
                    Zones.class.getResourceAsStream("/calendars/windows-zones.txt")),
                StandardCharsets.UTF_8))) {
      in.lines()
          .filter(line -> !line.startsWith("#"))
          .map(line -> line.split("\t"))
          .forEach(pair -> names.put(pair[0].toLowerCase(Locale.ROOT), pair[1]));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return Map.copyOf(names);
  }
}
