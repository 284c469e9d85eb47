package app.uprightwarden.server.jobs;

import java.time.Instant;
import java.util.Optional;
import java.util.function.Supplier;

/**
 * When something last happened that happens by itself. Whoever does it says so.
 *
 * @param what as it is shown: {@code audit}
 * @param when empty where it never did
 */
public record LastRun(String what, Supplier<Optional<Instant>> when) {}
