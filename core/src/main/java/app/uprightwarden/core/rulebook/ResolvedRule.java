package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * What the layers that apply say together about one control.
 *
 * @param limit null for a suggestion
 * @param source the layer the limit comes from (for a suggestion, the start)
 * @param reason of the rule the limit comes from
 */
public record ResolvedRule(
    Control control,
    Mode mode,
    Value start,
    @Nullable Value limit,
    int importance,
    boolean sealed,
    Scope source,
    String reason,
    List<TraceStep> trace) {

  /**
   * Whether the rule binds a control for which these values show nothing, though they should:
   * length and makeup are asked for only where a passcode is required.
   */
  public boolean notEvidencedIn(ControlValues values) {
    boolean onlyWithPasscode =
        control == Control.PASSCODE_LENGTH || control == Control.PASSCODE_MAKEUP;
    return governs()
        && values.get(control) == null
        && (!onlyWithPasscode || values.is(Control.PASSCODE, "required"));
  }

  /** Whether the rule binds hosts at all. */
  public boolean governs() {
    return limit != null;
  }
}
