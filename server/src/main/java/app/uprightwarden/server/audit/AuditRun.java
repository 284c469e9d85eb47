package app.uprightwarden.server.audit;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * An audit run.
 *
 * @param state {@code waiting}, {@code running}, {@code done} or {@code failed}
 * @param edition of the rulebook it judges against
 * @param meetings how many there are to judge
 * @param judged how many have been judged
 * @param message why it failed, or null
 */
public record AuditRun(
    long id,
    String state,
    int edition,
    Instant from,
    Instant to,
    String startedBy,
    Instant startedAt,
    @Nullable Instant finishedAt,
    int meetings,
    int judged,
    int occurrences,
    int findings,
    @Nullable String message) {}
