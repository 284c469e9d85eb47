package app.uprightwarden.core.rulebook;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How freely a persona comes to hold a right, from lowest to highest. */
public enum Level {
  NEVER(0, "never"),
  HOST_LETS_IN(1, "once a host lets them in"),
  PEER_LETS_IN(5, "once anybody inside lets them in"),
  FREE(9, "without being let in"),
  UNATTENDED(10, "before any host is there");

  private static final List<Level> ALL = List.of(values());

  private final int tenths;
  private final String phrase;

  Level(int tenths, String phrase) {
    this.tenths = tenths;
    this.phrase = phrase;
  }

  /** All levels, the lowest first. */
  public static List<Level> all() {
    return ALL;
  }

  /** The level of an id, or null where there is none. */
  public static @Nullable Level byId(String id) {
    for (Level level : ALL) {
      if (level.id().equals(id)) {
        return level;
      }
    }
    return null;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** The weight of the level in the intrusion score, in tenths. */
  public int tenths() {
    return tenths;
  }

  /** When they can, to end a sentence with. */
  public String phrase() {
    return phrase;
  }
}
