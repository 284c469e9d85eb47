package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.service.Held;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A meeting as it is stored.
 *
 * @param version goes up with each change
 * @param act what the last change was, such as {@code scheduled} or {@code imported}
 * @param remark why it was changed last, where somebody said so
 * @param service the conference service that holds it, whose values the meeting has; null for none
 */
public record StoredMeeting(
    long row,
    Meeting meeting,
    Details details,
    long version,
    String changedBy,
    Instant changedAt,
    String act,
    @Nullable String remark,
    @Nullable HeldMeeting service) {

  /** The meeting as it was decided: what somebody changes begins here. */
  public Meeting decided() {
    return service == null ? meeting : service.decided(meeting);
  }

  /** What the core knows of the service that holds it, or null where none does. */
  public @Nullable Held held() {
    return service == null ? null : service.held(meeting);
  }
}
