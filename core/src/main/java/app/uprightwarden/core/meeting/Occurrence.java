package app.uprightwarden.core.meeting;

import java.time.Instant;
import java.time.LocalDateTime;

/**
 * One time a meeting takes place.
 *
 * @param at the original local start, which names it within its series
 * @param start when it begins
 * @param end when it is over
 */
public record Occurrence(LocalDateTime at, Instant start, Instant end) {}
