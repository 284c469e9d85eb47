package app.uprightwarden.bench;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.drafting.BaselineFindings;
import app.uprightwarden.core.drafting.Impact;
import app.uprightwarden.core.drafting.ImpactStudy;
import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntFunction;

/** What the answer to one moved limit costs the core, over 100,000 series. */
final class DraftingReport {
  private static final int SERIES = 100_000;

  private DraftingReport() {}

  static void print() {
    Population population = new Population(11);
    line("about 400 sets of values", population, population.index(population.mixture(SERIES)));
    Population other = new Population(12);
    line("every set distinct", other, other.index(other.distinct(SERIES)));
  }

  private static void line(String name, Population population, RegisterIndex index) {
    Rulebook inForce = population.rulebook();
    BaselineFindings baseline = new BaselineFindings(layers(inForce));
    long begin = System.nanoTime();
    study(index, baseline, inForce);
    double first = (System.nanoTime() - begin) / 1e6;
    System.out.printf(
        "impact, %s: first %.0f ms; one limit of the organisation moved %.1f ms, a matrix"
            + " control's %.1f ms%n",
        name,
        first,
        median(index, baseline, moved(inForce, Control.LATE_ENTRY)),
        median(index, baseline, moved(inForce, Control.WAITING_ROOM)));
  }

  private static Layers layers(Rulebook rulebook) {
    return new Layers(rulebook, unit -> unit == null ? List.of() : List.of(unit));
  }

  private static Impact study(RegisterIndex index, BaselineFindings baseline, Rulebook draft) {
    return ImpactStudy.of(index, baseline, layers(draft), new ImpactStudy.Page(null, 0, 20));
  }

  /** The draft with the control bound at one value, or at another. */
  private static IntFunction<Rulebook> moved(Rulebook inForce, Control control) {
    List<Value> values = control.tightenings(control.loosest());
    Value loosest = control.loosest();
    Value strictest = values.get(values.size() - 1);
    return step -> {
      Value limit = step % 2 == 0 ? loosest : strictest;
      List<Layer> layers = new ArrayList<>(inForce.layers());
      Layer first = layers.get(0);
      List<Rule> rules = new ArrayList<>(first.rules());
      rules.removeIf(rule -> rule.control() == control);
      rules.add(Rule.bound(control, strictest, limit, false, 3, ""));
      layers.set(0, new Layer(first.scope(), rules, first.guarantees()));
      return new Rulebook(layers);
    };
  }

  private static double median(
      RegisterIndex index, BaselineFindings baseline, IntFunction<Rulebook> drafts) {
    double[] times = new double[41];
    for (int i = -20; i < times.length; i++) {
      Rulebook draft = drafts.apply(i + 20);
      long begin = System.nanoTime();
      Impact impact = study(index, baseline, draft);
      if (i >= 0) {
        times[i] = (System.nanoTime() - begin) / 1e6;
      }
      if (impact.meetings() != SERIES) {
        throw new IllegalStateException("the register has another size");
      }
    }
    java.util.Arrays.sort(times);
    return times[times.length / 2];
  }
}
