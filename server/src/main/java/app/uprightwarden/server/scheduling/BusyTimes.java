package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.sources.SourceBusy;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/** What takes up people's time, and rooms'. */
@Component
class BusyTimes {
  private final RegisterService register;
  private final Answers answers;
  private final SourceBusy calendars;

  BusyTimes(RegisterService register, Answers answers, SourceBusy calendars) {
    this.register = register;
    this.answers = answers;
    this.calendars = calendars;
  }

  /**
   * Something that takes up time.
   *
   * @param meeting its id; empty where a calendar says that there is something, and not what
   * @param title what it is, for those who may see it: see {@link #title}
   * @param hosts folded addresses of its host and co-hosts
   */
  record Busy(String meeting, String title, Set<String> hosts, Instant start, Instant end) {}

  /** What somebody may read of it: a host reads of others' meetings only when they are. */
  static String title(Busy busy, SignedIn who) {
    boolean may =
        busy.meeting().isEmpty()
            || !who.isHost()
            || busy.hosts().contains(Directory.fold(who.email()));
    return may ? busy.title() : "another meeting";
  }

  /** By folded address, and by room id with {@code room:} before it. */
  @Transactional(readOnly = true)
  public Map<String, List<Busy>> between(
      Collection<String> people,
      Collection<String> rooms,
      Organisation organisation,
      Instant from,
      Instant to,
      @Nullable String without) {
    Set<String> wanted = new HashSet<>();
    people.forEach(email -> wanted.add(Directory.fold(email)));
    Map<String, Set<String>> byList = members(organisation.lists(), wanted);
    Map<String, Set<String>> bySpace = members(organisation.spaces(), wanted);
    Map<String, List<Busy>> busy = new HashMap<>();
    List<StoredMeeting> concerned =
        register.concerning(wanted, byList.keySet(), bySpace.keySet(), rooms);
    Map<String, Set<String>> declined =
        answers.declined(concerned.stream().map(s -> s.meeting().id()).toList());
    Set<SourceBusy.BusyTime> known = new HashSet<>();
    for (StoredMeeting stored : concerned) {
      Meeting meeting = stored.meeting();
      Set<String> takenUp = takenUp(meeting, wanted, byList, bySpace);
      takenUp.removeAll(declined.getOrDefault(meeting.id(), Set.of()));
      if (stored.details().room() != null && rooms.contains(stored.details().room())) {
        takenUp.add("room:" + stored.details().room());
      }
      if (!takenUp.isEmpty()) {
        Set<String> hosts = new HashSet<>(List.of(Directory.fold(meeting.host())));
        meeting.coHosts().forEach(email -> hosts.add(Directory.fold(email)));
        for (Occurrence each : Occurrences.between(meeting, from, to)) {
          Busy one = new Busy(meeting.id(), meeting.title(), hosts, each.start(), each.end());
          for (String who : takenUp) {
            known.add(new SourceBusy.BusyTime(who, each.start(), each.end()));
            if (!meeting.id().equals(without)) {
              busy.computeIfAbsent(who, w -> new ArrayList<>()).add(one);
            }
          }
        }
      }
    }
    for (SourceBusy.BusyTime each : calendars.between(wanted, from, to)) {
      if (!known.contains(each)) { // else it is the same meeting, in their calendar
        busy.computeIfAbsent(each.person(), w -> new ArrayList<>())
            .add(new Busy("", "busy in their calendar", Set.of(), each.start(), each.end()));
      }
    }
    return busy;
  }

  private static Map<String, Set<String>> members(
      List<Organisation.Gathering> gatherings, Set<String> wanted) {
    Map<String, Set<String>> members = new HashMap<>();
    for (Organisation.Gathering gathering : gatherings) {
      for (String member : gathering.members()) {
        String folded = Directory.fold(member);
        if (wanted.contains(folded)) {
          members.computeIfAbsent(gathering.id(), id -> new HashSet<>()).add(folded);
        }
      }
    }
    return members;
  }

  private static Set<String> takenUp(
      Meeting meeting,
      Set<String> wanted,
      Map<String, Set<String>> byList,
      Map<String, Set<String>> bySpace) {
    Set<String> all = new HashSet<>(List.of(Directory.fold(meeting.host())));
    meeting.coHosts().forEach(email -> all.add(Directory.fold(email)));
    meeting.presenters().forEach(email -> all.add(Directory.fold(email)));
    meeting.invitees().forEach(invitee -> all.add(Directory.fold(invitee.email())));
    meeting.lists().forEach(list -> all.addAll(byList.getOrDefault(list, Set.of())));
    if (meeting.space() != null) {
      all.addAll(bySpace.getOrDefault(meeting.space(), Set.of()));
    }
    all.retainAll(wanted);
    return all;
  }
}
