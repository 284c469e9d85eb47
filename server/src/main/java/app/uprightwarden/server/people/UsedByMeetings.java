package app.uprightwarden.server.people;

import java.util.Collection;

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

  /**
   * Something about these people, by folded address, is other than it was: their meetings are
   * looked at.
   */
  void hostsChanged(Collection<String> hosts);
}
