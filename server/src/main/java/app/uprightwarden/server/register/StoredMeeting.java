package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * A meeting as it is stored.
 *
 * @param version goes up with each change
 * @param act what the last change was, such as {@code scheduled} or {@code imported}
 * @param remark why it was changed last, where somebody said so
 */
public record StoredMeeting(
    long row,
    Meeting meeting,
    Details details,
    long version,
    String changedBy,
    Instant changedAt,
    String act,
    @Nullable String remark) {}
