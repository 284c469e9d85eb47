package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.control.Control;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The rules and guarantees of one scope; one rule per control at most. */
public record Layer(Scope scope, List<Rule> rules, List<Guarantee> guarantees) {
  public Layer {
    rules = List.copyOf(rules);
    guarantees = List.copyOf(guarantees);
    Map<Control, Rule> seen = new EnumMap<>(Control.class);
    for (Rule rule : rules) {
      if (seen.put(rule.control(), rule) != null) {
        throw new InvalidRuleException(
            "control", "a layer has one rule for " + rule.control().id() + " at most");
      }
    }
  }

  /** The layer's rule for a control, or null. */
  public @Nullable Rule ruleFor(Control control) {
    for (Rule rule : rules) {
      if (rule.control() == control) {
        return rule;
      }
    }
    return null;
  }
}
