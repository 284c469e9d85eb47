package app.uprightwarden.server.audit;

import java.time.Instant;
import java.util.Collection;
import java.util.Map;

/** Tells which meetings a remedy was undone in. Whoever carries remedies out knows. */
public interface UndoneRemedies {
  /**
   * Meetings in which a remedy was undone of late.
   *
   * @param since when it was undone at the earliest
   * @return by meeting, when the first of those remedies was asked for
   */
  Map<String, Instant> askedAt(Collection<String> meetings, Instant since);
}
