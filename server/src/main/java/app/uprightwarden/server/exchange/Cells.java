package app.uprightwarden.server.exchange;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.Texts;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** What the cells of a table say: times, recurrences, numbers and several words in one. */
final class Cells {
  private static final Map<String, String> SAID_RECURRENCES =
      Map.of(
          "daily", "FREQ=DAILY",
          "every day", "FREQ=DAILY",
          "every weekday", "FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR",
          "weekly", "FREQ=WEEKLY",
          "monthly", "FREQ=MONTHLY",
          "yearly", "FREQ=YEARLY");

  private static final Pattern TIME =
      Pattern.compile(
          "(\\d{4})-(\\d{1,2})-(\\d{1,2})(?:[T ]+(\\d{1,2})[:.](\\d{2})(?::\\d{2}(?:\\.0+)?)?)?");
  private static final Pattern DAY_FIRST =
      Pattern.compile(
          "(\\d{1,2})\\.(\\d{1,2})\\.(\\d{4})(?:[T ,]+(\\d{1,2})[:.](\\d{2})(?::\\d{2})?)?");

  private Cells() {}

  /** A local time as tables and spreadsheets write it, in the way documents do. */
  static String time(String where, String cell, List<Fault> faults) {
    Matcher year = TIME.matcher(cell);
    Matcher day = DAY_FIRST.matcher(cell);
    try {
      if (year.matches()) {
        return local(year, 1, 2, 3);
      }
      if (day.matches()) {
        return local(day, 3, 2, 1);
      }
    } catch (DateTimeException e) {
      faults.add(new Fault(where, "“" + cell + "” is no day or time that there is"));
      return cell;
    }
    faults.add(
        new Fault(
            where,
            cell.isEmpty()
                ? "is empty; write it like 2027-05-10 09:00"
                : "“" + Texts.cut(cell, 60) + "” is no time; write it like 2027-05-10 09:00"));
    return cell;
  }

  private static String local(Matcher parts, int year, int month, int day) {
    boolean hasTime = parts.group(4) != null;
    return LocalDateTime.of(
            Integer.parseInt(parts.group(year)),
            Integer.parseInt(parts.group(month)),
            Integer.parseInt(parts.group(day)),
            hasTime ? Integer.parseInt(parts.group(4)) : 0,
            hasTime ? Integer.parseInt(parts.group(5)) : 0)
        .toString();
  }

  /** Several times in a cell, apart by spaces or, where they have spaces themselves, semicolons. */
  static List<String> times(String where, String cell, List<Fault> faults) {
    String[] parts = cell.contains(";") || cell.contains(",") ? cell.split("[;,]") : null;
    List<String> several = parts == null ? List.of(cell) : List.of(parts);
    List<String> times = new ArrayList<>();
    for (String one : several) {
      boolean isOne =
          TIME.matcher(one.strip()).matches() || DAY_FIRST.matcher(one.strip()).matches();
      for (String each : isOne ? List.of(one.strip()) : words(one)) {
        times.add(time(where, each, faults));
      }
    }
    return times;
  }

  /**
   * A rule of recurrence (RFC 5545 section 3.3.10), or one of the words that people write instead.
   *
   * @return empty where it does not recur
   */
  static String recurrence(String cell, List<Fault> faults) {
    String plain = cell.strip().toLowerCase(Locale.ROOT);
    if (plain.isEmpty() || plain.equals("once") || plain.equals("no") || plain.equals("never")) {
      return "";
    }
    String said = SAID_RECURRENCES.get(plain);
    if (said != null) {
      return said;
    }
    String rule = cell.strip().replaceFirst("(?i)^RRULE:", "");
    if (!rule.toUpperCase(Locale.ROOT).contains("FREQ=")) {
      faults.add(
          new Fault(
              "/recurrence",
              "“"
                  + Texts.cut(cell, 60)
                  + "” is no recurrence: daily, weekly, monthly, yearly, or a rule such as"
                  + " FREQ=WEEKLY;BYDAY=MO;COUNT=10"));
    }
    return rule;
  }

  /** A number where it is one of at most nine digits, else the cell. */
  static Object number(String cell) {
    return cell.matches("\\d{1,9}") ? (Object) Integer.valueOf(cell) : cell;
  }

  /** Words apart by spaces, commas or semicolons. */
  static List<String> words(String cell) {
    return Arrays.stream(cell.split("[\\s,;]+")).filter(word -> !word.isEmpty()).toList();
  }
}
