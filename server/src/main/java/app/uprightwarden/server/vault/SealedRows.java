package app.uprightwarden.server.vault;

/** A table that holds something sealed; when keys change it seals its rows anew. */
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
}
