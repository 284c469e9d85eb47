package app.uprightwarden.core.calendar;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.OccurrenceChange;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * The occurrences of a meeting in a window: the first start and what its rule gives, with RDATEs,
 * less EXDATEs, with changes laid over. A local time that a clock change skips moves on by the
 * length of the gap; of a time that comes twice the first is meant (RFC 5545 section 3.3.5).
 */
public final class Occurrences {
  /** More than this from one meeting in one window is refused as a fault of the rule. */
  public static final int MAX = 20_000;

  /** An occurrence may have been moved by at most this much and still be found in a window. */
  private static final Duration MAX_MOVED = Duration.ofDays(400);

  private Occurrences() {}

  /**
   * Expands a meeting.
   *
   * @param from the first instant of the window; an occurrence still running then is in it
   * @param to the first instant after the window
   * @return by start
   * @throws IllegalArgumentException where the rule does not parse or gives more than {@link #MAX}
   */
  public static List<Occurrence> between(Meeting meeting, Instant from, Instant to) {
    Map<LocalDateTime, OccurrenceChange> changes = new HashMap<>();
    meeting.changes().forEach(change -> changes.put(change.at(), change));
    Set<LocalDateTime> dropped = new HashSet<>(meeting.exDates());
    List<Occurrence> found = new ArrayList<>();
    for (LocalDateTime at : starts(meeting, from, to, !changes.isEmpty())) {
      if (!dropped.contains(at)) {
        Occurrence occurrence = occurrence(meeting, at, changes.get(at));
        if (occurrence.end().isAfter(from) && occurrence.start().isBefore(to)) {
          found.add(occurrence);
        }
      }
    }
    found.sort(Comparator.comparing(Occurrence::start));
    return List.copyOf(found);
  }

  private static Occurrence occurrence(
      Meeting meeting, LocalDateTime at, @Nullable OccurrenceChange change) {
    LocalDateTime start = change == null || change.start() == null ? at : change.start();
    int minutes = change == null || change.minutes() == null ? meeting.minutes() : change.minutes();
    Instant begins = start.atZone(meeting.zone()).toInstant();
    return new Occurrence(at, begins, begins.plus(Duration.ofMinutes(minutes)));
  }

  private static Set<LocalDateTime> starts(
      Meeting meeting, Instant from, Instant to, boolean mayMove) {
    Set<LocalDateTime> starts = new HashSet<>(meeting.rDates());
    starts.add(meeting.start());
    if (meeting.recurrence() == null) {
      return starts;
    }
    Duration slack = (mayMove ? MAX_MOVED : Duration.ofDays(1)).plusMinutes(meeting.minutes());
    LocalDateTime earliest = LocalDateTime.ofInstant(from.minus(slack), meeting.zone());
    LocalDateTime latest =
        LocalDateTime.ofInstant(to.plus(mayMove ? slack : Duration.ofDays(1)), meeting.zone());
    Recurrence.Starts each =
        Recurrence.parse(meeting.recurrence(), meeting.zone()).from(meeting.start());
    if (earliest.isAfter(meeting.start())) {
      each.skipTo(earliest);
    }
    while (each.hasNext()) {
      LocalDateTime at = each.next();
      if (at.isAfter(latest)) {
        break;
      }
      starts.add(at);
      if (starts.size() > MAX) {
        throw new IllegalArgumentException(
            "recurs more than " + MAX + " times in the window; make it less frequent");
      }
    }
    return starts;
  }
}
