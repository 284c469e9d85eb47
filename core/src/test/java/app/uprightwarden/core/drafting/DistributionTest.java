package app.uprightwarden.core.drafting;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.Scope;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/** Which values a layer's coming meetings have. Invented data. */
public class DistributionTest {
  private static final RegisterIndex INDEX =
      RegisterIndex.EMPTY.with(
          List.of(
              meeting(1, "harbour", "talk", Map.of(Control.CHAT, "off"), 4),
              meeting(2, "pilots", "talk", Map.of(Control.CHAT, "off"), 1),
              meeting(3, "pilots", null, Map.of(Control.CHAT, "always"), 2),
              meeting(4, null, null, Map.of(Control.REGIONS, List.of("IE", "GB")), 1),
              meeting(5, "pilots", "talk", Map.of(Control.CHAT, "always"), 0)),
          Set.of());

  private static RegisterIndex.Fresh meeting(
      long row,
      @Nullable String unit,
      @Nullable String kind,
      Map<Control, Object> plain,
      int occurrences) {
    ControlValues values = ControlValues.NONE;
    for (Map.Entry<Control, Object> each : plain.entrySet()) {
      values = values.with(each.getKey(), each.getKey().parse(each.getValue()));
    }
    Cohort cohort = new Cohort(unit, kind, values, Reach.NOBODY, List.of());
    return new RegisterIndex.Fresh(row, 0, cohort, "h", occurrences > 0 ? 1 : -1, occurrences);
  }

  /** Pilots are a unit of the harbour's. */
  private static List<String> path(@Nullable String unit) {
    if (unit == null) {
      return List.of();
    }
    return unit.equals("pilots") ? List.of("harbour", "pilots") : List.of(unit);
  }

  private static Distribution of(Scope scope, boolean byOccurrences) {
    return Distribution.of(INDEX, DistributionTest::path, scope, byOccurrences);
  }

  private static Map<String, Integer> chat(Distribution some) {
    return some.controls().get("chat");
  }

  @Test
  public void seriesWithOccurrencesComingAreCounted() {
    Distribution all = of(Scope.ORGANISATION, false);
    assertEquals(all.series(), 4, "one has nothing coming");
    assertEquals(all.occurrences(), 8);
    assertEquals(chat(all), Map.of("off", 2, "always", 1, "?", 1));
    assertEquals(all.controls().get("regions"), Map.of("GB,IE", 1, "?", 3));
    assertEquals(
        List.copyOf(all.controls().keySet()), Control.all().stream().map(Control::id).toList());
  }

  @Test
  public void occurrencesAreCountedAtTheValuesOfTheirSeries() {
    Distribution all = of(Scope.ORGANISATION, true);
    assertEquals(all.series(), 4);
    assertEquals(chat(all), Map.of("off", 5, "always", 2, "?", 1));
  }

  @Test
  public void aLayerCountsTheMeetingsItAppliesTo() {
    assertEquals(chat(of(Scope.unit("harbour"), false)), Map.of("off", 2, "always", 1));
    assertEquals(chat(of(Scope.unit("pilots"), true)), Map.of("off", 1, "always", 2));
    assertEquals(chat(of(Scope.kind("talk"), true)), Map.of("off", 5));
    assertEquals(of(Scope.kind("talk"), true).occurrences(), 5);
    Distribution nobody = of(Scope.unit("galley"), false);
    assertEquals(nobody.series() + nobody.occurrences(), 0);
    assertEquals(chat(nobody), Map.of());
  }
}
