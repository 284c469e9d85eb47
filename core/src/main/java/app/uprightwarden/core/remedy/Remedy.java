package app.uprightwarden.core.remedy;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A set of control changes.
 *
 * @param changes in the table's order
 * @param friction what they cost people together
 * @param complete whether no finding of {@code beyond-limit}, {@code not-evidenced} and {@code
 *     guarantee-broken} is left afterwards
 */
public record Remedy(List<Change> changes, int friction, boolean complete) {
  /**
   * One control's change.
   *
   * @param from null where the meeting had no value
   * @param forced by a rule; otherwise chosen to keep a guarantee
   */
  public record Change(Control control, @Nullable Value from, Value to, boolean forced) {}
}
