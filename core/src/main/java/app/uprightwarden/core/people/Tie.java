package app.uprightwarden.core.people;

import java.util.Locale;

/** How someone came by a meeting. */
public enum Tie {
  HOST,
  CO_HOST,
  NAMED,
  LISTED,
  FORWARDED,
  NONE;

  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  public boolean hosts() {
    return this == HOST || this == CO_HOST;
  }
}
