package app.uprightwarden.server.audit;

import app.uprightwarden.server.problem.Worded;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An audit run.
 *
 * @param state {@code waiting}, {@code running}, {@code done}, {@code failed} or {@code cancelled};
 *     {@code standing} for the one that is always current
 * @param cause {@code by-hand}, {@code schedule}, {@code publication} or {@code standing}
 * @param edition of the rulebook it judges against
 * @param meetings how many there are to look at
 * @param scanned how many of them have been looked at
 * @param judged how many of those were in its scope and judged
 * @param baseline whether it is the one to work down from
 * @param message why it failed, or null
 */
public record AuditRun(
    long id,
    String state,
    String cause,
    AuditScope scope,
    int edition,
    Instant from,
    Instant to,
    String startedBy,
    Instant startedAt,
    @Nullable Instant finishedAt,
    int meetings,
    int scanned,
    int judged,
    int occurrences,
    int findings,
    boolean baseline,
    @Nullable Long schedule,
    @Worded @Nullable String message) {}
