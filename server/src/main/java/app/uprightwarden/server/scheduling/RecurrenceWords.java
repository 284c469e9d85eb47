package app.uprightwarden.server.scheduling;

import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/** A recurrence rule (RFC 5545) as people say it; what is beyond the common ones stays as it is. */
final class RecurrenceWords {
  private static final Set<String> COMMON =
      Set.of("FREQ", "INTERVAL", "BYDAY", "BYMONTHDAY", "BYMONTH", "UNTIL", "COUNT", "WKST");
  private static final Map<String, String> DAYS =
      Map.of(
          "MO",
          "Monday",
          "TU",
          "Tuesday",
          "WE",
          "Wednesday",
          "TH",
          "Thursday",
          "FR",
          "Friday",
          "SA",
          "Saturday",
          "SU",
          "Sunday");
  private static final Map<String, String> ORDINALS =
      Map.of("1", "first", "2", "second", "3", "third", "4", "fourth", "5", "fifth", "-1", "last");
  private static final Pattern DAY = Pattern.compile("([+-]?\\d+)?([A-Z]{2})");
  private static final DateTimeFormatter DATE =
      DateTimeFormatter.ofPattern("d MMMM uuuu", Locale.UK);

  private RecurrenceWords() {}

  static String of(String rule, ZoneId zone) {
    Map<String, String> parts = new HashMap<>();
    for (String part : rule.toUpperCase(Locale.ROOT).split(";")) {
      int equals = part.indexOf('=');
      if (equals > 0) {
        parts.put(part.substring(0, equals).strip(), part.substring(equals + 1).strip());
      }
    }
    if (!COMMON.containsAll(parts.keySet())) {
      return rule;
    }
    String every = every(parts.getOrDefault("FREQ", ""), parts.getOrDefault("INTERVAL", "1"));
    if (every.isEmpty()) {
      return rule;
    }
    StringBuilder words = new StringBuilder(every);
    if (parts.containsKey("BYDAY")) {
      words.append(" on ").append(days(parts.get("BYDAY").split(",")));
    }
    if (parts.containsKey("BYMONTHDAY")) {
      words.append(" on day ").append(parts.get("BYMONTHDAY").replace("-1", "last"));
    }
    if (parts.containsKey("COUNT")) {
      words.append(", ").append(parts.get("COUNT")).append(" times");
    }
    if (parts.containsKey("UNTIL")) {
      words.append(", until ").append(until(parts.get("UNTIL"), zone));
    }
    return words.toString();
  }

  private static String every(String frequency, String interval) {
    String unit =
        switch (frequency) {
          case "DAILY" -> "day";
          case "WEEKLY" -> "week";
          case "MONTHLY" -> "month";
          case "YEARLY" -> "year";
          default -> "";
        };
    if (unit.isEmpty()) {
      return "";
    }
    return interval.equals("1") ? "every " + unit : "every " + interval + " " + unit + "s";
  }

  private static String days(String[] codes) {
    List<String> names = new ArrayList<>();
    for (String code : codes) {
      Matcher matcher = DAY.matcher(code.strip());
      if (!matcher.matches()) {
        return String.join(", ", codes);
      }
      String ordinal = matcher.group(1) == null ? "" : matcher.group(1).replace("+", "");
      String day = DAYS.getOrDefault(matcher.group(2), matcher.group(2));
      names.add(
          ordinal.isEmpty() ? day : "the " + ORDINALS.getOrDefault(ordinal, ordinal) + " " + day);
    }
    return names.size() == 1
        ? names.get(0)
        : String.join(", ", names.subList(0, names.size() - 1))
            + " and "
            + names.get(names.size() - 1);
  }

  private static String until(String text, ZoneId zone) {
    try {
      if (text.length() == 8) {
        return LocalDate.parse(text, DateTimeFormatter.BASIC_ISO_DATE).format(DATE);
      }
      LocalDateTime time =
          LocalDateTime.parse(
              text.replace("Z", ""), DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss", Locale.ROOT));
      return text.endsWith("Z")
          ? time.atOffset(ZoneOffset.UTC).atZoneSameInstant(zone).format(DATE)
          : time.format(DATE);
    } catch (java.time.DateTimeException e) {
      return text;
    }
  }
}
