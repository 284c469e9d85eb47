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
   * A state, and who would be inside with one control a step stricter: made once for all controls
   * of a meeting. Only those that move somebody at the door, or from presenters to others, can
   * decide whether another matters: the rest leaves its rights as they are.
   */
  public static final class Around {
    private static final Control[] DECIDING =
        Control.matrix().stream()
            .filter(control -> !MatrixState.isPlain(control) || EntryTable.moves(control))
            .toArray(Control[]::new);

    private final MatrixState state;
    private final MatrixState.Inside now;
    private MatrixState.@Nullable Inside @Nullable [] stricter;

    /** Takes the state from which others are derived. */
    public Around(MatrixState state) {
      this.state = state;
      this.now = state.inside(Control.JOINER_MODE, state.rank(Control.JOINER_MODE));
    }

    /** See {@link Effects#defeatedBy}. */
    public List<Control> defeatedBy(Control control) {
      // A value of the loosest value's class can never matter: no state tells them apart.
      int rank = control.inMatrix() ? state.rank(control) : 0;
      if (rank == 0 || !isDeadNow(control, rank)) {
        return List.of();
      }
      if (!MatrixState.isPlain(control)) {
        return byMatrices(control);
      }
      MatrixState.@Nullable Inside[] all = stricter();
      List<Control> defeaters = List.of();
      for (int i = 0; i < all.length; i++) {
        MatrixState.Inside inside = all[i];
        if (inside != null && !inside.isDead(control, rank) && DECIDING[i] != control) {
          defeaters = defeaters.isEmpty() ? new ArrayList<>() : defeaters;
          defeaters.add(DECIDING[i]);
        }
      }
      return defeaters.isEmpty() ? List.of() : List.copyOf(defeaters);
    }

    /** With each deciding control a step stricter; null where it has none. */
    private MatrixState.@Nullable Inside[] stricter() {
      MatrixState.@Nullable Inside[] known = stricter;
      if (known == null) {
        known = new MatrixState.@Nullable Inside[DECIDING.length];
        for (int i = 0; i < known.length; i++) {
          int step = state.oneStepStricter(DECIDING[i]);
          known[i] = step < 0 ? null : state.inside(DECIDING[i], step);
        }
        stricter = known;
      }
      return known;
    }

    private boolean isDeadNow(Control control, int rank) {
      return MatrixState.isPlain(control)
          ? now.isDead(control, rank)
          : dead(state, state.matrix(), control);
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
