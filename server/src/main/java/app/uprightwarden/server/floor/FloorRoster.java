package app.uprightwarden.server.floor;

import app.uprightwarden.core.door.Arrivals;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.people.OrganisationService;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.stereotype.Component;

/** Who is expected in a session, and afterwards who of them was not there. */
@Component
class FloorRoster {
  /** As many as a list holds at most. */
  static final int MAX_COMERS = 20_000;

  private static final int MAX_ABSENT = 2_000;

  private final OrganisationService organisation;

  FloorRoster(OrganisationService organisation) {
    this.organisation = organisation;
  }

  /**
   * Somebody asked by name who was not in.
   *
   * @param tie {@code host}, {@code co-host} or {@code named}
   */
  record Absent(String address, String name, String tie) {}

  /**
   * A list or a space that was invited.
   *
   * @param members how many it has now
   * @param came how many of them were in
   */
  record Reached(String id, String name, int members, int came) {}

  /** The roll: who of those expected was not in. At most {@value #MAX_ABSENT} by name. */
  record Roll(List<Absent> absent, List<Reached> lists) {
    static final Roll NONE = new Roll(List.of(), List.of());
  }

  /**
   * Everybody who is expected: hosts first, then those named, then those reached by lists. At most
   * {@value #MAX_COMERS}.
   */
  List<SessionPlan.Comer> comers(Meeting meeting) {
    Directory directory = organisation.directory();
    Set<String> addresses = new LinkedHashSet<>(byName(meeting).keySet());
    meeting
        .lists()
        .forEach(
            list -> directory.membersOfList(list).forEach(a -> addresses.add(Directory.fold(a))));
    String space = meeting.space();
    if (space != null) {
      directory.membersOfSpace(space).forEach(a -> addresses.add(Directory.fold(a)));
    }
    List<SessionPlan.Comer> roster = new ArrayList<>();
    for (String address : addresses) {
      if (roster.size() == MAX_COMERS) {
        break;
      }
      Joiner joiner = Arrivals.joiner(meeting, meeting.controls(), address, directory, Route.APP);
      roster.add(
          new SessionPlan.Comer(
              "p-" + (roster.size() + 1),
              nameOf(address, directory),
              address,
              joiner.standing().id(),
              joiner.tie().id(),
              "app",
              null,
              joiner.holdsPasscode(),
              joiner.listedPresenter(),
              joiner.contributor()));
    }
    return roster;
  }

  /**
   * Who was not there.
   *
   * @param in the addresses of those who were, as the service gave them
   */
  Roll roll(Meeting meeting, Collection<String> in) {
    Directory directory = organisation.directory();
    Set<String> came = new LinkedHashSet<>();
    in.forEach(address -> came.add(Directory.fold(address)));
    List<Absent> absent = new ArrayList<>();
    byName(meeting)
        .forEach(
            (address, tie) -> {
              if (!came.contains(address) && absent.size() < MAX_ABSENT) {
                absent.add(new Absent(address, nameOf(address, directory), tie.id()));
              }
            });
    List<Reached> lists = new ArrayList<>();
    Organisation known = organisation.organisation();
    known.lists().stream()
        .filter(list -> meeting.lists().contains(list.id()))
        .forEach(list -> lists.add(reached(list, directory.membersOfList(list.id()), came)));
    known.spaces().stream()
        .filter(space -> space.id().equals(meeting.space()))
        .forEach(space -> lists.add(reached(space, directory.membersOfSpace(space.id()), came)));
    return new Roll(absent, lists);
  }

  private static Reached reached(
      Organisation.Gathering gathering, List<String> members, Set<String> came) {
    int were =
        (int) members.stream().map(Directory::fold).distinct().filter(came::contains).count();
    return new Reached(gathering.id(), gathering.name(), members.size(), were);
  }

  private static Map<String, Tie> byName(Meeting meeting) {
    Map<String, Tie> addresses = new LinkedHashMap<>();
    addresses.put(Directory.fold(meeting.host()), Tie.HOST);
    meeting.coHosts().forEach(a -> addresses.putIfAbsent(Directory.fold(a), Tie.CO_HOST));
    meeting.presenters().forEach(a -> addresses.putIfAbsent(Directory.fold(a), Tie.NAMED));
    meeting.invitees().forEach(i -> addresses.putIfAbsent(Directory.fold(i.email()), Tie.NAMED));
    return addresses;
  }

  private static String nameOf(String address, Directory directory) {
    Person person = directory.find(address);
    return person == null ? address : person.name();
  }
}
