package app.uprightwarden.server.retention;

import java.time.Instant;

/** Something that is kept for a time. Whoever keeps it lets it go. */
public interface Retention {
  /** As the rule names it: {@code audits}. */
  String what();

  /**
   * Lets go of some of what is older, in one transaction.
   *
   * @param most how many rows at once
   * @return how many went; 0 where nothing that old is left
   */
  int letGo(Instant before, int most);
}
