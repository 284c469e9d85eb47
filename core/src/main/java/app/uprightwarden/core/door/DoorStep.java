package app.uprightwarden.core.door;

import app.uprightwarden.core.control.Control;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** The questions the door asks, in its order, each with the control that answers it. */
public enum DoorStep {
  LOCKED(null, "locked"),
  REMOVED(Control.RETURN_AFTER_REMOVAL, "removed before"),
  LATE(Control.LATE_ENTRY, "too late"),
  REGION(Control.REGIONS, "region"),
  ROUTE(Control.AUDIO_ROUTES, "by phone"),
  SIGN_IN(Control.SIGN_IN, "sign-in"),
  REGISTRATION(Control.REGISTRATION, "registration"),
  PASSCODE(Control.PASSCODE, "passcode"),
  HOST_ABSENT(Control.EARLY_ENTRY, "host is in"),
  WAITING_ROOM(Control.WAITING_ROOM, "waiting room");

  private final @Nullable Control control;
  private final String title;

  DoorStep(@Nullable Control control, String title) {
    this.control = control;
    this.title = title;
  }

  /** As it is written in files and answers, stable for ever. */
  public String id() {
    return name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** The control that the step asks, or null where it asks none. */
  public @Nullable Control control() {
    return control;
  }

  /** What the step is called. */
  public String title() {
    return title;
  }
}
