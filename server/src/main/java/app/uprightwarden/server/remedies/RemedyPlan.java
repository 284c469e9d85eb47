package app.uprightwarden.server.remedies;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.server.schema.Plain;
import com.fasterxml.jackson.annotation.JsonIgnore;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What would mend a meeting, or one thing found in it.
 *
 * @param changes control → its values before and after, in the table's order
 * @param newPasscode whether a passcode is made anew, {@code newNumber} a number
 * @param complete whether nothing it is meant to mend is left
 */
public record RemedyPlan(
    Map<String, PlanStep> changes, boolean newPasscode, boolean newNumber, boolean complete) {
  static final RemedyPlan NOTHING = new RemedyPlan(Map.of(), false, false, false);

  /** One control's change, in plain form; null where there is no value. */
  public record PlanStep(@Plain @Nullable Object from, @Plain @Nullable Object to) {}

  @JsonIgnore
  public boolean isEmpty() {
    return changes.isEmpty() && !newPasscode && !newNumber;
  }

  /** What it costs people. */
  public int friction() {
    int friction = newPasscode || newNumber ? 1 : 0;
    for (String id : changes.keySet()) {
      Control control = Control.byId(id);
      friction += control == null ? 0 : control.friction();
    }
    return friction;
  }

  /** This and another together. */
  RemedyPlan and(RemedyPlan other) {
    Map<String, PlanStep> both = new LinkedHashMap<>(changes);
    other.changes().forEach(both::putIfAbsent);
    return new RemedyPlan(
        both,
        newPasscode || other.newPasscode(),
        newNumber || other.newNumber(),
        complete && other.complete());
  }
}
