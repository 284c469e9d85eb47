package app.uprightwarden.server.register;

import app.uprightwarden.server.people.UsedByMeetings;
import java.util.Collection;
import org.springframework.stereotype.Component;

/** Where meetings refer to lists, spaces and rooms. */
@Component
class DirectoryUse implements UsedByMeetings {
  private final MeetingRepository meetings;
  private final RegisterChanges due;

  DirectoryUse(MeetingRepository meetings, RegisterChanges due) {
    this.meetings = meetings;
    this.due = due;
  }

  @Override
  public int count(String part, String id) {
    return Math.toIntExact(
        switch (part) {
          case "lists" -> meetings.countOnList("%\"" + id.replaceAll("([!%_])", "!$1") + "\"%");
          case "spaces" -> meetings.countInSpace(id);
          default -> meetings.countInRoom(id);
        });
  }

  @Override
  public void leaveRoom(String id) {
    meetings.leaveRoom(id);
  }

  @Override
  public void hostsChanged(Collection<String> hosts) {
    due.touchHosts(hosts);
  }
}
