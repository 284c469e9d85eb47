package app.uprightwarden.core.people;

import java.util.Locale;

/** What someone is inside a meeting. */
public enum Role {
  HOST,
  CO_HOST,
  PRESENTER,
  ATTENDEE,
  ONLOOKER;

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }
}
