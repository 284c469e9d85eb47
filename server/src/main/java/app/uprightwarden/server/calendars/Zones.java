package app.uprightwarden.server.calendars;

import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;

/**
 * Finds the IANA zone that a calendar means: by its name; by the Windows name (Unicode CLDR); by
 * the name's end, where a maker puts a path before it, unless its VTIMEZONE says otherwise; by what
 * its VTIMEZONE says of the clock over the years that matter.
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

  private static final int YEARS_OF_A_SERIES = 3;
  private static final int[] THIS_YEARS = {2026, 2027};

  private final Map<String, CalendarText.Component> described = new HashMap<>();
  private final Map<String, Found> found = new HashMap<>();
  private final Map<String, int[]> years = new HashMap<>();
  private final ZoneId usual;

  /**
   * @param document with its VTIMEZONEs, and the events that say over which years they count
   * @param usual the zone that times without one are in
   */
  Zones(CalendarText.Document document, ZoneId usual) {
    document.events().forEach(this::note);
    for (CalendarText.Component zone : document.zones()) {
      CalendarText.Line id = zone.first("TZID");
      if (id != null) {
        this.described.put(id.value().strip(), zone);
      }
    }
    this.usual = usual;
  }

  private void note(CalendarText.Component event) {
    boolean recurs = event.first("RRULE") != null;
    for (CalendarText.Line line : event.lines()) {
      String zone = line.parameter("TZID");
      String year = line.value().length() < 4 ? "" : line.value().substring(0, 4);
      if (zone != null && year.matches("[12]\\d{3}")) {
        int first = Integer.parseInt(year);
        int last = recurs ? first + YEARS_OF_A_SERIES : first;
        int[] known = years.computeIfAbsent(zone.strip(), z -> new int[] {first, last});
        known[0] = Math.min(known[0], first);
        known[1] = Math.max(known[1], last);
      }
    }
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
    CalendarText.Component description = described.get(name);
    int[] span = years.getOrDefault(name, THIS_YEARS);
    DescribedClock clock =
        description == null ? null : DescribedClock.of(description, span[0], span[1]);
    ZoneId direct = iana(name);
    if (direct != null) {
      return clock == null || clock.agrees(direct)
          ? new Found(direct, null)
          : against(name, direct);
    }
    String windows = WINDOWS.get(name.toLowerCase(Locale.ROOT));
    if (windows != null) {
      ZoneId zone = ZoneId.of(windows);
      return clock == null || clock.agrees(zone) ? read(name, zone) : against(name, zone);
    }
    ZoneId likely = byItsEnd(name);
    if (likely == null && description != null) {
      CalendarText.Line location = description.first("X-LIC-LOCATION");
      likely = location == null ? null : iana(location.value().strip());
    }
    if (likely != null && (clock == null || clock.agrees(likely))) {
      return name.endsWith(likely.getId()) ? new Found(likely, null) : read(name, likely);
    }
    ZoneId byClock = clock == null ? null : byClock(clock);
    return byClock == null ? new Found(null, null) : read(name, byClock);
  }

  private static @Nullable ZoneId byItsEnd(String name) {
    String[] parts = name.split("/");
    for (int from = 1; from < parts.length; from++) {
      ZoneId end = iana(String.join("/", List.of(parts).subList(from, parts.length)));
      if (end != null) {
        return end;
      }
    }
    return null;
  }

  /** A name that is known counts; that its description says otherwise is told. */
  private static Found against(String name, ZoneId zone) {
    return new Found(
        zone,
        "the zone “"
            + name
            + "” is read as "
            + zone.getId()
            + ", although the calendar describes another clock for it: look at the times");
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

  private @Nullable ZoneId byClock(DescribedClock clock) {
    List<String> candidates = new ArrayList<>(List.of(usual.getId()));
    candidates.addAll(USUAL);
    candidates.addAll(new TreeSet<>(ZoneId.getAvailableZoneIds()));
    return candidates.stream()
        .filter(id -> id.equals(usual.getId()) || id.contains("/"))
        .map(ZoneId::of)
        .filter(clock::agrees)
        .findFirst()
        .orElse(clock.always());
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
