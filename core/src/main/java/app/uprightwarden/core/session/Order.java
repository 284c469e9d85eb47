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

  /** An order about some people, or about nobody. */
  public static Order of(Act act, String... people) {
    return new Order(act, List.of(people), null, null);
  }
}
