package app.uprightwarden.check;

import app.uprightwarden.server.exchange.OfflineCheck;
import java.time.Clock;
import java.time.DateTimeException;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * What was asked for on the command line.
 *
 * @param rulebook a file with the rulebook; null for that of the bundles
 * @param against a file with another rulebook, against which the difference is shown; or null
 * @param failFrom findings of less than this severity do not make it fail
 */
record Options(
    List<String> files,
    @Nullable String rulebook,
    @Nullable String against,
    String format,
    int failFrom,
    OfflineCheck.Window window,
    boolean isHelp) {
  static final String HELP =
      """
      warden-check [options] FILE...

      Judges the meetings of bundles (.json, .yaml) and calendars (.ics) against a rulebook.

        --rulebook FILE    the rulebook, by itself or in a bundle; that of the bundles where left out
        --against FILE     another rulebook: what would be found more, and what no longer
        --as FORMAT        text (where left out), json or sarif
        --fail-from N      findings of severity N or more make it fail, 1 to 5; 1 where left out
        --from DATE        the first day looked at; today where left out
        --to DATE          the day after the last; 90 days later where left out
        --zone ZONE        the zone of times in calendars that have none; UTC where left out
        --host ADDRESS     who hosts what has no organiser; nobody@localhost where left out

      Exit status: 0 where nothing counts, else the gravest severity found, 1 to 5; with --against only
      what would be found more counts. 64 for a wrong option, 65 for a file with faults, 66 for one that
      cannot be read.
      """;

  private static final Duration DEFAULT_WINDOW = Duration.ofDays(90);
  private static final Duration LONGEST = Duration.ofDays(3660);
  private static final Set<String> FORMATS = Set.of("text", "json", "sarif");

  /** What is wrong with the command line. */
  static final class Wrong extends Exception {
    private static final long serialVersionUID = 1;

    Wrong(String why) {
      super(why);
    }
  }

  static Options of(String[] args, Clock clock) throws Wrong {
    List<String> files = new ArrayList<>();
    String rulebook = null;
    String against = null;
    String format = "text";
    int failFrom = 1;
    Instant from = clock.instant();
    Instant to = null;
    ZoneId zone = ZoneOffset.UTC;
    String host = "nobody@localhost";
    boolean help = false;
    for (int i = 0; i < args.length; i++) {
      String arg = args[i];
      if (!arg.startsWith("--")) {
        files.add(arg);
        continue;
      }
      if (arg.equals("--help")) {
        help = true;
        continue;
      }
      if (i + 1 == args.length) {
        throw new Wrong(arg + " needs a value.");
      }
      String value = args[++i];
      switch (arg) {
        case "--rulebook" -> rulebook = value;
        case "--against" -> against = value;
        case "--as" -> format = value;
        case "--fail-from" -> failFrom = severity(value);
        case "--from" -> from = day(value);
        case "--to" -> to = day(value);
        case "--zone" -> zone = zone(value);
        case "--host" -> host = value;
        default -> throw new Wrong("there is no option " + arg + ".");
      }
    }
    if (!FORMATS.contains(format)) {
      throw new Wrong("--as is text, json or sarif, not " + format + ".");
    }
    if (files.isEmpty() && !help) {
      throw new Wrong("name at least one file.");
    }
    Instant end = to == null ? from.plus(DEFAULT_WINDOW) : to;
    if (!end.isAfter(from) || Duration.between(from, end).compareTo(LONGEST) > 0) {
      throw new Wrong("--to comes after --from, ten years at most.");
    }
    return new Options(
        List.copyOf(files),
        rulebook,
        against,
        format,
        failFrom,
        new OfflineCheck.Window(from, end, zone, host),
        help);
  }

  private static int severity(String text) throws Wrong {
    if (!text.matches("[1-5]")) {
      throw new Wrong("--fail-from is a severity from 1 to 5, not " + text + ".");
    }
    return Integer.parseInt(text);
  }

  private static Instant day(String text) throws Wrong {
    try {
      return LocalDate.parse(text).atStartOfDay(ZoneOffset.UTC).toInstant();
    } catch (DateTimeException e) {
      throw new Wrong(text + " is no day such as 2027-01-31.");
    }
  }

  private static ZoneId zone(String text) throws Wrong {
    try {
      return ZoneId.of(text);
    } catch (DateTimeException e) {
      throw new Wrong("there is no time zone " + text + ".");
    }
  }
}
