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

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** Whether it is that of a host or co-host. */
  public boolean hosts() {
    return this == HOST || this == CO_HOST;
  }
}
