package app.uprightwarden.core.people;

import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Something a person inside a meeting may do, with its disruption weight. */
public enum Right {
  LISTEN(8, "listen in"),
  SHARE_SCREEN(10, "share the screen"),
  REMOVE_OTHERS(8, "remove others"),
  SPEAK(6, "speak"),
  ANNOTATE(6, "draw on what is shown"),
  CAMERA(6, "show a camera picture"),
  ADMIT_OTHERS(6, "let others in"),
  TAKE_CONTROL(6, "take control of a screen"),
  RECORD(5, "record"),
  MUTE_OTHERS(5, "silence others"),
  CHAT(4, "write to all"),
  WHITEBOARD(4, "write on the whiteboard"),
  PRIVATE_CHAT(3, "write to people privately"),
  RENAME_SELF(2, "change their own name"),
  PAGE_SLIDES(2, "page through slides"),
  REACT(1, "send signs");

  private static final List<Right> ALL = List.of(values());

  private final int weight;
  private final String phrase;

  Right(int weight, String phrase) {
    this.weight = weight;
    this.phrase = phrase;
  }

  /** All rights in the order of their table. */
  public static List<Right> all() {
    return ALL;
  }

  /** The right of an id, or null where there is none. */
  public static @Nullable Right byId(String id) {
    for (Right right : ALL) {
      if (right.id().equals(id)) {
        return right;
      }
    }
    return null;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** How much it counts in the exposure. */
  public int weight() {
    return weight;
  }

  /** What one may do, to stand behind "can". */
  public String phrase() {
    return phrase;
  }

  /** This right's bit in a mask of rights. */
  public int bit() {
    return 1 << ordinal();
  }
}
