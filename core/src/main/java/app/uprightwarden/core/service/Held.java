package app.uprightwarden.core.service;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * That a meeting is held by a service. Its own values are what the service holds; here is where
 * these differ from what was decided.
 *
 * @param service the service's name
 * @param means what it can hold
 * @param unread where it was read longer ago than is allowed; null where it was read lately
 */
public record Held(
    String service, Means means, List<Difference> differences, @Nullable Unread unread) {
  /**
   * That nobody knows what a service holds by now.
   *
   * @param since when it was read last
   * @param soon the meeting begins within a day
   */
  public record Unread(Instant since, boolean soon) {}

  /** Takes a copy. */
  public Held {
    differences = List.copyOf(differences);
  }

  /** Read lately. */
  public Held(String service, Means means, List<Difference> differences) {
    this(service, means, differences, null);
  }

  /** How it came that the two differ. */
  public enum Cause {
    /** What was decided is on its way. */
    UNDER_WAY,
    /** Somebody changed it in the service after it had been as decided. */
    CHANGED_THERE,
    /** The service does not take what was decided, or nothing may be sent to it. */
    REFUSED,
    /** What was decided has not been confirmed for longer than the organisation allows. */
    LATE;

    /** As it is written: {@code changed-there}. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT).replace('_', '-');
    }
  }

  /**
   * A control that a service holds otherwise than was decided.
   *
   * @param occurrence the original local start of the date concerned, null for the series
   * @param held null where the service holds nothing
   * @param by who changed it there, where that is known
   * @param at when it was changed there, or null
   * @param why why it was refused, or empty
   */
  public record Difference(
      @Nullable LocalDateTime occurrence,
      Control control,
      Value decided,
      @Nullable Value held,
      Cause cause,
      @Nullable String by,
      @Nullable Instant at,
      String why) {

    /**
     * Whether what is held lets more happen than was decided, or is simply another for neutrals.
     */
    public boolean isLooser() {
      return held == null || !control.within(held, decided);
    }
  }
}
