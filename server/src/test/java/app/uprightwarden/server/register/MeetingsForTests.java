package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.List;

/** Meetings with nothing remarkable about them. */
public final class MeetingsForTests {
  private MeetingsForTests() {}

  public static Meeting plain(String id) {
    return new Meeting(
        id,
        "Tide talk",
        "",
        null,
        "h@saltmarsh.example",
        List.of(),
        List.of(),
        List.of(),
        List.of(),
        null,
        LocalDateTime.of(2027, 1, 11, 9, 0),
        ZoneId.of("UTC"),
        60,
        null,
        List.of(),
        List.of(),
        null,
        null,
        ControlValues.NONE,
        List.of());
  }
}
