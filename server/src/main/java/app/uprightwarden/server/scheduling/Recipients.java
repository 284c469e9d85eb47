package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Tie;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** Who gets an invitation: everybody named, and those whom a list or the space reaches. */
final class Recipients {
  private Recipients() {}

  /** Somebody who is written to, and how they came by the meeting. */
  record Recipient(String email, Tie tie) {}

  static List<Recipient> of(Meeting meeting, Directory directory) {
    Map<String, Recipient> all = new LinkedHashMap<>();
    for (Invitee invitee : meeting.invitees()) {
      add(all, invitee.email(), Tie.NAMED);
    }
    meeting
        .coHosts()
        .forEach(email -> all.put(Directory.fold(email), new Recipient(email, Tie.CO_HOST)));
    meeting.presenters().forEach(email -> add(all, email, Tie.NAMED));
    for (String list : meeting.lists()) {
      directory.membersOfList(list).forEach(email -> add(all, email, Tie.LISTED));
    }
    if (meeting.space() != null) {
      directory.membersOfSpace(meeting.space()).forEach(email -> add(all, email, Tie.LISTED));
    }
    all.remove(Directory.fold(meeting.host()));
    return List.copyOf(all.values());
  }

  private static void add(Map<String, Recipient> all, String email, Tie tie) {
    all.putIfAbsent(Directory.fold(email), new Recipient(email, tie));
  }
}
