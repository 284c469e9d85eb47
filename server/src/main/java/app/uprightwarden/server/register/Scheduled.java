package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import org.jspecify.annotations.Nullable;

/**
 * A meeting with its passcode in clear, on its way in or out. Never logged: its text names the
 * meeting alone.
 *
 * @param passcodeLeftOut the document says nothing of a passcode, so that a stored one stays
 * @param phonePasscode digits for telephones where a file or a service says some, else null
 */
public record Scheduled(
    Meeting meeting,
    Details details,
    @Nullable String passcode,
    boolean passcodeLeftOut,
    @Nullable String phonePasscode) {

  public Scheduled(
      Meeting meeting, Details details, @Nullable String passcode, boolean passcodeLeftOut) {
    this(meeting, details, passcode, passcodeLeftOut, null);
  }

  public Scheduled(Meeting meeting, Details details, @Nullable String passcode) {
    this(meeting, details, passcode, false, null);
  }

  /** The same for another state of the meeting. */
  public Scheduled with(Meeting other) {
    return new Scheduled(other, details, passcode, passcodeLeftOut, phonePasscode);
  }

  @Override
  public String toString() {
    return "Scheduled[" + meeting.id() + "]";
  }
}
