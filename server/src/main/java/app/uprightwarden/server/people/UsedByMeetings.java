package app.uprightwarden.server.people;

/** Tells where meetings refer to parts of the directory. The register knows. */
public interface UsedByMeetings {
  /**
   * How many meetings refer to something.
   *
   * @param part {@code lists}, {@code spaces} or {@code rooms}
   */
  int count(String part, String id);

  /** Takes a room out of the meetings that are held in it. */
  void leaveRoom(String id);
}
