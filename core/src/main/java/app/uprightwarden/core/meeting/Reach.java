package app.uprightwarden.core.meeting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Standing;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/**
 * Whom {@code lobby-bypass} and {@code presenter-role} reach when they go by name: all that
 * comparing them with a standing needs to know of the lists of one meeting.
 *
 * @param named there is a named invitee (hosts and co-hosts never count)
 * @param namedWidest the widest standing among the named invitees; MEMBER where there is none
 * @param presentersMembers every listed presenter is a member
 * @param presentersHosts every listed presenter is the host or a co-host
 */
public record Reach(
    boolean named, Standing namedWidest, boolean presentersMembers, boolean presentersHosts) {

  public static final Reach NOBODY = new Reach(false, Standing.MEMBER, true, true);

  /** Whom a meeting's names reach. */
  public static Reach of(Meeting meeting, Directory directory) {
    return of(
        meeting.host(), meeting.coHosts(), meeting.presenters(), meeting.invitees(), directory);
  }

  /** The same for names by themselves; addresses are compared as the directory compares them. */
  public static Reach of(
      String host,
      List<String> coHosts,
      List<String> presenters,
      List<Invitee> invitees,
      Directory directory) {
    Set<String> hosts = new HashSet<>();
    hosts.add(Directory.fold(host));
    coHosts.forEach(email -> hosts.add(Directory.fold(email)));
    boolean named = false;
    Standing widest = Standing.MEMBER;
    for (Invitee invitee : invitees) {
      if (!hosts.contains(Directory.fold(invitee.email()))) {
        named = true;
        Standing standing = directory.standingOf(invitee.email());
        widest = standing.compareTo(widest) > 0 ? standing : widest;
      }
    }
    boolean members = true;
    boolean onlyHosts = true;
    for (String presenter : presenters) {
      members &= directory.standingOf(presenter) == Standing.MEMBER;
      onlyHosts &= hosts.contains(Directory.fold(presenter));
    }
    return new Reach(named, widest, members, onlyHosts);
  }

  /**
   * Whether a value is within a limit for this meeting: by whom it lets through for the two
   * controls that go by name, by the static order for all others.
   */
  public boolean within(Control control, Value value, Value limit, boolean forwardingBlocked) {
    if (control == Control.LOBBY_BYPASS && isNamed(value)) {
      return switch (((Value.Word) limit).word()) {
        case "partners" -> forwardingBlocked && namedWidest.compareTo(Standing.PARTNER) <= 0;
        case "guests" -> forwardingBlocked && namedWidest.compareTo(Standing.GUEST) <= 0;
        case "members" -> forwardingBlocked && namedWidest == Standing.MEMBER;
        case "hosts" -> forwardingBlocked && !named;
        default -> true;
      };
    }
    if (control == Control.PRESENTER_ROLE && isNamed(value)) {
      return switch (((Value.Word) limit).word()) {
        case "members" -> presentersMembers;
        case "hosts" -> presentersHosts;
        default -> true;
      };
    }
    return control.within(value, limit);
  }

  private static boolean isNamed(Value value) {
    return ((Value.Word) value).word().equals("named");
  }
}
