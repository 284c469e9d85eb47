package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.exposure.MatrixState;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;

/**
 * Which meetings break a guarantee, and which controls could keep it.
 *
 * @param applies how many meetings the guarantee is for
 * @param breaking how many break it, in their series or in an occurrence
 * @param keepers controls one of which alone would keep it, the one that helps most meetings first
 * @param keptByNone meetings that break it and that no single control would mend
 * @param rows the first of the breaking meetings, the soonest first
 */
public record GuaranteeStudy(
    int applies, int breaking, List<Keeper> keepers, int keptByNone, List<Long> rows) {

  /**
   * A control that would keep the guarantee.
   *
   * @param to the value that does it for most of them, and of those the loosest
   * @param meetings for how many it does: held against their rules and guarantees anew, none of
   *     them breaks this one any more, nor a rule that it kept before
   */
  public record Keeper(Control control, Value to, int meetings) {}

  /** Looks at every meeting the guarantee's layer applies to. */
  public static GuaranteeStudy of(
      RegisterIndex index, Layers layers, Scope scope, Guarantee guarantee, int most) {
    boolean[] applies = new boolean[index.cohorts().size()];
    boolean[] breaks = new boolean[applies.length];
    for (int i = 0; i < applies.length; i++) {
      Cohort cohort = index.cohorts().get(i);
      applies[i] = layers.takesPart(scope, cohort.unit(), cohort.kind());
      breaks[i] = applies[i] && breaks(cohort, guarantee);
    }
    int meetings = 0;
    Map<Alike, Integer> alike = new LinkedHashMap<>();
    for (RegisterIndex.Entry entry : index.entries()) {
      meetings += applies[entry.cohort()] ? 1 : 0;
      if (breaks[entry.cohort()]) {
        alike.merge(new Alike(entry.cohort(), entry.reach()), 1, Integer::sum);
      }
    }
    Map<Control, Map<Value, Integer>> keeping = new EnumMap<>(Control.class);
    int keptByNone = 0;
    for (Map.Entry<Alike, Integer> some : alike.entrySet()) {
      Cohort cohort = index.cohorts().get(some.getKey().cohort());
      Map<Control, List<Value>> keepers = keepers(cohort, some.getKey().reach(), layers, guarantee);
      keptByNone += keepers.isEmpty() ? some.getValue() : 0;
      keepers.forEach(
          (control, values) ->
              values.forEach(
                  value ->
                      keeping
                          .computeIfAbsent(control, c -> new HashMap<>())
                          .merge(value, some.getValue(), Integer::sum)));
    }
    List<RegisterIndex.Entry> broken =
        index.entries().stream().filter(entry -> breaks[entry.cohort()]).toList();
    return new GuaranteeStudy(
        meetings,
        broken.size(),
        keeping.entrySet().stream()
            .map(e -> best(e.getKey(), e.getValue()))
            .sorted(
                Comparator.comparingInt(Keeper::meetings)
                    .reversed()
                    .thenComparing(k -> k.control().friction())
                    .thenComparing(Keeper::control))
            .toList(),
        keptByNone,
        broken.stream()
            .sorted(
                Comparator.comparingInt(
                        (RegisterIndex.Entry e) -> e.next() < 0 ? Integer.MAX_VALUE : e.next())
                    .thenComparingLong(RegisterIndex.Entry::row))
            .limit(most)
            .map(RegisterIndex.Entry::row)
            .toList());
  }

  /** Meetings that nothing tells apart here. */
  private record Alike(int cohort, Reach reach) {}

  private static Keeper best(Control control, Map<Value, Integer> meetings) {
    Map.Entry<Value, Integer> best = null;
    for (Map.Entry<Value, Integer> one : meetings.entrySet()) {
      boolean isBetter =
          best == null
              || one.getValue() > best.getValue()
              || one.getValue().equals(best.getValue())
                  && control.within(best.getKey(), one.getKey());
      best = isBetter ? one : best;
    }
    Map.Entry<Value, Integer> found = Objects.requireNonNull(best);
    return new Keeper(control, found.getKey(), found.getValue());
  }

  private static boolean breaks(Cohort cohort, Guarantee guarantee) {
    if (Matrix.of(cohort.values()).breaks(guarantee)) {
      return true;
    }
    for (MeetingFacts.Change change : cohort.changes()) {
      if (Matrix.of(change.values()).breaks(guarantee)) {
        return true;
      }
    }
    return false;
  }

  /** Controls each of which, tightened alone, keeps it throughout, with all values that do. */
  private static Map<Control, List<Value>> keepers(
      Cohort cohort, Reach reach, Layers layers, Guarantee guarantee) {
    ResolvedRulebook rules = layers.of(cohort.unit(), cohort.kind());
    List<ControlValues> all = new ArrayList<>();
    all.add(cohort.values());
    cohort.changes().forEach(change -> all.add(change.values()));
    Map<Control, List<Value>> keepers = new LinkedHashMap<>();
    for (Control control : Control.matrix()) {
      ResolvedRule rule = rules.rule(control);
      if (rule != null && rule.mode() == Mode.FIX) {
        continue;
      }
      for (Value value : control.tightenings(cohort.values().effective(control))) {
        if (all.stream().allMatch(values -> keeps(values, control, value, guarantee))
            && all.stream().allMatch(values -> isAllowed(values, control, value, rules, reach))) {
          keepers.computeIfAbsent(control, c -> new ArrayList<>()).add(value);
        }
      }
    }
    return keepers;
  }

  private static boolean keeps(
      ControlValues values, Control control, Value value, Guarantee guarantee) {
    MatrixState state = new MatrixState(values);
    state.set(control, tightened(values, control, value));
    return !state.matrix().breaks(guarantee);
  }

  /** An occurrence that is stricter by itself stays so. */
  private static Value tightened(ControlValues values, Control control, Value value) {
    Value own = values.effective(control);
    return control.within(own, value) ? own : value;
  }

  /** Whether the change leaves the control within its rule, and no other without evidence. */
  private static boolean isAllowed(
      ControlValues values, Control control, Value value, ResolvedRulebook rules, Reach reach) {
    ControlValues then = values.with(control, tightened(values, control, value));
    Judgement.Basis basis = new Judgement.Basis(then, reach);
    ResolvedRule own = rules.rule(control);
    if (own != null && own.governs() && !basis.within(own, then.effective(control))) {
      return false;
    }
    return rules.rules().stream()
        .noneMatch(rule -> rule.notEvidencedIn(then) && !rule.notEvidencedIn(values));
  }
}
