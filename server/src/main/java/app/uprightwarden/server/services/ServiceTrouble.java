package app.uprightwarden.server.services;

import java.time.Duration;
import org.jspecify.annotations.Nullable;

/** A conference service did not do what was asked; nobody knows whether it has heard. */
public final class ServiceTrouble extends Exception {
  private static final long serialVersionUID = 1;

  /** What went wrong. */
  public enum Kind {
    /** It does not answer, or answers what cannot be read. */
    AWAY,
    /** It does not know the key. */
    KEY_REFUSED,
    /** It is asked too often. */
    BUSY,
    /** It does not know up to where it was read: everything is to be read again. */
    MARKER_GONE,
    /** The meeting has another revision there. */
    CHANGED_MEANWHILE,
    /** It has no such meeting. */
    UNKNOWN,
    /** It understood and does not do it; the message says why. */
    REFUSED
  }

  private final Kind kind;
  private final @Nullable Duration pause;

  /** Trouble of a kind, in words that say it of the service: "does not answer". */
  public ServiceTrouble(Kind kind, String message) {
    this(kind, message, null);
  }

  /**
   * The same.
   *
   * @param pause for how long it is not to be asked
   */
  public ServiceTrouble(Kind kind, String message, @Nullable Duration pause) {
    super(message);
    this.kind = kind;
    this.pause = pause;
  }

  public Kind kind() {
    return kind;
  }

  public @Nullable Duration pause() {
    return pause;
  }

  /** What is wrong, in words. */
  public String words() {
    return String.valueOf(getMessage());
  }
}
