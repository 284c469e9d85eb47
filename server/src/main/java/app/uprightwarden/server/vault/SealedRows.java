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

  /**
   * The end of a question for the first {@code :most} rows of a table that are behind, with locks
   * on these alone: looking for them with locks would lock every row that is passed on the way.
   *
   * @param condition {@code " where …"}; true of rows that are behind
   */
  static String firstOf(String table, String condition) {
    return condition
        + " and id in (select id from (select id from "
        + table
        + condition
        + " order by id limit :most) behind) order by id for update skip locked";
  }
}
