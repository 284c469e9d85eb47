package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Role;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** What is known of a session afterwards: who was there, and who gets what was kept of it. */
public final class Attendance {
  private Attendance() {}

  /**
   * Somebody who was in.
   *
   * @param left when last; null while they are in
   * @param minutes inside in all, a begun one counted from its half
   * @param role the highest they had
   * @param times how often they came in
   * @param how the first time
   */
  public record Row(
      String who,
      String name,
      @Nullable String address,
      String standing,
      String tie,
      Instant joined,
      @Nullable Instant left,
      long minutes,
      Role role,
      int times,
      Seat.Way how,
      String route,
      boolean removed) {}

  /** Everybody who was in, by when they came first. */
  public static List<Row> of(SessionBook book, Instant until) {
    List<Row> rows = new ArrayList<>();
    for (Seat seat : book.seats()) {
      List<Seat.Stay> stays = seat.stays();
      Role role = seat.highest();
      if (stays.isEmpty() || role == null) {
        continue;
      }
      rows.add(
          new Row(
              seat.who(),
              seat.name(),
              seat.address(),
              seat.joiner().standing().id(),
              seat.joiner().tie().id(),
              stays.get(0).from(),
              stays.get(stays.size() - 1).to(),
              Math.round(seat.inside(until).toSeconds() / 60.0),
              role,
              stays.size(),
              stays.get(0).way(),
              seat.joiner().route().id(),
              seat.removals() > 0));
    }
    rows.sort(java.util.Comparator.comparing(Row::joined));
    return List.copyOf(rows);
  }

  /** What a session leaves behind. */
  public enum Kept {
    RECORDING,
    CHAT_LOG,
    ATTENDANCE
  }

  /**
   * Who gets something, and who might think so and does not.
   *
   * @param exists whether there is any
   * @param gets folded addresses
   * @param without co-hosts who do not get it
   * @param words why, in a sentence
   */
  public record Share(
      Kept what, boolean exists, List<String> gets, List<String> without, String words) {}

  /**
   * Who gets the recording, the chat log and the attendance: the host, and with {@code
   * record-sharing} at {@code co-hosts} those who were named co-host before the session. Whoever
   * was made one during it does not, as practitioners report (common practice, no source).
   *
   * @param host address of the meeting's host
   * @param named the co-hosts named before the session
   */
  public static List<Share> shares(SessionBook book, String host, List<String> named) {
    ControlValues values = book.values();
    boolean shared = values.is(Control.RECORD_SHARING, "co-hosts");
    Set<String> gets = new LinkedHashSet<>(List.of(host));
    if (shared) {
      gets.addAll(named);
    }
    Set<String> without = new LinkedHashSet<>(shared ? List.of() : named);
    for (Seat seat : book.seats()) {
      String address = seat.address();
      if (address != null && seat.highest() == Role.CO_HOST && !gets.contains(address)) {
        without.add(address);
      }
    }
    String words =
        shared
            ? "Host and co-hosts named beforehand; not those made co-host during the session."
            : "The host alone.";
    boolean listed = values.is(Control.ATTENDANCE_RECORD, "on");
    return List.of(
        share(Kept.RECORDING, book.recorded() > 0, gets, without, words),
        share(Kept.CHAT_LOG, book.chatted() > 0, gets, without, words),
        share(Kept.ATTENDANCE, listed, gets, without, words));
  }

  private static Share share(
      Kept what, boolean exists, Set<String> gets, Set<String> without, String words) {
    return new Share(
        what,
        exists,
        exists ? List.copyOf(gets) : List.of(),
        exists ? List.copyOf(without) : List.of(),
        words);
  }
}
