package app.uprightwarden.server.register;

import app.uprightwarden.server.people.UsedByMeetings;
import org.springframework.stereotype.Component;

/** Where meetings refer to lists, spaces and rooms. */
@Component
class DirectoryUse implements UsedByMeetings {
  private final MeetingRepository meetings;

  DirectoryUse(MeetingRepository meetings) {
    this.meetings = meetings;
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
}
