package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import java.util.ArrayList;
import java.util.List;

/** Controls that are set and change nothing, and which other controls are to blame. */
public final class Effects {
  private Effects() {}

  /** Whether a control is set strictly and yet putting its loosest value changes no level. */
  public static boolean dead(ControlValues values, Control control) {
    if (!isSet(values, control)) {
      return false;
    }
    Posture posture = new Posture(values);
    return dead(posture, posture.matrix(), control);
  }

  /**
   * The controls that defeat this one: tightening any one of them by one step would make this one
   * matter. Empty where the control matters, stands at its loosest, is no matrix control, or is
   * merely covered.
   */
  public static List<Control> defeatedBy(ControlValues values, Control control) {
    if (!isSet(values, control)) {
      return List.of();
    }
    Posture posture = new Posture(values);
    return defeatedBy(values, posture, posture.matrix(), control);
  }

  /**
   * The same on a posture, and its matrix, that the caller keeps for several controls of a meeting.
   */
  public static List<Control> defeatedBy(
      ControlValues values, Posture posture, Matrix matrix, Control control) {
    // A value of the loosest value's class can never matter: no posture tells them apart.
    if (!isSet(values, control) || posture.rank(control) == 0 || !dead(posture, matrix, control)) {
      return List.of();
    }
    List<Control> defeaters = new ArrayList<>();
    for (Control other : Control.matrix()) {
      if (other == control || !posture.canDecide(control, other)) {
        continue;
      }
      int stricter = posture.oneStepStricter(other);
      if (stricter >= 0 && !deadWith(posture, control, other, stricter)) {
        defeaters.add(other);
      }
    }
    return List.copyOf(defeaters);
  }

  /** Whether a control would change nothing with another at a rank. */
  private static boolean deadWith(Posture posture, Control control, Control other, int rank) {
    if (Posture.isPlain(control)) {
      return posture.isDead(control, other, rank);
    }
    int before = posture.set(other, rank);
    boolean dead = dead(posture, posture.matrix(), control);
    posture.set(other, before);
    return dead;
  }

  private static boolean isSet(ControlValues values, Control control) {
    return control.inMatrix() && !values.effective(control).equals(control.loosest());
  }

  private static boolean dead(Posture posture, Matrix found, Control control) {
    if (Posture.isPlain(control)) {
      return posture.isDead(control, control, posture.rank(control));
    }
    int before = posture.set(control, 0);
    boolean same = found.sameLevels(posture.matrix());
    posture.set(control, before);
    return same;
  }
}
