package app.uprightwarden.core.meeting;

import app.uprightwarden.core.control.ControlValues;
import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;

/**
 * What is different about one occurrence of a series.
 *
 * @param at its original local start, which names it
 * @param start its new local start, or null where it keeps its own
 * @param minutes its new length, or null
 * @param controls values laid over the series' own
 */
public record OccurrenceChange(
    LocalDateTime at,
    @Nullable LocalDateTime start,
    @Nullable Integer minutes,
    ControlValues controls) {}
