package app.uprightwarden.server.floor;

import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.schema.Plain;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What pages see of sessions. */
final class FloorView {
  private FloorView() {}

  /**
   * A session in a list.
   *
   * @param clock where its clock stands, which runs {@code speed} times as fast as the one on the
   *     wall
   * @param pending alerts that are not closed; {@code worst} the worst severity among them
   * @param mayAct whether the one who asks may do something in it
   */
  record SessionLine(
      String id,
      String meeting,
      String title,
      String host,
      String state,
      boolean practice,
      Instant starts,
      Instant ends,
      Instant clock,
      double speed,
      boolean locked,
      boolean waitingRoom,
      int door,
      int inside,
      int out,
      int hostsIn,
      int pending,
      int worst,
      boolean mayAct) {}

  /**
   * Somebody at the door, inside or out.
   *
   * @param since by the session's clock
   * @param step the door's step that holds or refused them
   * @param way how they came in; null unless they were ever in
   * @param pending whether an alert about them is not closed
   */
  record PersonLine(
      String who,
      String name,
      @Nullable String address,
      String standing,
      String tie,
      String route,
      boolean expected,
      Instant since,
      @Nullable String step,
      @Nullable String role,
      @Nullable String way,
      @Nullable String letInBy,
      @Nullable String whyOut,
      boolean silenced,
      int removals,
      boolean barred,
      boolean sharing,
      boolean recording,
      boolean pending) {}

  /** Something that happened, in words. */
  record Moment(long seq, Instant at, String kind, @Nullable String who, @Worded String words) {}

  /**
   * A session's page. Each list has the first {@code most}; the line has how many there are.
   *
   * @param controls as they stand now, in plain form
   * @param uninvited how many at the door were not invited, whatever was looked for
   * @param seq the last event in it
   * @param behind controls of which the meeting has a stricter value than the running session
   */
  record SessionPage(
      SessionLine line,
      long seq,
      @Plain Map<String, Object> controls,
      List<PersonLine> door,
      List<PersonLine> inside,
      List<PersonLine> out,
      int doorFound,
      int insideFound,
      int outFound,
      int uninvited,
      List<FloorAlerts.FloorAlert> alerts,
      List<FloorOrders.FloorOrder> orders,
      List<String> behind,
      List<Moment> moments) {}
}
