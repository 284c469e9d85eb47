package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Controls that are set and change nothing, and which other controls are to blame. */
public final class Effects {
  private Effects() {}

  /** Whether a control is set strictly and yet putting its loosest value changes no level. */
  public static boolean dead(ControlValues values, Control control) {
    if (!isSet(values, control)) {
      return false;
    }
    MatrixState state = new MatrixState(values);
    return dead(state, state.matrix(), control);
  }

  /**
   * The controls that defeat this one: tightening any one of them by one step would make this one
   * matter. Empty where the control matters, stands at its loosest, is no matrix control, or is
   * merely covered.
   */
  public static List<Control> defeatedBy(ControlValues values, Control control) {
    return new Around(new MatrixState(values)).defeatedBy(control);
  }

  /**
   * A state, and what would matter with one control a step stricter: made once for all controls of
   * a meeting. Only those that move somebody at the door, or from presenters to others, can decide
   * whether another matters: the rest leaves its rights as they are.
   */
  public static final class Around {
    private static final Control[] DECIDING =
        Control.matrix().stream()
            .filter(control -> !MatrixState.isPlain(control) || EntryTable.moves(control))
            .toArray(Control[]::new);

    private final MatrixState state;
    private final MatrixState.Taking taking;
    private final long deadNow;
    private long @Nullable [] mattering;

    /** What matters with some deciding control a step stricter. */
    private long matteringWithSome;

    /** Takes the state from which others are derived. */
    public Around(MatrixState state) {
      this.state = state;
      this.taking = state.taking();
      this.deadNow = state.dead(taking, Control.JOINER_MODE, state.rank(Control.JOINER_MODE));
    }

    /** See {@link Effects#defeatedBy}. */
    public List<Control> defeatedBy(Control control) {
      // A value of the loosest value's class can never matter: no state tells them apart.
      int rank = control.inMatrix() ? state.rank(control) : 0;
      if (rank == 0) {
        return List.of();
      }
      if (!MatrixState.isPlain(control)) {
        return dead(state, state.matrix(), control) ? byMatrices(control) : List.of();
      }
      long bit = EntryTable.bit(control);
      if ((deadNow & bit) == 0) {
        return List.of();
      }
      long[] all = mattering();
      if ((matteringWithSome & bit) == 0) {
        return List.of();
      }
      List<Control> defeaters = new ArrayList<>();
      for (int i = 0; i < all.length; i++) {
        if ((all[i] & bit) != 0) {
          defeaters.add(DECIDING[i]);
        }
      }
      return List.copyOf(defeaters);
    }

    /** The other controls that matter with each deciding one a step stricter, if it has one. */
    private long[] mattering() {
      long[] known = mattering;
      if (known == null) {
        known = new long[DECIDING.length];
        for (int i = 0; i < known.length; i++) {
          Control control = DECIDING[i];
          int step = state.oneStepStricter(control);
          known[i] = step < 0 ? 0 : ~(state.dead(taking, control, step) | EntryTable.bit(control));
          matteringWithSome |= known[i];
        }
        mattering = known;
      }
      return known;
    }

    private List<Control> byMatrices(Control control) {
      List<Control> defeaters = new ArrayList<>();
      for (Control other : Control.matrix()) {
        int step = other == control ? -1 : state.oneStepStricter(other);
        if (step >= 0) {
          int before = state.set(other, step);
          if (!dead(state, state.matrix(), control)) {
            defeaters.add(other);
          }
          state.set(other, before);
        }
      }
      return List.copyOf(defeaters);
    }
  }

  private static boolean isSet(ControlValues values, Control control) {
    return control.inMatrix() && !values.effective(control).equals(control.loosest());
  }

  private static boolean dead(MatrixState state, Matrix found, Control control) {
    int before = state.set(control, 0);
    boolean same = found.sameLevels(state.matrix());
    state.set(control, before);
    return same;
  }
}
