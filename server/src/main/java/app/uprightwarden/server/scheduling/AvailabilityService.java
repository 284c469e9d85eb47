package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.calendar.Intervals;
import app.uprightwarden.core.calendar.Openings;
import app.uprightwarden.core.calendar.WorkingHours;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import java.time.Clock;
import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** When everybody can: busy times as strips, and the next common openings. */
@Service
class AvailabilityService {
  private static final int STEP = 15;
  private static final int MAX = 6;

  private final BusyTimes busy;
  private final OrganisationService organisation;
  private final Clock clock;

  AvailabilityService(BusyTimes busy, OrganisationService organisation, Clock clock) {
    this.clock = clock;
    this.busy = busy;
    this.organisation = organisation;
  }

  /** What is asked. */
  record Question(
      List<String> required,
      List<String> optional,
      List<String> lists,
      List<String> rooms,
      LocalDate from,
      int days,
      int minutes,
      ZoneId zone,
      LocalTime opens,
      LocalTime closes,
      @Nullable String without) {}

  /** One stretch of time. */
  record Stretch(Instant start, Instant end, @Nullable String title) {}

  /** Somebody's or a room's strip. */
  record Strip(String id, String name, String need, @Nullable String zone, List<Stretch> busy) {}

  /** A common opening; {@code missing} are those optional who cannot come. */
  record OpeningView(Instant start, Instant end, List<String> missing) {}

  /**
   * The answer.
   *
   * @param working the hours that are working hours in all zones concerned
   */
  record Availability(
      Instant from,
      Instant to,
      List<String> zones,
      List<Stretch> working,
      List<Strip> strips,
      List<OpeningView> openings) {}

  @Transactional(readOnly = true)
  public Availability answer(Question q, SignedIn who) {
    Organisation all = organisation.organisation();
    Directory directory = organisation.directory();
    Set<String> required = folded(q.required());
    Set<String> optional = folded(q.optional());
    for (String list : q.lists()) {
      directory.membersOfList(list).forEach(member -> optional.add(Directory.fold(member)));
    }
    optional.removeAll(required);
    Instant from = q.from().atStartOfDay(q.zone()).toInstant();
    Instant to = q.from().plusDays(q.days()).atStartOfDay(q.zone()).toInstant();
    Set<String> everybody = new LinkedHashSet<>(required);
    everybody.addAll(optional);
    Map<String, ZoneId> zones = organisation.zones(everybody);
    Map<String, List<BusyTimes.Busy>> found =
        busy.between(everybody, q.rooms(), all, from, to, q.without());
    Set<ZoneId> concerned = new LinkedHashSet<>(List.of(q.zone()));
    required.forEach(email -> concerned.add(zones.getOrDefault(email, q.zone())));
    Intervals working = working(concerned, q, from, to);
    // nobody can come to what has begun
    Intervals ahead =
        working.intersect(
            Intervals.of(
                minute(clock.instant()) + 1, Math.max(minute(to), minute(clock.instant()) + 1)));
    List<Strip> strips = new ArrayList<>();
    Intervals taken = Intervals.NONE;
    for (String email : required) {
      strips.add(person(email, "required", directory, zones, found, who));
      taken = taken.union(intervals(found.getOrDefault(email, List.of())));
    }
    for (Organisation.Room room : all.rooms()) {
      if (q.rooms().contains(room.id())) {
        List<BusyTimes.Busy> times = found.getOrDefault("room:" + room.id(), List.of());
        strips.add(new Strip(room.id(), room.name(), "room", null, stretches(times, who)));
        taken = taken.union(intervals(times));
      }
    }
    List<String> may = List.copyOf(optional);
    for (String email : may) {
      strips.add(person(email, "optional", directory, zones, found, who));
    }
    List<Openings.Opening> openings =
        Openings.find(
            new Openings.Wish(
                ahead,
                taken,
                may.stream().map(e -> intervals(found.getOrDefault(e, List.of()))).toList(),
                q.minutes(),
                STEP,
                MAX));
    return new Availability(
        from,
        to,
        concerned.stream().map(ZoneId::getId).toList(),
        working.spans().stream()
            .map(s -> new Stretch(instant(s.from()), instant(s.to()), null))
            .toList(),
        strips,
        openings.stream()
            .map(
                o ->
                    new OpeningView(
                        instant(o.from()),
                        instant(o.to()),
                        o.missing().stream().map(may::get).toList()))
            .toList());
  }

  private static Set<String> folded(List<String> emails) {
    Set<String> folded = new LinkedHashSet<>();
    emails.forEach(email -> folded.add(Directory.fold(email)));
    return folded;
  }

  private static Intervals working(Set<ZoneId> zones, Question q, Instant from, Instant to) {
    Intervals common = Intervals.of(minute(from), minute(to));
    for (ZoneId zone : zones) {
      WorkingHours hours =
          new WorkingHours(
              zone, q.opens(), q.closes(), EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.FRIDAY));
      common = common.intersect(hours.between(minute(from), minute(to)));
    }
    return common;
  }

  private static Strip person(
      String email,
      String need,
      Directory directory,
      Map<String, ZoneId> zones,
      Map<String, List<BusyTimes.Busy>> found,
      SignedIn who) {
    Person person = directory.find(email);
    ZoneId zone = zones.get(email);
    return new Strip(
        email,
        person == null ? email : person.name(),
        need,
        zone == null ? null : zone.getId(),
        stretches(found.getOrDefault(email, List.of()), who));
  }

  private static List<Stretch> stretches(List<BusyTimes.Busy> times, SignedIn who) {
    return times.stream()
        .sorted(java.util.Comparator.comparing(BusyTimes.Busy::start))
        .map(b -> new Stretch(b.start(), b.end(), BusyTimes.title(b, who)))
        .toList();
  }

  private static Intervals intervals(List<BusyTimes.Busy> times) {
    return Intervals.of(
        times.stream().map(b -> new Intervals.Span(minute(b.start()), ceiling(b.end()))).toList());
  }

  private static long minute(Instant instant) {
    return Math.floorDiv(instant.getEpochSecond(), 60);
  }

  private static long ceiling(Instant instant) {
    return -Math.floorDiv(-instant.getEpochSecond(), 60);
  }

  private static Instant instant(long minute) {
    return Instant.ofEpochSecond(minute * 60);
  }
}
