package app.uprightwarden.server.scheduling;

import app.uprightwarden.server.problem.Wording;
import java.time.DayOfWeek;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.TextStyle;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** A recurrence rule (RFC 5545) as people say it; what is beyond the common ones stays as it is. */
final class RecurrenceWords {
  private static final Set<String> COMMON =
      Set.of("FREQ", "INTERVAL", "BYDAY", "BYMONTHDAY", "BYMONTH", "UNTIL", "COUNT", "WKST");
  private static final Map<String, DayOfWeek> DAYS =
      Stream.of(DayOfWeek.values())
          .collect(Collectors.toMap(day -> day.name().substring(0, 2), day -> day));
  private static final Pattern DAY = Pattern.compile("([+-]?\\d+)?([A-Z]{2})");

  private final Wording words;
  private final Locale language;

  private RecurrenceWords(Locale language) {
    words = Wording.of("recurrence", language);
    this.language = language;
  }

  static String of(String rule, ZoneId zone, Locale language) {
    return new RecurrenceWords(language).of(rule, zone);
  }

  private String of(String rule, ZoneId zone) {
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
    StringBuilder said = new StringBuilder(every);
    if (parts.containsKey("BYDAY")) {
      said.append(words.say("days", "days", days(parts.get("BYDAY").split(","))));
    }
    if (parts.containsKey("BYMONTHDAY")) {
      String day = parts.get("BYMONTHDAY").replace("-1", words.text("last"));
      said.append(words.say("month-day", "day", day));
    }
    if (parts.containsKey("COUNT")) {
      said.append(words.say("times", "n", parts.get("COUNT")));
    }
    if (parts.containsKey("UNTIL")) {
      said.append(words.say("until", "date", until(parts.get("UNTIL"), zone)));
    }
    return said.toString();
  }

  private String every(String frequency, String interval) {
    return words.has(frequency) && interval.matches("[0-9]{1,4}")
        ? words.say(frequency, "n", Integer.parseInt(interval))
        : "";
  }

  private String days(String[] codes) {
    List<String> names = new ArrayList<>();
    for (String code : codes) {
      Matcher matcher = DAY.matcher(code.strip());
      if (!matcher.matches()) {
        return String.join(", ", codes);
      }
      String ordinal = matcher.group(1) == null ? "" : matcher.group(1).replace("+", "");
      DayOfWeek of = DAYS.get(matcher.group(2));
      String day = of == null ? matcher.group(2) : of.getDisplayName(TextStyle.FULL, language);
      String nth = "ordinal." + ordinal;
      names.add(
          ordinal.isEmpty()
              ? day
              : words.say(
                  "nth", "ordinal", words.has(nth) ? words.text(nth) : ordinal, "day", day));
    }
    return words.row(names);
  }

  private String until(String text, ZoneId zone) {
    DateTimeFormatter date = DateTimeFormatter.ofPattern(words.text("date"), language);
    try {
      if (text.length() == 8) {
        return LocalDate.parse(text, DateTimeFormatter.BASIC_ISO_DATE).format(date);
      }
      LocalDateTime time =
          LocalDateTime.parse(
              text.replace("Z", ""), DateTimeFormatter.ofPattern("uuuuMMdd'T'HHmmss", Locale.ROOT));
      return text.endsWith("Z")
          ? time.atOffset(ZoneOffset.UTC).atZoneSameInstant(zone).format(date)
          : time.format(date);
    } catch (java.time.DateTimeException e) {
      return text;
    }
  }
}
