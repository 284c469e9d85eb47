package app.uprightwarden.core.session;

import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** One participant of a session, from the first time at the door to the last. */
public final class Seat {
  /** How many answers are kept of one participant. */
  static final int MAX_CONSENTS = 100;

  /** Where somebody is. */
  public enum Place {
    AT_DOOR,
    INSIDE,
    OUT
  }

  /** How somebody came in. */
  public enum Way {
    /** Past the door by themselves. */
    BY_THEMSELVES,
    LET_IN_BY_HOST,
    /** By somebody who is no host and was not picked by name. */
    LET_IN_BY_PEER
  }

  /**
   * A time inside.
   *
   * @param to null while it lasts
   */
  public record Stay(Instant from, @Nullable Instant to, Role role, Way way) {}

  /** An answer to being recorded. */
  public record Consent(Instant at, boolean given) {}

  private final String who;
  private String name;
  private @Nullable String address;
  private Joiner joiner;
  private Place place = Place.AT_DOOR;
  private Instant since;
  private Moment moment;
  private @Nullable String step;
  private @Nullable String whyOut;
  private @Nullable Role role;
  private @Nullable Role highest;
  private @Nullable String letInBy;
  private Way way = Way.BY_THEMSELVES;
  private boolean barred;
  private boolean silenced;
  private int removals;
  private final List<Stay> stays = new ArrayList<>();
  private final List<Consent> consents = new ArrayList<>();

  Seat(String who, String name, @Nullable String address, Joiner joiner, Instant at, Moment then) {
    this.who = who;
    this.name = name;
    this.address = address;
    this.joiner = joiner;
    this.since = at;
    this.moment = then;
  }

  void arrived(String as, @Nullable String email, Joiner anew, Instant at, Moment then) {
    name = as;
    address = email;
    joiner = anew;
    moment = then;
    step = null;
    whyOut = null;
    place = Place.AT_DOOR;
    since = at;
  }

  void stepIs(String at) {
    step = place == Place.INSIDE ? null : at;
  }

  void entered(Role as, @Nullable String by, Way how, Instant at, Moment then) {
    place = Place.INSIDE;
    since = at;
    moment = then;
    step = null;
    letInBy = by;
    way = how;
    silenced = false;
    takes(as);
    stays.add(new Stay(at, null, as, how));
  }

  void takes(Role as) {
    role = as;
    if (highest == null || as.compareTo(highest) < 0) {
      highest = as;
    }
  }

  void out(String why, Instant at) {
    endStay(at);
    place = Place.OUT;
    whyOut = why;
    since = at;
    role = null;
  }

  private void endStay(Instant at) {
    if (place == Place.INSIDE && !stays.isEmpty()) {
      Stay last = stays.remove(stays.size() - 1);
      stays.add(new Stay(last.from(), at, last.role(), last.way()));
    }
  }

  void removed(boolean bar, Instant at) {
    removals++;
    barred |= bar;
    out("removed", at);
  }

  void silenced(boolean is) {
    silenced = is;
  }

  void answered(boolean given, Instant at) {
    if (consents.size() < MAX_CONSENTS) {
      consents.add(new Consent(at, given));
    }
  }

  void renamed(String to) {
    name = to;
  }

  /** The service's name for them in this session. */
  public String who() {
    return who;
  }

  /** The name they give themselves now. */
  public String name() {
    return name;
  }

  /** Their address, or null where they gave none. */
  public @Nullable String address() {
    return address;
  }

  /** How the door sees them. */
  public Joiner joiner() {
    return joiner;
  }

  /** Where they are now. */
  public Place place() {
    return place;
  }

  /** Since when they are where they are. */
  public Instant since() {
    return since;
  }

  /** As it was when they came to the door last, or came in. */
  public Moment moment() {
    return moment;
  }

  /** The door's step that holds or refused them, or null. */
  public @Nullable String step() {
    return step;
  }

  /** Left, refused, turned-away, removed or ended; null unless out. */
  public @Nullable String whyOut() {
    return whyOut;
  }

  /** Null unless inside. */
  public @Nullable Role role() {
    return role;
  }

  /** The highest role they have had, or null where they were never in. */
  public @Nullable Role highest() {
    return highest;
  }

  /** Who let them in, or null where nobody had to. */
  public @Nullable String letInBy() {
    return letInBy;
  }

  /** The way they came. */
  public Way way() {
    return way;
  }

  /** Whether they were removed and may not come back. */
  public boolean barred() {
    return barred;
  }

  /** Whether their microphone was switched off for them. */
  public boolean silenced() {
    return silenced;
  }

  /** How often they were removed. */
  public int removals() {
    return removals;
  }

  /** When they were inside, in order. */
  public List<Stay> stays() {
    return List.copyOf(stays);
  }

  /** What they answered to being recorded, in order; the first {@value #MAX_CONSENTS}. */
  public List<Consent> consents() {
    return List.copyOf(consents);
  }

  /** Time inside, up to an instant where they still are. */
  public Duration inside(Instant until) {
    Duration sum = Duration.ZERO;
    for (Stay stay : stays) {
      Instant end = stay.to();
      sum = sum.plus(Duration.between(stay.from(), end == null ? until : end));
    }
    return sum;
  }

  /** Whether they were asked to come, or host. */
  public boolean isExpected() {
    return joiner.tie() != Tie.NONE && joiner.tie() != Tie.FORWARDED;
  }

  /**
   * The persona that stands for somebody like this; null for hosts. Where the matrix has none of
   * their very standing, the next less trusted one does: an invited guest or partner is judged as
   * an invited outsider, a stranger with an account elsewhere as one who finds the link.
   */
  public @Nullable Persona persona() {
    if (joiner.tie().hosts()) {
      return null;
    }
    if (joiner.removed() || removals > 0) {
      return Persona.REMOVED;
    }
    if (joiner.route() == Route.PHONE) {
      return Persona.PHONE_CALLER;
    }
    boolean member = joiner.standing() == Standing.MEMBER;
    return switch (joiner.tie()) {
      case NAMED -> member ? Persona.INVITED_MEMBER : Persona.INVITED_OUTSIDER;
      case LISTED -> member ? Persona.LISTED_MEMBER : Persona.INVITED_OUTSIDER;
      case FORWARDED -> Persona.FORWARDED;
      default ->
          switch (joiner.standing()) {
            case MEMBER -> Persona.OTHER_MEMBER;
            case GUEST -> Persona.GUEST;
            case PARTNER -> Persona.PARTNER;
            case OUTSIDER -> Persona.LINK_FINDER;
            case UNKNOWN -> joiner.holdsPasscode() ? Persona.LINK_FINDER : Persona.NUMBER_GUESSER;
          };
    };
  }
}
