package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Meeting;
import java.time.Instant;

/**
 * A meeting as it is stored.
 *
 * @param version goes up with each change
 */
public record Stored(
    long row, Meeting meeting, long version, String changedBy, Instant changedAt) {}
