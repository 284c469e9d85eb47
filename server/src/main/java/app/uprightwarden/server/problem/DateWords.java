package app.uprightwarden.server.problem;

import java.time.DateTimeException;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Dates within sentences: as English ones have them, and as another language writes the same. */
public final class DateWords {
  private static final DateTimeFormatter AT = english("date-and-time-at");

  /** The longest has a zone's name behind it. */
  private static final int MAX_LENGTH = 100;

  /** No text without these is tried in every way. */
  private static final Pattern LIKELY =
      Pattern.compile("^(?:\\p{Alpha}+ )?\\d{1,2} \\p{Alpha}{3,9}\\b.*\\d{2}:\\d{2}.*");

  private record Way(DateTimeFormatter english, DateTimeFormatter other) {}

  private final List<Way> ways;

  DateWords(Locale language) {
    Wording english = Wording.of("dates");
    Wording other = Wording.of("dates", language);
    ways =
        english.all().entrySet().stream()
            .map(
                way ->
                    new Way(
                        DateTimeFormatter.ofPattern(way.getValue(), Locale.ENGLISH),
                        DateTimeFormatter.ofPattern(other.text(way.getKey()), language)))
            .toList();
  }

  /**
   * One of the ways in which English sentences have a time, in UTC: what is written so is found
   * again in other languages.
   *
   * @param way its name in {@code wording/dates.properties}
   */
  public static DateTimeFormatter english(String way) {
    return DateTimeFormatter.ofPattern(Wording.of("dates").text(way), Locale.ENGLISH)
        .withZone(ZoneOffset.UTC);
  }

  /** A time in an English sentence, as 1 May 2026 at 09:30 UTC. */
  public static String at(Instant time) {
    return AT.format(time);
  }

  /** The same date; null where the text is none, or is written in no way of ours. */
  @Nullable String said(String text) {
    if (text.length() > MAX_LENGTH || !LIKELY.matcher(text).matches()) {
      return null;
    }
    for (Way way : ways) {
      try {
        return way.other().format(way.english().parse(text));
      } catch (DateTimeException e) {
        // it is written in another way
      }
    }
    return null;
  }
}
