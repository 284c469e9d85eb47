package app.uprightwarden.core.calendar;

import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Locale;
import org.dmfs.rfc5545.DateTime;
import org.dmfs.rfc5545.recur.Freq;
import org.dmfs.rfc5545.recur.InvalidRecurrenceRuleException;
import org.dmfs.rfc5545.recur.RecurrenceRule;
import org.dmfs.rfc5545.recur.RecurrenceRuleIterator;

/**
 * A recurrence rule (RFC 5545 section 3.3.10), expanded on the local clock of the meeting's zone: a
 * meeting at nine stays at nine when clocks change. An {@code UNTIL} in UTC is brought onto that
 * clock first.
 */
public final class Recurrence {
  /** The stretch in which the occurrences of one meeting are counted. */
  public static final Duration PACE = Duration.ofDays(1200);

  /** Series begin no earlier; what lies before is history, and costs walking through. */
  public static final int EARLIEST_YEAR = 1900;

  public static final int LATEST_YEAR = 2200;

  /** The times that one interval of a rule may give. */
  public static final int MAX_AT_ONCE = 5_000;

  private final RecurrenceRule rule;

  private Recurrence(RecurrenceRule rule) {
    this.rule = rule;
  }

  /**
   * Reads a rule.
   *
   * @param text the value of an RRULE, without its name
   * @throws IllegalArgumentException with what is wrong, where it does not parse
   */
  public static Recurrence parse(String text, ZoneId zone) {
    try {
      RecurrenceRule rule =
          new RecurrenceRule(
              text.strip().toUpperCase(Locale.ROOT), RecurrenceRule.RfcMode.RFC5545_STRICT);
      DateTime until = rule.getUntil();
      if (until != null && !until.isFloating()) {
        LocalDateTime local =
            LocalDateTime.ofInstant(Instant.ofEpochMilli(until.getTimestamp()), zone);
        rule.setUntil(floating(local));
      } else if (until != null && until.isAllDay()) {
        // a date alone includes the whole of that day
        rule.setUntil(
            new DateTime(until.getYear(), until.getMonth(), until.getDayOfMonth(), 23, 59, 59));
      }
      return new Recurrence(rule);
    } catch (InvalidRecurrenceRuleException | DateTimeException | IllegalArgumentException e) {
      throw new IllegalArgumentException("not a recurrence rule: " + e.getMessage(), e);
    }
  }

  /**
   * Refuses a rule that no register could hold: more than {@link Occurrences#MAX} occurrences by
   * its count, or in the {@link #PACE} from its start.
   *
   * @param start the first start, from {@link #EARLIEST_YEAR} to {@link #LATEST_YEAR}
   * @throws IllegalArgumentException with what is too much
   */
  public void checkPace(LocalDateTime start) {
    if (start.getYear() < EARLIEST_YEAR || start.getYear() > LATEST_YEAR) {
      throw new IllegalArgumentException(
          "a series begins between the years " + EARLIEST_YEAR + " and " + LATEST_YEAR);
    }
    if (atOnce() > MAX_AT_ONCE) {
      throw new IllegalArgumentException(
          "its parts together give more times at once than "
              + MAX_AT_ONCE
              + "; make it less frequent");
    }
    Integer count = rule.getCount();
    if (count != null && count > Occurrences.MAX) {
      throw new IllegalArgumentException(
          "recurs " + count + " times; " + Occurrences.MAX + " are the most. End it by a date");
    }
    LocalDateTime horizon = start.plus(PACE);
    Starts each = from(start);
    for (int i = 0; each.hasNext() && !each.next().isAfter(horizon); i++) {
      if (i >= Occurrences.MAX) {
        throw new IllegalArgumentException(
            "recurs more than "
                + Occurrences.MAX
                + " times in "
                + PACE.toDays()
                + " days; make it less frequent");
      }
    }
  }

  /**
   * How many times one interval of the rule can give. They are all held at once while it is
   * expanded, however few BYSETPOS or a date leaves of them.
   */
  private long atOnce() {
    Freq freq = rule.getFreq();
    long days =
        switch (freq) {
          case YEARLY -> namesDays() ? 366 : Math.max(1, count(RecurrenceRule.Part.BYMONTH));
          case MONTHLY -> namesDays() ? 31 : 1;
          case WEEKLY -> 7;
          default -> 1;
        };
    return days
        * Math.max(1, count(RecurrenceRule.Part.BYHOUR))
        * Math.max(1, count(RecurrenceRule.Part.BYMINUTE))
        * Math.max(1, count(RecurrenceRule.Part.BYSECOND));
  }

  private boolean namesDays() {
    List<RecurrenceRule.WeekdayNum> weekdays = rule.getByDayPart();
    return weekdays != null
        || count(RecurrenceRule.Part.BYMONTHDAY) > 0
        || count(RecurrenceRule.Part.BYYEARDAY) > 0
        || count(RecurrenceRule.Part.BYWEEKNO) > 0;
  }

  private long count(RecurrenceRule.Part part) {
    List<Integer> given = rule.getByPart(part);
    return given == null ? 0 : given.size();
  }

  /** Whether it has a last occurrence. */
  public boolean ends() {
    return rule.getUntil() != null || rule.getCount() != null;
  }

  /**
   * The local starts in order.
   *
   * @param first the series' first start, which is always part of it
   */
  public Starts from(LocalDateTime first) {
    return new Starts(rule.iterator(floating(first)));
  }

  /** Walks over local starts. */
  public static final class Starts {
    private final RecurrenceRuleIterator iterator;

    private Starts(RecurrenceRuleIterator iterator) {
      this.iterator = iterator;
    }

    /** Whether there is another start. */
    public boolean hasNext() {
      return iterator.hasNext();
    }

    /** The next start, by the series' own clock. */
    public LocalDateTime next() {
      return local(iterator.nextDateTime());
    }

    /** Moves past every start before this one. */
    public void skipTo(LocalDateTime from) {
      iterator.fastForward(floating(from));
    }
  }

  private static DateTime floating(LocalDateTime time) {
    return new DateTime(
        time.getYear(),
        time.getMonthValue() - 1,
        time.getDayOfMonth(),
        time.getHour(),
        time.getMinute(),
        time.getSecond());
  }

  private static LocalDateTime local(DateTime time) {
    return LocalDateTime.ofEpochSecond(
        Math.floorDiv(time.getTimestamp(), 1000L), 0, ZoneOffset.UTC);
  }
}
