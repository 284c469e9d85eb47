package app.uprightwarden.core.door;

/**
 * A moment of a session.
 *
 * @param minutesFromStart negative before the start
 * @param hostIn whether a host or co-host is in
 * @param locked whether the meeting has been locked
 */
public record Moment(int minutesFromStart, boolean hostIn, boolean locked) {
  /** One minute after the start, a host in, not locked. */
  public static final Moment IN_SESSION = new Moment(1, true, false);

  /** One minute before the start, with no host there. */
  public static final Moment UNATTENDED = new Moment(-1, false, false);
}
