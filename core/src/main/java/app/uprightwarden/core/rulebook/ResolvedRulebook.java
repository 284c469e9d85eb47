package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The rules and guarantees in force for every meeting that the same layers apply to. */
public final class ResolvedRulebook {
  /** A guarantee with the layer that gives it. */
  public record Given(Guarantee guarantee, Scope layer) {}

  private final @Nullable ResolvedRule[] byControl = new ResolvedRule[Control.COUNT];
  private final List<ResolvedRule> rules;
  private final List<ResolvedRule> governing;
  private final List<ResolvedRule> governingMatrix;
  private final List<ResolvedRule> fixed;
  private final List<Given> guarantees;

  private ResolvedRulebook(List<ResolvedRule> rules, List<Given> guarantees) {
    this.rules = List.copyOf(rules);
    governing = rules.stream().filter(ResolvedRule::governs).toList();
    governingMatrix = governing.stream().filter(rule -> rule.control().inMatrix()).toList();
    fixed = governing.stream().filter(rule -> rule.mode() == Mode.FIX).toList();
    this.guarantees = List.copyOf(guarantees);
    rules.forEach(rule -> byControl[rule.control().ordinal()] = rule);
  }

  /** Resolves the layers, given in the order in which they apply. */
  public static ResolvedRulebook of(List<Layer> layers) {
    List<ResolvedRule> rules = new ArrayList<>();
    for (Control control : Control.all()) {
      ResolvedRule rule = resolve(control, layers);
      if (rule != null) {
        rules.add(rule);
      }
    }
    List<Given> guarantees = new ArrayList<>();
    for (Layer layer : layers) {
      layer.guarantees().forEach(g -> guarantees.add(new Given(g, layer.scope())));
    }
    return new ResolvedRulebook(rules, guarantees);
  }

  /** Resolves one control; null where no layer has a rule for it. */
  public static @Nullable ResolvedRule resolve(Control control, List<Layer> layers) {
    ResolvedRule current = null;
    List<TraceStep> trace = new ArrayList<>();
    for (Layer layer : layers) {
      Rule rule = layer.ruleFor(control);
      if (rule == null) {
        continue;
      }
      TraceStep.Action action = actionOf(current, rule);
      trace.add(new TraceStep(layer.scope(), rule, action));
      current = apply(current, rule, layer.scope(), action);
    }
    if (current == null) {
      return null;
    }
    Value limit = current.limit();
    Value start = limit == null || control.within(current.start(), limit) ? current.start() : limit;
    return new ResolvedRule(
        control,
        current.mode(),
        start,
        limit,
        current.importance(),
        current.sealed(),
        current.source(),
        current.reason(),
        List.copyOf(trace));
  }

  private static TraceStep.Action actionOf(@Nullable ResolvedRule current, Rule rule) {
    if (current == null) {
      return TraceStep.Action.TAKEN;
    }
    if (!current.sealed()) {
      return TraceStep.Action.REPLACED;
    }
    if (current.mode() == Mode.FIX) {
      return TraceStep.Action.OVERRULED;
    }
    Value limit = rule.limit();
    Value sealedLimit = current.limit();
    if (limit == null || sealedLimit == null) {
      return TraceStep.Action.START_CHANGED;
    }
    return rule.control().within(limit, sealedLimit)
        ? TraceStep.Action.TIGHTENED
        : TraceStep.Action.OVERRULED;
  }

  private static ResolvedRule apply(
      @Nullable ResolvedRule current, Rule rule, Scope layer, TraceStep.Action action) {
    if (current == null || action == TraceStep.Action.REPLACED) {
      return new ResolvedRule(
          rule.control(),
          rule.mode(),
          rule.start(),
          rule.limit(),
          rule.importance(),
          rule.sealed(),
          layer,
          rule.reason(),
          List.of());
    }
    return switch (action) {
      case TIGHTENED ->
          new ResolvedRule(
              rule.control(),
              rule.mode(),
              rule.start(),
              rule.limit(),
              Math.max(current.importance(), rule.importance()),
              true,
              layer,
              rule.reason(),
              List.of());
      case START_CHANGED ->
          new ResolvedRule(
              rule.control(),
              current.mode(),
              rule.start(),
              current.limit(),
              current.importance(),
              true,
              current.source(),
              current.reason(),
              List.of());
      default -> current;
    };
  }

  /** Rules in the table's order. */
  public List<ResolvedRule> rules() {
    return rules;
  }

  /** Those of the rules that bind hosts, in the table's order. */
  public List<ResolvedRule> governing() {
    return governing;
  }

  /** Those of the rules that bind hosts in a control of the exposure matrix. */
  public List<ResolvedRule> governingMatrix() {
    return governingMatrix;
  }

  /** Those of the rules that allow one value only. */
  public List<ResolvedRule> fixed() {
    return fixed;
  }

  /** The rule in force for a control, or null. */
  public @Nullable ResolvedRule rule(Control control) {
    return byControl[control.ordinal()];
  }

  /** The guarantees in force, in the order of their layers. */
  public List<Given> guarantees() {
    return guarantees;
  }

  /** The values new meetings are stamped with. */
  public ControlValues starts() {
    Map<Control, Value> starts = new EnumMap<>(Control.class);
    rules.forEach(rule -> starts.put(rule.control(), rule.start()));
    return ControlValues.of(starts);
  }
}
