package app.uprightwarden.core.rulebook;

import java.util.Locale;

/** How firmly a rule binds: a start alone, a start with a limit, or one value. */
public enum Mode {
  SUGGEST,
  BOUND,
  FIX;

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
