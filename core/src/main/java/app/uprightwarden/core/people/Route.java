package app.uprightwarden.core.people;

import java.util.Locale;

/** The way someone reaches a meeting. */
public enum Route {
  APP,
  PHONE;

  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
