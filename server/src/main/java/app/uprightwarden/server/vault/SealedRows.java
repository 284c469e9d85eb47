package app.uprightwarden.server.vault;

import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A table that holds something sealed; when keys change it seals its rows anew. What is sealed
 * begins with the number of its key. The rows to do are looked for without locks and then locked by
 * their ids: looking for them with locks would lock every row that is passed on the way.
 */
public interface SealedRows {
  /** The table's name, as reports say it. */
  String table();

  /** How many rows are not sealed with the current key. */
  long behind();

  /**
   * Seals some of them anew, in one transaction. Rows that another server has in hand are left to
   * it.
   *
   * @param most how many at once
   * @return how many were done
   */
  int sealAnew(int most);

  /** What a row holds that was found for being sealed. */
  static byte[] sealed(byte @Nullable [] held) {
    return Objects.requireNonNull(held);
  }
}
