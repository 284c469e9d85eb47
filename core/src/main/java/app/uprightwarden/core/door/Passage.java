package app.uprightwarden.core.door;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Role;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * The door's answer.
 *
 * @param step where refused or held; null where in
 * @param role what they are inside; null unless in
 * @param trail every step asked, in order, with what decided it
 */
public record Passage(
    Outcome outcome, @Nullable DoorStep step, @Nullable Role role, List<Trace> trail) {

  /** What the door may answer. */
  public enum Outcome {
    REFUSED,
    HELD,
    IN;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT);
    }
  }

  /**
   * One step of the trail.
   *
   * @param control that decided it, null where none did (a lock)
   * @param value of that control
   * @param outcome IN where the step let them pass
   * @param reason why
   */
  public record Trace(
      DoorStep step,
      @Nullable Control control,
      @Nullable Value value,
      Outcome outcome,
      DoorReason reason) {
    /** The reason in one sentence. */
    public String words() {
      return reason.words();
    }
  }
}
