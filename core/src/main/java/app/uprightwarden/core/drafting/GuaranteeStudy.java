package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.exposure.Posture;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

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
   * @param to the loosest value that will do for all of them
   */
  public record Keeper(Control control, Value to, int meetings) {}

  private static final class Best {
    private int meetings;
    private @Nullable Value to;
  }

  /** Looks at every meeting the guarantee's layer applies to. */
  public static GuaranteeStudy of(
      RegisterIndex index, Layers layers, Scope scope, Guarantee guarantee, int most) {
    int[] weights = new int[index.cohorts().size()];
    index.entries().forEach(entry -> weights[entry.cohort()]++);
    boolean[] breaks = new boolean[weights.length];
    Map<Control, Best> best = new EnumMap<>(Control.class);
    int applies = 0;
    int keptByNone = 0;
    for (int i = 0; i < weights.length; i++) {
      Cohort cohort = index.cohorts().get(i);
      if (weights[i] == 0 || !layers.takesPart(scope, cohort.unit(), cohort.kind())) {
        continue;
      }
      applies += weights[i];
      breaks[i] = breaks(cohort, guarantee);
      if (breaks[i]) {
        Map<Control, Value> keepers = keepers(cohort, layers, guarantee);
        keptByNone += keepers.isEmpty() ? weights[i] : 0;
        for (Map.Entry<Control, Value> keeper : keepers.entrySet()) {
          Best of = best.computeIfAbsent(keeper.getKey(), c -> new Best());
          of.meetings += weights[i];
          of.to = stricter(keeper.getKey(), of.to, keeper.getValue());
        }
      }
    }
    List<RegisterIndex.Entry> broken =
        index.entries().stream().filter(entry -> breaks[entry.cohort()]).toList();
    return new GuaranteeStudy(
        applies,
        broken.size(),
        best.entrySet().stream()
            .map(e -> keeper(e.getKey(), e.getValue()))
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

  private static Keeper keeper(Control control, Best best) {
    return new Keeper(control, best.to == null ? control.loosest() : best.to, best.meetings);
  }

  private static Value stricter(Control control, @Nullable Value a, Value b) {
    return a == null || control.within(b, a) ? b : a;
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

  /**
   * Controls each of which, tightened alone, keeps the guarantee throughout; loosest value first.
   */
  private static Map<Control, Value> keepers(Cohort cohort, Layers layers, Guarantee guarantee) {
    var rules = layers.of(cohort.unit(), cohort.kind());
    List<ControlValues> all = new ArrayList<>();
    all.add(cohort.values());
    cohort.changes().forEach(change -> all.add(change.values()));
    Map<Control, Value> keepers = new LinkedHashMap<>();
    for (Control control : Control.matrix()) {
      ResolvedRule rule = rules.rule(control);
      if (rule != null && rule.mode() == Mode.FIX) {
        continue;
      }
      for (Value value : control.tightenings(cohort.values().effective(control))) {
        if (all.stream().allMatch(values -> kept(values, control, value, guarantee))) {
          keepers.put(control, value);
          break;
        }
      }
    }
    return keepers;
  }

  private static boolean kept(
      ControlValues values, Control control, Value value, Guarantee guarantee) {
    Posture posture = new Posture(values);
    posture.set(control, value);
    return !posture.matrix().breaks(guarantee);
  }
}
