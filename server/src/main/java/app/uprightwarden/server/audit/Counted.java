package app.uprightwarden.server.audit;

import app.uprightwarden.server.persistence.AnswerCache;
import java.util.function.Supplier;

/**
 * How much there is in an audit. In a large one all the rows are not counted anew for every page:
 * totals, and where a page of findings begins, may be a moment old. Each row is read as it is.
 *
 * @param <V> the counts
 */
final class Counted<V> {
  /** From how many meetings on counting is felt. */
  private static final int LARGE = 20_000;

  private final AnswerCache<String, V> recent = new AnswerCache<>();

  V get(AuditRun run, String what, Supplier<V> counting) {
    return run.meetings() < LARGE ? counting.get() : recent.get(what, counting);
  }
}
