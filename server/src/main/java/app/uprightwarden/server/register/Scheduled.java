package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import org.jspecify.annotations.Nullable;

/**
 * A meeting with its passcode in clear, on its way in or out. Never logged: its text names the
 * meeting alone.
 *
 * @param passcodeLeftOut the document says nothing of a passcode, so that a stored one stays
 */
public record Scheduled(
    Meeting meeting, Details details, @Nullable String passcode, boolean passcodeLeftOut) {

  public Scheduled(Meeting meeting, Details details, @Nullable String passcode) {
    this(meeting, details, passcode, false);
  }

  @Override
  public String toString() {
    return "Scheduled[" + meeting.id() + "]";
  }
}
