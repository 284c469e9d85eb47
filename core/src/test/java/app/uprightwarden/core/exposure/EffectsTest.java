package app.uprightwarden.core.exposure;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.testng.annotations.Test;

/**
 * Which controls defeat one is found without making a matrix for each. Here it is found by making
 * them, as the meaning says: the law is that both are the same.
 */
public class EffectsTest {
  private static final int ROUNDS = 6_000;

  private static List<Value> valuesOf(Control control) {
    List<Value> values = new ArrayList<>(List.of(control.loosest()));
    values.addAll(control.tightenings(control.loosest()));
    return values;
  }

  /** Loose and strict in turn, so that controls defeat each other in many ways. */
  private static ControlValues random(Random random) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    int share = 1 + random.nextInt(9);
    for (Control control : Control.matrix()) {
      if (random.nextInt(10) < share) {
        List<Value> all = valuesOf(control);
        values.put(control, all.get(random.nextInt(all.size())));
      }
    }
    if (random.nextInt(4) == 0) {
      values.put(Control.LATE_ENTRY, new Value.Amount(random.nextInt(2)));
    }
    return ControlValues.of(values);
  }

  private static boolean isDead(MatrixState state, Control control) {
    Matrix found = state.matrix();
    int before = state.set(control, 0);
    boolean same = found.sameLevels(state.matrix());
    state.set(control, before);
    return same;
  }

  private static List<Control> byMatrices(ControlValues values, Control control) {
    MatrixState state = new MatrixState(values);
    if (state.rank(control) == 0 || !isDead(state, control)) {
      return List.of();
    }
    List<Control> found = new ArrayList<>();
    for (Control other : Control.matrix()) {
      int stricter = other == control ? -1 : state.oneStepStricter(other);
      if (stricter >= 0) {
        int before = state.set(other, stricter);
        if (!isDead(state, control)) {
          found.add(other);
        }
        state.set(other, before);
      }
    }
    return found;
  }

  @Test
  public void whatDefeatsAControlIsWhatMatricesSay() {
    Random random = new Random(20_261_127);
    int defeated = 0;
    for (int round = 0; round < ROUNDS; round++) {
      ControlValues values = random(random);
      for (Control control : Control.matrix()) {
        List<Control> wanted = byMatrices(values, control);
        assertEquals(
            Effects.defeatedBy(values, control),
            wanted,
            control.id() + " in round " + round + " of " + values);
        defeated += wanted.isEmpty() ? 0 : 1;
      }
    }
    assertTrue(defeated > ROUNDS, "most sets have a control that another defeats: " + defeated);
  }

  @Test
  public void whetherAControlIsDeadIsWhatMatricesSay() {
    Random random = new Random(7);
    for (int round = 0; round < ROUNDS; round++) {
      ControlValues values = random(random);
      for (Control control : Control.matrix()) {
        boolean isSet = !values.effective(control).equals(control.loosest());
        assertEquals(
            Effects.dead(values, control),
            isSet && isDead(new MatrixState(values), control),
            control.id() + " in round " + round + " of " + values);
      }
    }
  }
}
