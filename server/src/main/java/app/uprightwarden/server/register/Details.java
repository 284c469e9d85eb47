package app.uprightwarden.server.register;

import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What belongs to a meeting besides what is judged.
 *
 * @param room the id of a room, or null
 * @param wholeDay shown as days, not hours
 * @param reminder minutes before the start at which invitees are reminded, or null
 * @param groups breakout groups set up beforehand
 * @param uid the name by which calendars know it (RFC 5545 section 3.8.4.7), or null for our own
 * @param sequence how often what was sent has been changed since (RFC 5546 section 2.1.4)
 * @param foreign content lines of a calendar that mean nothing here, kept for the way out
 */
public record Details(
    @Nullable String room,
    boolean wholeDay,
    @Nullable Integer reminder,
    List<Group> groups,
    @Nullable String uid,
    int sequence,
    List<String> foreign) {

  /** Before the time at which a calendar says it wrote the event (DTSTAMP), among what is kept. */
  public static final String STAMP = "DTSTAMP:";

  public static final Details NONE = new Details(null, false, null, List.of(), null, 0, List.of());

  /**
   * A breakout group and who is in it, by address.
   *
   * @param list a list whose members are in it too, or null
   */
  public record Group(String name, List<String> members, @Nullable String list) {
    public Group(String name, List<String> members) {
      this(name, members, null);
    }
  }

  /** When another program last wrote it, {@code 20270101T120000Z}; empty where none said. */
  public String stamp() {
    return foreign.stream()
        .filter(line -> line.startsWith(STAMP))
        .map(line -> line.substring(STAMP.length()))
        .findFirst()
        .orElse("");
  }

  /** The same, whenever it was written. */
  public Details withoutStamp() {
    List<String> rest = foreign.stream().filter(line -> !line.startsWith(STAMP)).toList();
    return new Details(room, wholeDay, reminder, groups, uid, sequence, rest);
  }

  public Details withSequence(int sequence) {
    return new Details(room, wholeDay, reminder, groups, uid, sequence, foreign);
  }

  /** What is said here, under the name that calendars know another by. */
  public Details withIdentityOf(Details other) {
    return new Details(
        room, wholeDay, reminder, groups, other.uid(), other.sequence(), other.foreign());
  }

  public Details withRoom(@Nullable String room) {
    return new Details(room, wholeDay, reminder, groups, uid, sequence, foreign);
  }

  private static final String MADE_HERE = "@upright-warden";

  /** The meeting whose name in calendars was made here, or null where it was not. */
  public static @Nullable String madeHere(String uid) {
    return uid.endsWith(MADE_HERE) ? uid.substring(0, uid.length() - MADE_HERE.length()) : null;
  }

  /** The name calendars know a meeting by. */
  public static String uid(String meeting, Details details) {
    return details.uid() == null ? meeting + MADE_HERE : details.uid();
  }
}
