package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import org.jspecify.annotations.Nullable;

/**
 * One layer's rule for one control.
 *
 * @param start what new meetings begin with
 * @param limit the loosest value hosts may choose; null for a suggestion, equal to start for a fix
 * @param importance 1 to 4
 * @param reason why, as written by the administrator; may be empty
 */
public record Rule(
    Control control,
    Mode mode,
    Value start,
    @Nullable Value limit,
    boolean sealed,
    int importance,
    String reason) {

  public static final int DEFAULT_IMPORTANCE = 2;

  public Rule {
    if (importance < 1 || importance > 4) {
      throw new InvalidRuleException("importance", "importance must be 1 to 4");
    }
    if (mode == Mode.SUGGEST && sealed) {
      throw new InvalidRuleException("sealed", "a suggestion cannot be sealed");
    }
    if (mode == Mode.BOUND && control.isNeutral()) {
      throw new InvalidRuleException(
          "mode", control.id() + " has no stricter side, so it cannot be bound: suggest or fix it");
    }
    if ((mode == Mode.SUGGEST) != (limit == null)) {
      throw new InvalidRuleException(
          "limit", mode == Mode.SUGGEST ? "a suggestion has no limit" : "a limit is missing");
    }
    if (mode == Mode.FIX && !start.equals(limit)) {
      throw new InvalidRuleException("value", "a fix has one value");
    }
  }

  /** A suggestion, which binds nobody; importance 1 to 4. */
  public static Rule suggest(Control control, Value start, int importance, String reason) {
    return new Rule(control, Mode.SUGGEST, start, null, false, importance, reason);
  }

  /** A limit beyond which nobody may go; importance 1 to 4. */
  public static Rule bound(
      Control control, Value start, Value limit, boolean sealed, int importance, String reason) {
    return new Rule(control, Mode.BOUND, start, limit, sealed, importance, reason);
  }

  /** A rule that allows one value; importance 1 to 4. */
  public static Rule fix(
      Control control, Value value, boolean sealed, int importance, String reason) {
    return new Rule(control, Mode.FIX, value, value, sealed, importance, reason);
  }
}
