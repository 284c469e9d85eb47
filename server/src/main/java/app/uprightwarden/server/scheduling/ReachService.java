package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.RegisterSnapshot;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** What one person hosts, is invited to, and could walk into without being invited. */
@Service
class ReachService {
  private static final Duration WINDOW = Duration.ofDays(90);
  private static final int MAX = 300;

  private final RegisterService register;
  private final RegisterSnapshot snapshot;
  private final OrganisationService organisation;
  private final Clock clock;

  ReachService(
      RegisterService register,
      RegisterSnapshot snapshot,
      OrganisationService organisation,
      Clock clock) {
    this.register = register;
    this.snapshot = snapshot;
    this.organisation = organisation;
    this.clock = clock;
  }

  /**
   * A meeting somebody can come to.
   *
   * @param tie how they came by it
   * @param outcome {@code in}, {@code held} or {@code refused}, a minute after the start with a
   *     host in
   * @param step what holds or refuses them
   * @param role once in
   */
  record Way(
      String meeting,
      String title,
      String tie,
      String outcome,
      @Nullable String step,
      @Nullable String role,
      @Nullable Instant next) {}

  /**
   * A person's page.
   *
   * @param hosts how many meetings they host
   * @param ways those they host or are invited to, the next first
   * @param free of the others, how many they walk straight into; {@code held} and {@code refused}
   *     likewise
   * @param open some of those they walk straight into
   */
  record PersonPage(
      String email,
      @Nullable String name,
      String standing,
      @Nullable String unit,
      boolean active,
      boolean known,
      @Nullable String zone,
      List<String> lists,
      List<String> spaces,
      int hosts,
      List<Way> ways,
      int free,
      int held,
      int refused,
      List<Way> open) {}

  @Transactional(readOnly = true)
  public PersonPage of(String email) {
    Organisation all = organisation.organisation();
    Directory directory = organisation.directory();
    String folded = Directory.fold(email);
    Person person = directory.find(email);
    Set<String> lists = holding(all.lists(), folded);
    Set<String> spaces = holding(all.spaces(), folded);
    Standing standing = directory.standingOf(email);
    List<StoredMeeting> own = register.concerning(List.of(folded), lists, spaces, List.of());
    Instant now = clock.instant();
    List<Way> ways = new ArrayList<>();
    int hosts = 0;
    Set<Long> mine = new HashSet<>();
    for (StoredMeeting stored : own) {
      mine.add(stored.row());
      hosts += Directory.fold(stored.meeting().host()).equals(folded) ? 1 : 0;
      ways.add(way(stored.meeting(), folded, standing, now));
    }
    ways.sort(Comparator.comparing(Way::next, Comparator.nullsLast(Comparator.naturalOrder())));
    Uninvited uninvited = uninvited(standing, mine, now);
    ZoneId zone = organisation.zones(List.of(folded)).get(folded);
    return new PersonPage(
        person == null ? email : person.email(),
        person == null ? null : person.name(),
        standing.id(),
        person == null ? null : person.unit(),
        person != null && person.active(),
        person != null,
        zone == null ? null : zone.getId(),
        List.copyOf(lists),
        List.copyOf(spaces),
        hosts,
        ways.size() > MAX ? List.copyOf(ways.subList(0, MAX)) : ways,
        uninvited.free(),
        uninvited.held(),
        uninvited.refused(),
        uninvited.open());
  }

  private static Set<String> holding(List<Organisation.Gathering> gatherings, String email) {
    Set<String> ids = new java.util.LinkedHashSet<>();
    for (Organisation.Gathering gathering : gatherings) {
      if (gathering.members().stream().anyMatch(m -> Directory.fold(m).equals(email))) {
        ids.add(gathering.id());
      }
    }
    return ids;
  }

  private static Way way(Meeting meeting, String email, Standing standing, Instant now) {
    Tie tie = tie(meeting, email);
    boolean presenter =
        meeting.presenters().stream().anyMatch(p -> Directory.fold(p).equals(email));
    Passage passage =
        Door.pass(
            meeting.controls(),
            new Joiner(standing, tie, Route.APP, true, false, null, presenter),
            Moment.IN_SESSION);
    return way(meeting, tie, passage, now);
  }

  private static Way way(Meeting meeting, Tie tie, Passage passage, Instant now) {
    List<Occurrence> coming = Occurrences.between(meeting, now, now.plus(WINDOW));
    Role role = passage.role();
    return new Way(
        meeting.id(),
        meeting.title(),
        tie.id(),
        passage.outcome().id(),
        passage.step() == null ? null : passage.step().id(),
        role == null ? null : role.id(),
        coming.isEmpty() ? null : coming.get(0).start());
  }

  private static Tie tie(Meeting meeting, String email) {
    if (Directory.fold(meeting.host()).equals(email)) {
      return Tie.HOST;
    }
    if (meeting.coHosts().stream().anyMatch(c -> Directory.fold(c).equals(email))) {
      return Tie.CO_HOST;
    }
    boolean named =
        meeting.invitees().stream().anyMatch(i -> Directory.fold(i.email()).equals(email));
    return named ? Tie.NAMED : Tie.LISTED;
  }

  private record Uninvited(int free, int held, int refused, List<Way> open) {}

  /** Equal values answer equally, so that each set of them is asked once. */
  private Uninvited uninvited(Standing standing, Set<Long> mine, Instant now) {
    RegisterIndex index = snapshot.current().index();
    Map<ControlValues, Passage> asked = new HashMap<>();
    Map<String, Integer> counts = new HashMap<>();
    List<Long> open = new ArrayList<>();
    for (RegisterIndex.Entry entry : index.entries()) {
      if (mine.contains(entry.row()) || entry.occurrences() == 0) {
        continue;
      }
      ControlValues values = index.cohort(entry).values();
      Passage passage = asked.computeIfAbsent(values, v -> stranger(v, standing));
      counts.merge(passage.outcome().id(), 1, Integer::sum);
      if (passage.outcome().id().equals("in") && open.size() < MAX) {
        open.add(entry.row());
      }
    }
    List<Way> ways = new ArrayList<>();
    for (StoredMeeting stored : register.rows(open).values()) {
      ways.add(
          way(stored.meeting(), Tie.NONE, stranger(stored.meeting().controls(), standing), now));
    }
    ways.sort(Comparator.comparing(Way::next, Comparator.nullsLast(Comparator.naturalOrder())));
    return new Uninvited(
        counts.getOrDefault("in", 0),
        counts.getOrDefault("held", 0),
        counts.getOrDefault("refused", 0),
        ways);
  }

  /** Somebody who came upon the link holds the passcode where it is in there. */
  private static Passage stranger(ControlValues values, Standing standing) {
    boolean holds = values.is(Control.PASSCODE_IN_LINK, "embedded");
    return Door.pass(
        values,
        new Joiner(standing, Tie.NONE, Route.APP, holds, false, null, false),
        Moment.IN_SESSION);
  }
}
