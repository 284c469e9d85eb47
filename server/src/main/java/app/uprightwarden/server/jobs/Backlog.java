package app.uprightwarden.server.jobs;

import java.util.function.LongSupplier;

/**
 * Work that waits to be done. Whoever does it says how much there is.
 *
 * @param name as it is shown: {@code audits}
 */
public record Backlog(String name, LongSupplier count) {
  /** How much waits now. */
  public long waiting() {
    return count.getAsLong();
  }
}
