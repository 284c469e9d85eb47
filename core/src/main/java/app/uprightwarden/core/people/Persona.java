package app.uprightwarden.core.people;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The people the exposure matrix asks about, in its order. */
public enum Persona {
  INVITED_MEMBER(Standing.MEMBER, Tie.NAMED, Passcode.HELD, true, 1, "is an invited member"),
  INVITED_OUTSIDER(Standing.OUTSIDER, Tie.NAMED, Passcode.HELD, true, 2, "is an invited outsider"),
  LISTED_MEMBER(
      Standing.MEMBER, Tie.LISTED, Passcode.HELD, true, 1, "is a member reached through a list"),
  OTHER_MEMBER(
      Standing.MEMBER, Tie.NONE, Passcode.IN_LINK, false, 3, "is a member who was not invited"),
  GUEST(Standing.GUEST, Tie.NONE, Passcode.IN_LINK, false, 3, "is a guest who was not invited"),
  PARTNER(
      Standing.PARTNER,
      Tie.NONE,
      Passcode.IN_LINK,
      false,
      4,
      "is from a partner and was not invited"),
  FORWARDED(
      Standing.OUTSIDER,
      Tie.FORWARDED,
      Passcode.IN_LINK_OR_FORWARDED_MAIL,
      false,
      7,
      "was passed an invitation"),
  LINK_FINDER(Standing.UNKNOWN, Tie.NONE, Passcode.IN_LINK, false, 9, "finds the link"),
  NUMBER_GUESSER(Standing.UNKNOWN, Tie.NONE, Passcode.NOT_HELD, false, 6, "guesses the number"),
  PHONE_CALLER(Standing.UNKNOWN, Tie.NONE, Passcode.IN_MAIL, false, 5, "calls by telephone"),
  REMOVED(Standing.UNKNOWN, Tie.NONE, Passcode.HELD, false, 8, "has been removed before");

  /** How a persona comes by the passcode. */
  public enum Passcode {
    HELD,
    NOT_HELD,
    IN_LINK,
    IN_MAIL,
    IN_LINK_OR_FORWARDED_MAIL
  }

  private static final List<Persona> ALL = List.of(values());

  private final Standing standing;
  private final Tie tie;
  private final Passcode passcode;
  private final boolean invited;
  private final int weight;
  private final String phrase;

  Persona(
      Standing standing, Tie tie, Passcode passcode, boolean invited, int weight, String phrase) {
    this.standing = standing;
    this.tie = tie;
    this.passcode = passcode;
    this.invited = invited;
    this.weight = weight;
    this.phrase = phrase;
  }

  /** All personas in the order of their table. */
  public static List<Persona> all() {
    return ALL;
  }

  /** The persona of an id, or null where there is none. */
  public static @Nullable Persona byId(String id) {
    for (Persona persona : ALL) {
      if (persona.id().equals(id)) {
        return persona;
      }
    }
    return null;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** Whether they belong there: what they can do is disruption, not intrusion. */
  public boolean invited() {
    return invited;
  }

  /** How much they count in the exposure. */
  public int weight() {
    return weight;
  }

  /** To stand behind "someone who". */
  public String phrase() {
    return phrase;
  }

  /** How they come. */
  public Route route() {
    return this == PHONE_CALLER ? Route.PHONE : Route.APP;
  }

  /**
   * The joiner this persona is at a meeting.
   *
   * @param inLink the passcode is embedded in the link
   * @param inMail the invitation shows the passcode
   * @param forwardingBlocked a forwarded invitation is not good for entry
   */
  public Joiner joiner(boolean inLink, boolean inMail, boolean forwardingBlocked) {
    boolean holds =
        switch (passcode) {
          case HELD -> true;
          case NOT_HELD -> false;
          case IN_LINK -> inLink;
          case IN_MAIL -> inMail;
          case IN_LINK_OR_FORWARDED_MAIL -> inLink || (inMail && !forwardingBlocked);
        };
    return new Joiner(standing, tie, route(), holds, this == REMOVED, null, false);
  }
}
