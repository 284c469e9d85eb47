package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Recurrence;
import java.time.DateTimeException;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.YearMonth;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What a VTIMEZONE says of a clock (RFC 5545 section 3.6.5) over the years in which it is used:
 * each observance begins at its DTSTART, by its RRULE and at its RDATEs, on the clock as it was
 * before (TZOFFSETFROM).
 */
final class DescribedClock {
  /** Over so many years at most a clock is held against others. */
  private static final int MAX_YEARS = 12;

  private record Onset(Instant at, ZoneOffset from, ZoneOffset to) {}

  private final List<Onset> onsets;
  private final Instant begin;
  private final int firstYear;
  private final int lastYear;

  private DescribedClock(List<Onset> onsets, int firstYear, int lastYear) {
    this.onsets = onsets;
    this.firstYear = firstYear;
    this.lastYear = lastYear;
    this.begin = LocalDate.of(firstYear, 1, 1).atStartOfDay().toInstant(ZoneOffset.UTC);
  }

  /** The clock, or null where it says none. */
  static @Nullable DescribedClock of(CalendarText.Component zone, int firstYear, int lastYear) {
    int last = Math.min(lastYear, firstYear + MAX_YEARS);
    List<Onset> onsets = new ArrayList<>();
    for (CalendarText.Component part : zone.inside()) {
      if (part.name().equals("STANDARD") || part.name().equals("DAYLIGHT")) {
        try {
          add(part, firstYear - 1, last, onsets);
        } catch (DateTimeException | IllegalArgumentException e) {
          return null; // one that cannot be read says nothing
        }
      }
    }
    onsets.sort(Comparator.comparing(Onset::at));
    return onsets.isEmpty() ? null : new DescribedClock(onsets, firstYear, last);
  }

  private static void add(
      CalendarText.Component part, int firstYear, int lastYear, List<Onset> onsets) {
    CalendarText.Line start = part.first("DTSTART");
    CalendarText.Line to = part.first("TZOFFSETTO");
    if (start == null || to == null) {
      return;
    }
    ZoneOffset after = ZoneOffset.of(to.value().strip());
    CalendarText.Line from = part.first("TZOFFSETFROM");
    ZoneOffset before = from == null ? after : ZoneOffset.of(from.value().strip());
    LocalDateTime first = local(start.value());
    onsets.add(new Onset(first.toInstant(before), before, after));
    for (CalendarText.Line dates : part.all("RDATE").toList()) {
      for (String date : dates.value().split(",")) {
        onsets.add(new Onset(local(date).toInstant(before), before, after));
      }
    }
    for (CalendarText.Line rule : part.all("RRULE").toList()) {
      Recurrence.Starts starts = Recurrence.parse(rule.value().strip(), before).from(first);
      LocalDateTime since = LocalDate.of(firstYear, 1, 1).atStartOfDay();
      if (since.isAfter(first)) {
        starts.skipTo(since);
      }
      for (int i = 0; i < 4 * MAX_YEARS && starts.hasNext(); i++) {
        LocalDateTime next = starts.next();
        if (next.getYear() > lastYear) {
          break;
        }
        onsets.add(new Onset(next.toInstant(before), before, after));
      }
    }
  }

  private static LocalDateTime local(String text) {
    String time = text.strip();
    return LocalDateTime.parse(
        time.endsWith("Z") ? time.substring(0, time.length() - 1) : time, CalendarTimes.TIME);
  }

  private ZoneOffset at(Instant instant) {
    ZoneOffset offset = onsets.get(0).from();
    for (Onset onset : onsets) {
      if (onset.at().isAfter(instant)) {
        break;
      }
      offset = onset.to();
    }
    return offset;
  }

  /** Whether a zone's clock shows the same throughout these years. */
  boolean agrees(ZoneId zone) {
    for (Onset onset : onsets) {
      boolean counts =
          !onset.at().isBefore(begin)
              && onset.at().atOffset(ZoneOffset.UTC).getYear() <= lastYear
              && !onset.from().equals(onset.to());
      if (counts && (!same(zone, onset.at()) || !same(zone, onset.at().minusSeconds(1)))) {
        return false;
      }
    }
    for (YearMonth month = YearMonth.of(firstYear, 1);
        month.getYear() <= lastYear;
        month = month.plusMonths(1)) {
      if (!same(zone, month.atDay(15).atTime(12, 0).toInstant(ZoneOffset.UTC))) {
        return false;
      }
    }
    return true;
  }

  private boolean same(ZoneId zone, Instant instant) {
    return zone.getRules().getOffset(instant).equals(at(instant));
  }

  /** The offset it has throughout, or null where it changes. */
  @Nullable ZoneOffset always() {
    ZoneOffset first = at(begin);
    return onsets.stream()
            .filter(o -> !o.at().isBefore(begin))
            .allMatch(o -> o.to().equals(first) && o.from().equals(first))
        ? first
        : null;
  }
}
