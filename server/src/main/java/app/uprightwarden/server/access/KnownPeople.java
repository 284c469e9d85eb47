package app.uprightwarden.server.access;

import java.util.List;

/** What the directory says of people; whoever keeps the directory implements it. */
public interface KnownPeople {
  /** Whether somebody is here. */
  enum Presence {
    HERE,
    /** In the directory, and let go. */
    GONE,
    UNKNOWN
  }

  /**
   * Whether the directory has an address.
   *
   * @param email in any case
   */
  Presence presence(String email);

  /** Names that anybody here would think of: the organisation's, its domains, its units. */
  List<String> houseWords();

  /** Whether the organisation has a unit. */
  boolean hasUnit(String id);
}
