package app.uprightwarden.core.people;

import java.util.Locale;

/** The way someone reaches a meeting. */
public enum Route {
  APP,
  PHONE;

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
