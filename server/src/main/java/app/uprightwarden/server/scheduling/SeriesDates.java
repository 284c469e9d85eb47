package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** The dates of a series that is not saved yet, dropped ones too, with what they clash with. */
@Component
class SeriesDates {
  private static final int MAX = 60;
  private static final Duration AHEAD = Duration.ofDays(800);

  private final BusyTimes busy;
  private final OrganisationService organisation;
  private final Clock clock;

  SeriesDates(BusyTimes busy, OrganisationService organisation, Clock clock) {
    this.busy = busy;
    this.organisation = organisation;
    this.clock = clock;
  }

  /** The next dates from now on, or from its first where that is later. */
  SchedulingPreview.SeriesDateList of(
      Scheduled scheduled, @Nullable StoredMeeting before, SignedIn who) {
    Meeting meeting = scheduled.meeting();
    Instant now = clock.instant();
    Instant first = meeting.start().atZone(meeting.zone()).toInstant();
    Instant from = first.isAfter(now) ? first.minusSeconds(1) : now;
    Instant to = from.plus(AHEAD);
    Meeting undropped = meeting.withExceptions(List.of(), List.of());
    List<Occurrence> all = new ArrayList<>(Occurrences.between(undropped, from, to));
    all.sort(Comparator.comparing(Occurrence::start));
    boolean endless =
        meeting.recurrence() != null
            && !Recurrence.parse(meeting.recurrence(), meeting.zone()).ends();
    List<Occurrence> shown = all.subList(0, Math.min(MAX, all.size()));
    Map<String, List<BusyTimes.Busy>> clashes = clashes(scheduled, shown, before);
    List<SchedulingPreview.SeriesDate> dates =
        shown.stream().map(o -> date(meeting, o, clashes, who)).toList();
    int dropped = (int) all.stream().filter(o -> meeting.exDates().contains(o.at())).count();
    return new SchedulingPreview.SeriesDateList(
        dates, all.size() - dropped, endless, all.size() > MAX);
  }

  private static SchedulingPreview.SeriesDate date(
      Meeting meeting, Occurrence plain, Map<String, List<BusyTimes.Busy>> busy, SignedIn who) {
    OccurrenceChange change =
        meeting.changes().stream().filter(c -> c.at().equals(plain.at())).findFirst().orElse(null);
    LocalDateTime local = change == null || change.start() == null ? plain.at() : change.start();
    int minutes = change == null || change.minutes() == null ? meeting.minutes() : change.minutes();
    Instant start = local.atZone(meeting.zone()).toInstant();
    Instant end = start.plus(Duration.ofMinutes(minutes));
    boolean dropped = meeting.exDates().contains(plain.at());
    String state =
        dropped
            ? "dropped"
            : change != null && change.start() != null
                ? "moved"
                : change != null
                    ? "changed"
                    : meeting.rDates().contains(plain.at()) ? "added" : "plain";
    Set<String> clashing =
        dropped
            ? Set.of()
            : busy.values().stream()
                .flatMap(List::stream)
                .filter(b -> b.start().isBefore(end) && start.isBefore(b.end()))
                .map(b -> BusyTimes.title(b, who))
                .collect(Collectors.toCollection(java.util.LinkedHashSet::new));
    return new SchedulingPreview.SeriesDate(
        plain.at().toString(), start, end, local.toString(), minutes, state, List.copyOf(clashing));
  }

  private Map<String, List<BusyTimes.Busy>> clashes(
      Scheduled scheduled, List<Occurrence> shown, @Nullable StoredMeeting before) {
    if (shown.isEmpty()) {
      return Map.of();
    }
    String room = scheduled.details().room();
    Instant from = shown.get(0).start().minus(Duration.ofDays(1));
    Instant to = shown.get(shown.size() - 1).end().plus(Duration.ofDays(1));
    return busy.between(
        List.of(Directory.fold(scheduled.meeting().host())),
        room == null ? List.of() : List.of(room),
        organisation.organisation(),
        from,
        to,
        before == null ? null : before.meeting().id());
  }
}
