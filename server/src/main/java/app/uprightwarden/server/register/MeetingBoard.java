package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** The register as a table, and as a week. */
@Service
class MeetingBoard {
  /** How far ahead the register looks. */
  static final Duration WINDOW = Duration.ofDays(90);

  private static final int MOST_IN_A_WEEK = 3000;

  private final BoardLines lines;
  private final RegisterService register;
  private final UnitScope units;

  MeetingBoard(BoardLines lines, RegisterService register, UnitScope units) {
    this.units = units;
    this.lines = lines;
    this.register = register;
  }

  /** A meeting's line. */
  record Line(
      String id,
      String title,
      @Nullable String kind,
      @Nullable String unit,
      String host,
      String hostName,
      String start,
      String zone,
      int minutes,
      @Nullable String recurrence,
      @Nullable Instant next,
      int occurrences,
      double exposure,
      String band,
      int findings,
      int worst,
      int invited,
      @Nullable String room,
      String changedBy,
      Instant changedAt) {}

  /** What to show. Null or blank takes all. */
  record Filter(
      @Nullable String text,
      @Nullable String unit,
      @Nullable String kind,
      @Nullable String band,
      @Nullable String host,
      boolean open) {
    boolean keeps(Line line) {
      return (text == null
              || text.isBlank()
              || (line.title() + " " + line.host() + " " + line.hostName())
                  .toLowerCase(Locale.ROOT)
                  .contains(text.strip().toLowerCase(Locale.ROOT)))
          && (unit == null || unit.isBlank() || unit.equals(line.unit()))
          && (kind == null || kind.isBlank() || kind.equals(line.kind()))
          && (band == null || band.isBlank() || band.equals(line.band()))
          && (host == null
              || host.isBlank()
              || Directory.fold(host).equals(Directory.fold(line.host())))
          && (!open || line.findings() > 0);
    }
  }

  List<Line> lines(SignedIn who, Filter filter, String sort) {
    String address = Directory.fold(who.email());
    Set<String> only = units.units(who);
    List<Line> kept = new ArrayList<>();
    for (BoardLines.Known known : lines.current()) {
      boolean concerns =
          (!who.isHost() || known.hosts().contains(address))
              && (only == null || only.contains(String.valueOf(known.line().unit())));
      if (concerns && filter.keeps(known.line())) {
        kept.add(known.line());
      }
    }
    kept.sort(order(sort));
    return kept;
  }

  /** By a column, the other way round with a minus before it. */
  private static Comparator<Line> order(String sort) {
    boolean reverse = sort.startsWith("-");
    Comparator<Line> byNext =
        Comparator.comparing(Line::next, Comparator.nullsLast(Comparator.naturalOrder()));
    Comparator<Line> by =
        switch (reverse ? sort.substring(1) : sort) {
          case "title" -> Comparator.comparing(line -> line.title().toLowerCase(Locale.ROOT));
          case "exposure" -> Comparator.comparingDouble(Line::exposure).reversed();
          case "findings" ->
              Comparator.comparingInt(Line::worst).thenComparingInt(Line::findings).reversed();
          case "host" -> Comparator.comparing(Line::hostName);
          case "kind" -> Comparator.comparing(line -> String.valueOf(line.kind()));
          case "unit" -> Comparator.comparing(line -> String.valueOf(line.unit()));
          case "invited" -> Comparator.comparingInt(Line::invited).reversed();
          case "changed" -> Comparator.comparing(Line::changedAt).reversed();
          default -> byNext;
        };
    return (reverse ? by.reversed() : by).thenComparing(byNext);
  }

  /**
   * One occurrence as the week view draws it.
   *
   * @param at its original local start, which names it
   */
  record OnWeek(
      String id, String title, String at, Instant start, Instant end, String band, int worst) {}

  /** The occurrences of the lines that a filter keeps, by start; {@code more} were left out. */
  record Week(List<OnWeek> items, int more) {}

  Week week(SignedIn who, Filter filter, Instant from, Instant to) {
    Map<String, Line> kept = new HashMap<>();
    lines(who, filter, "next").forEach(line -> kept.put(line.id(), line));
    List<OnWeek> items = new ArrayList<>();
    List<String> ids = List.copyOf(kept.keySet());
    for (int i = 0; i < ids.size(); i += 1000) {
      register
          .among(ids.subList(i, Math.min(i + 1000, ids.size())))
          .forEach((id, stored) -> add(items, stored.meeting(), kept.get(id), from, to));
    }
    items.sort(Comparator.comparing(OnWeek::start).thenComparing(OnWeek::title));
    int shown = Math.min(items.size(), MOST_IN_A_WEEK);
    return new Week(List.copyOf(items.subList(0, shown)), items.size() - shown);
  }

  private static void add(
      List<OnWeek> items, Meeting meeting, @Nullable Line line, Instant from, Instant to) {
    if (line == null) {
      return;
    }
    for (Occurrence o : Occurrences.between(meeting, from, to)) {
      items.add(
          new OnWeek(
              meeting.id(),
              meeting.title(),
              o.at().toString(),
              o.start(),
              o.end(),
              line.band(),
              line.worst()));
    }
  }
}
