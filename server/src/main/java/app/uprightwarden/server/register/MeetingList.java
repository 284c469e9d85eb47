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
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** The register as a table, and as a week. */
@Service
class MeetingList {
  /** How far ahead the register looks. */
  static final Duration WINDOW = Duration.ofDays(90);

  private static final int MAX_IN_A_WEEK = 3000;

  /** Where less than this part of the lines is asked for, the rest is not put in order. */
  private static final int WORTH_SORTING = 8;

  private final JudgedMeetings lines;
  private final RegisterService register;
  private final UnitScope units;

  MeetingList(JudgedMeetings lines, RegisterService register, UnitScope units) {
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

  /** Some of the lines that a filter keeps, and how many it keeps. */
  record Slice(List<Line> items, int total) {}

  /** The lines of a page. */
  Slice page(SignedIn who, Filter filter, String sort, int page, int size) {
    List<Line> kept = kept(who, filter);
    long to = Math.min((long) (page + 1) * size, kept.size());
    int from = (int) Math.min((long) page * size, kept.size());
    return new Slice(first(kept, order(sort), (int) to).subList(from, (int) to), kept.size());
  }

  private List<Line> kept(SignedIn who, Filter filter) {
    Set<String> only = units.units(who);
    Collection<JudgedMeetings.Known> all =
        who.isHost() ? lines.of(register.hostedBy(Directory.fold(who.email()))) : lines.current();
    List<Line> kept = new ArrayList<>();
    for (JudgedMeetings.Known known : all) {
      Line line = known.line();
      if ((only == null || only.contains(String.valueOf(line.unit()))) && filter.keeps(line)) {
        kept.add(line);
      }
    }
    return kept;
  }

  /** The first some in an order, sorted. A page of a hundred thousand lines sorts few of them. */
  private static List<Line> first(List<Line> lines, Comparator<Line> order, int most) {
    if (most > lines.size() / WORTH_SORTING) {
      List<Line> sorted = new ArrayList<>(lines);
      sorted.sort(order);
      return sorted.subList(0, most);
    }
    PriorityQueue<Line> first = new PriorityQueue<>(most + 1, order.reversed());
    for (Line line : lines) {
      if (first.size() < most || order.compare(line, first.element()) < 0) {
        first.add(line);
        if (first.size() > most) {
          first.remove();
        }
      }
    }
    List<Line> sorted = new ArrayList<>(first);
    sorted.sort(order);
    return sorted;
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
    return (reverse ? by.reversed() : by).thenComparing(byNext).thenComparing(Line::id);
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
    kept(who, filter).forEach(line -> kept.put(line.id(), line));
    List<OnWeek> items = new ArrayList<>();
    List<String> ids = List.copyOf(kept.keySet());
    for (int i = 0; i < ids.size(); i += 1000) {
      register
          .among(ids.subList(i, Math.min(i + 1000, ids.size())))
          .forEach((id, stored) -> add(items, stored.meeting(), kept.get(id), from, to));
    }
    items.sort(Comparator.comparing(OnWeek::start).thenComparing(OnWeek::title));
    int shown = Math.min(items.size(), MAX_IN_A_WEEK);
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
