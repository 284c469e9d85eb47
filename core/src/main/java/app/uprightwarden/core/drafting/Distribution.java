package app.uprightwarden.core.drafting;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * How the coming meetings of a layer are spread over the values of each control.
 *
 * @param series how many series have occurrences coming
 * @param occurrences how many occurrences those are
 * @param controls control → value as text → series or occurrences; {@code ?} where not evidenced
 */
public record Distribution(
    int series, int occurrences, Map<String, Map<String, Integer>> controls) {

  /**
   * Counts a layer's meetings.
   *
   * @param byOccurrences counts occurrences, each at the values of its series
   */
  public static Distribution of(
      RegisterIndex index,
      Function<@Nullable String, List<String>> unitPath,
      Scope scope,
      boolean byOccurrences) {
    Layers layers = new Layers(Rulebook.EMPTY, unitPath);
    int[] weights = new int[index.cohorts().size()];
    int series = 0;
    int occurrences = 0;
    for (RegisterIndex.Entry entry : index.entries()) {
      Cohort cohort = index.cohort(entry);
      if (entry.occurrences() > 0 && layers.takesPart(scope, cohort.unit(), cohort.kind())) {
        series++;
        occurrences += entry.occurrences();
        weights[entry.cohort()] += byOccurrences ? entry.occurrences() : 1;
      }
    }
    Map<String, Map<String, Integer>> controls = new LinkedHashMap<>();
    for (Control control : Control.all()) {
      Map<String, Integer> counts = new LinkedHashMap<>();
      Map<@Nullable Value, Integer> byValue = new HashMap<>();
      for (int i = 0; i < weights.length; i++) {
        if (weights[i] > 0) {
          byValue.merge(index.cohorts().get(i).values().get(control), weights[i], Integer::sum);
        }
      }
      byValue.forEach((value, count) -> counts.put(key(control, value), count));
      controls.put(control.id(), counts);
    }
    return new Distribution(series, occurrences, controls);
  }

  private static String key(Control control, @Nullable Value value) {
    if (value == null) {
      return "?";
    }
    Object plain = control.plain(value);
    return plain instanceof List<?> list
        ? String.join(",", list.stream().map(String::valueOf).toList())
        : plain.toString();
  }
}
