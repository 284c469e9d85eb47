package app.uprightwarden.core.door;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Tie;
import java.util.List;

/** Who somebody known by an address is at the door of a meeting. */
public final class Arrivals {
  private Arrivals() {}

  /** How somebody came by a meeting: by their own name before by a list or the space. */
  public static Tie tie(Meeting meeting, String email, Directory directory) {
    String address = Directory.fold(email);
    if (Directory.fold(meeting.host()).equals(address)) {
      return Tie.HOST;
    }
    if (holds(meeting.coHosts(), address)) {
      return Tie.CO_HOST;
    }
    if (holds(meeting.presenters(), address)
        || meeting.invitees().stream().anyMatch(i -> Directory.fold(i.email()).equals(address))) {
      return Tie.NAMED;
    }
    boolean listed =
        meeting.lists().stream().anyMatch(list -> holds(directory.membersOfList(list), address));
    String space = meeting.space();
    if (listed || space != null && holds(directory.membersOfSpace(space), address)) {
      return Tie.LISTED;
    }
    return Tie.NONE;
  }

  /**
   * Somebody who comes by the link they have. Whoever is invited holds the passcode; others hold it
   * where the link has it in itself.
   *
   * @param values the meeting's, or others in their place
   */
  public static Joiner joiner(
      Meeting meeting, ControlValues values, String email, Directory directory, Route route) {
    Tie tie = tie(meeting, email, directory);
    return new Joiner(
        directory.standingOf(email),
        tie,
        route,
        tie != Tie.NONE || values.is(Control.PASSCODE_IN_LINK, "embedded"),
        false,
        null,
        holds(meeting.presenters(), Directory.fold(email)),
        takesPart(meeting, Directory.fold(email)));
  }

  /** Whether somebody is named to take part where the others only watch. */
  private static boolean takesPart(Meeting meeting, String folded) {
    return meeting.invitees().stream()
        .anyMatch(
            i ->
                i.task() != null
                    && i.task().takesPart()
                    && Directory.fold(i.email()).equals(folded));
  }

  private static boolean holds(List<String> emails, String folded) {
    return emails.stream().anyMatch(email -> Directory.fold(email).equals(folded));
  }
}
