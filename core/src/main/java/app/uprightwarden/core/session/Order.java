package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * What a conference service can be told to do in a session.
 *
 * @param people the service's names of those concerned; empty where the act concerns nobody or all
 * @param value a role, or the control's value; null where the act has none
 * @param control null unless {@code SET}
 */
public record Order(
    Act act, List<String> people, @Nullable Control control, @Nullable String value) {
  public Order {
    people = List.copyOf(people);
  }

  /** The acts. */
  public enum Act {
    LET_IN,
    LET_IN_ALL,
    TURN_AWAY,
    LOCK,
    UNLOCK,
    SET,
    ROLE,
    SILENCE,
    SILENCE_ALL,
    STOP_SHARE,
    STOP_RECORDING,
    REMOVE,
    /** And not let back. */
    REMOVE_AND_BAR,
    END;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** Whether it needs to be said who. */
    public boolean concernsPeople() {
      return switch (this) {
        case LET_IN, TURN_AWAY, ROLE, SILENCE, REMOVE, REMOVE_AND_BAR -> true;
        default -> false;
      };
    }
  }

  /**
   * Whether an earlier order that is not carried out yet is void by this one: carried out after it,
   * it would undo what was said last. Whoever is turned away or removed is let in by no earlier
   * order, be it one about others as well.
   */
  public boolean replaces(Order earlier) {
    return switch (act) {
      case LOCK, UNLOCK -> earlier.act == Act.LOCK || earlier.act == Act.UNLOCK;
      case SET -> earlier.act == Act.SET && control == earlier.control;
      case ROLE -> earlier.act == Act.ROLE && people.containsAll(earlier.people);
      case TURN_AWAY, REMOVE, REMOVE_AND_BAR ->
          earlier.act == Act.LET_IN_ALL
              || earlier.act == Act.LET_IN && earlier.people.stream().anyMatch(people::contains);
      case LET_IN -> earlier.act == Act.TURN_AWAY && people.containsAll(earlier.people);
      default -> false;
    };
  }

  /** An order about some people, or about nobody. */
  public static Order of(Act act, String... people) {
    return new Order(act, List.of(people), null, null);
  }
}
