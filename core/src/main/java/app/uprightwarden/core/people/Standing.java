package app.uprightwarden.core.people;

import java.util.Locale;

/** What someone is to the organisation. */
public enum Standing {
  MEMBER,
  GUEST,
  PARTNER,
  OUTSIDER,
  UNKNOWN;

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
