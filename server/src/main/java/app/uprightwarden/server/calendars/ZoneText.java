package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Recurrence;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.zone.ZoneOffsetTransition;
import java.time.zone.ZoneOffsetTransitionRule;
import java.time.zone.ZoneRules;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Describes a zone's clock (RFC 5545 section 3.6.5) for the years that matter. Where its changes
 * follow a yearly rule, that rule is given, once it is proven to give just those changes; else each
 * change is given for itself.
 */
final class ZoneText {
  private static final int YEARS = 20;

  private ZoneText() {}

  /** One way the clock changes. */
  private record Change(ZoneOffset from, ZoneOffset to, boolean summer) {}

  static void write(ContentLines out, ZoneId zone, LocalDateTime from) {
    ZoneRules rules = zone.getRules();
    LocalDateTime end = from.plusYears(YEARS);
    Map<Change, List<LocalDateTime>> changes = new LinkedHashMap<>();
    ZoneOffsetTransition next = firstToTell(rules, from);
    while (next != null && next.getDateTimeBefore().isBefore(end)) {
      boolean summer = rules.isDaylightSavings(next.getInstant());
      changes
          .computeIfAbsent(
              new Change(next.getOffsetBefore(), next.getOffsetAfter(), summer),
              c -> new ArrayList<>())
          .add(next.getDateTimeBefore());
      next = rules.nextTransition(next.getInstant());
    }
    out.line("BEGIN", "VTIMEZONE");
    out.line("TZID", zone.getId());
    if (changes.isEmpty()) {
      ZoneOffset always = rules.getOffset(from);
      part(out, new Change(always, always, false), from.minusYears(1), null);
    }
    changes.forEach((change, times) -> parts(out, change, times, rules));
    out.line("END", "VTIMEZONE");
  }

  /**
   * The last two changes before a time, so that both halves of the year are told from the start.
   */
  private static @Nullable ZoneOffsetTransition firstToTell(ZoneRules rules, LocalDateTime from) {
    Instant at = from.toInstant(rules.getOffset(from));
    ZoneOffsetTransition last = rules.previousTransition(at);
    if (last == null) {
      return rules.nextTransition(at);
    }
    ZoneOffsetTransition before = rules.previousTransition(last.getInstant());
    boolean yearly = before != null && before.getInstant().plus(Duration.ofDays(400)).isAfter(at);
    return yearly ? before : last;
  }

  private static void parts(
      ContentLines out, Change change, List<LocalDateTime> times, ZoneRules rules) {
    for (ZoneOffsetTransitionRule rule : rules.getTransitionRules()) {
      // from the first year that the rule holds: programs expect a clock to have been so for long
      LocalDateTime since = rule.createTransition(firstYear(rules)).getDateTimeBefore();
      String yearly = yearly(rule);
      if (rule.getOffsetBefore().equals(change.from())
          && rule.getOffsetAfter().equals(change.to())
          && yearly != null
          && !since.isAfter(times.get(0))
          && gives(yearly, since, times)) {
        part(out, change, since, yearly);
        return;
      }
    }
    times.forEach(time -> part(out, change, time, null));
  }

  private static int firstYear(ZoneRules rules) {
    List<ZoneOffsetTransition> singly = rules.getTransitions();
    return singly.isEmpty()
        ? 1970
        : singly.get(singly.size() - 1).getDateTimeBefore().getYear() + 1;
  }

  /**
   * A yearly rule by month and weekday; a weekday on or after a day is one of the seven from it.
   * Null where these seven reach into the next month, which no one rule says: each change is given
   * then.
   */
  private static @Nullable String yearly(ZoneOffsetTransitionRule rule) {
    StringBuilder text =
        new StringBuilder("FREQ=YEARLY;BYMONTH=").append(rule.getMonth().getValue());
    int day = rule.getDayOfMonthIndicator();
    if (rule.getDayOfWeek() == null) {
      return text.append(";BYMONTHDAY=").append(day).toString();
    }
    String weekday = rule.getDayOfWeek().name().substring(0, 2).toUpperCase(Locale.ROOT);
    if (day == -1) {
      return text.append(";BYDAY=-1").append(weekday).toString();
    }
    if (day > 0 && day % 7 == 1) {
      return text.append(";BYDAY=").append(day / 7 + 1).append(weekday).toString();
    }
    boolean isWithin =
        day > 0 ? day + 6 <= rule.getMonth().minLength() : -day + 6 <= rule.getMonth().minLength();
    if (!isWithin) {
      return null;
    }
    List<String> days = new ArrayList<>();
    for (int i = 0; i < 7; i++) {
      days.add(String.valueOf(day < 0 ? day - i : day + i));
    }
    return text.append(";BYDAY=")
        .append(weekday)
        .append(";BYMONTHDAY=")
        .append(String.join(",", days))
        .toString();
  }

  /** Whether the rule, begun at some time, gives all of these times and none between. */
  private static boolean gives(String rule, LocalDateTime since, List<LocalDateTime> times) {
    Recurrence.Starts starts = Recurrence.parse(rule, ZoneOffset.UTC).from(since);
    starts.skipTo(times.get(0));
    return times.stream().allMatch(time -> starts.hasNext() && starts.next().equals(time));
  }

  private static void part(
      ContentLines out, Change change, LocalDateTime time, @Nullable String yearly) {
    String name = change.summer() ? "DAYLIGHT" : "STANDARD";
    out.line("BEGIN", name);
    out.line("DTSTART", time.format(CalendarTimes.TIME));
    if (yearly != null) {
      out.line("RRULE", yearly);
    }
    out.line("TZOFFSETFROM", offset(change.from()));
    out.line("TZOFFSETTO", offset(change.to()));
    out.line("END", name);
  }

  private static String offset(ZoneOffset offset) {
    String id = offset.getTotalSeconds() == 0 ? "+00:00" : offset.getId();
    return id.replace(":", "");
  }
}
