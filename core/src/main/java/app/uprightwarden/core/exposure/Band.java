package app.uprightwarden.core.exposure;

import java.util.Locale;

/** How exposed a meeting is, in one word. */
public enum Band {
  SHUT,
  GUARDED,
  AJAR,
  OPEN;

  /** The band of an exposure given in tenths, as rounded. */
  static Band ofTenths(int tenths) {
    if (tenths < 100) {
      return SHUT;
    }
    if (tenths < 250) {
      return GUARDED;
    }
    return tenths < 500 ? AJAR : OPEN;
  }

  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }
}
