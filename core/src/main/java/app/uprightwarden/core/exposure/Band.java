package app.uprightwarden.core.exposure;

import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** How exposed a meeting is, in a word. */
public enum Band {
  SHUT(0),
  GUARDED(100),
  AJAR(250),
  OPEN(500);

  private final int fromTenths;

  Band(int fromTenths) {
    this.fromTenths = fromTenths;
  }

  /** The band of an exposure given in tenths (0 to 1000), as rounded. */
  public static Band ofTenths(int tenths) {
    Band band = SHUT;
    for (Band higher : values()) {
      if (tenths >= higher.fromTenths) {
        band = higher;
      }
    }
    return band;
  }

  /** The band of an id, or null where there is none. */
  public static @Nullable Band byId(String id) {
    for (Band band : values()) {
      if (band.id().equals(id)) {
        return band;
      }
    }
    return null;
  }

  /** As it is written: {@code ajar}. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** The lowest exposure that is in it, in tenths. */
  public int fromTenths() {
    return fromTenths;
  }

  /** The lowest exposure that is beyond it, in tenths. */
  public int toTenths() {
    return this == OPEN ? 1001 : values()[ordinal() + 1].fromTenths;
  }
}
