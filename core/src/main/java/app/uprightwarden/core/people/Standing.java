package app.uprightwarden.core.people;

import java.util.Locale;

/** What someone is to the organisation. */
public enum Standing {
  MEMBER,
  GUEST,
  PARTNER,
  OUTSIDER,
  UNKNOWN;

  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
