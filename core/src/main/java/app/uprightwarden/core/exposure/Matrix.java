package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Level;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * Who comes to hold which right, and how freely. A persona comes in at one level and then holds the
 * rights of its role, so that the matrix of 11 × 16 levels is one level and one mask a persona.
 */
public final class Matrix {
  static final int BITS = 3;
  static final int LEVEL_MASK = (1 << BITS) - 1;
  static final int BY_PHONE = Right.LISTEN.bit() | Right.SPEAK.bit();

  private final long entry;
  private final int presenters;
  private final int presenterMask;
  private final int otherMask;

  /**
   * @param entry three bits a persona: the level at which it comes in
   * @param presenters one bit a persona: it comes in as a presenter
   * @param presenterMask the rights of presenters by app
   * @param otherMask the rights of the others by app
   */
  Matrix(long entry, int presenters, int presenterMask, int otherMask) {
    this.entry = entry;
    this.presenters = presenters;
    this.presenterMask = presenterMask;
    this.otherMask = otherMask;
  }

  /** Who can do what under these values. */
  public static Matrix of(ControlValues values) {
    return new MatrixState(values).matrix();
  }

  /** The joiner a persona is at a meeting with these values. */
  public static Joiner joiner(Persona persona, ControlValues values) {
    return persona.joiner(
        values.is(Control.PASSCODE_IN_LINK, "embedded"),
        values.is(Control.PASSCODE_IN_MAIL, "shown"),
        values.is(Control.FORWARDING, "blocked"));
  }

  /** The level at which a persona comes in at all. */
  public Level entry(Persona persona) {
    return Level.all().get((int) (entry >>> (BITS * persona.ordinal())) & LEVEL_MASK);
  }

  /** The rights a persona holds once in, as a mask. */
  public int rights(Persona persona) {
    return mask(persona.ordinal());
  }

  /** How freely a persona holds a right. */
  public Level level(Persona persona, Right right) {
    return (rights(persona) & right.bit()) == 0 ? Level.NEVER : entry(persona);
  }

  private int mask(int persona) {
    int mask = (presenters >>> persona & 1) != 0 ? presenterMask : otherMask;
    return persona == Persona.PHONE_CALLER.ordinal() ? mask & BY_PHONE : mask;
  }

  /** Whether every level is the same. */
  boolean sameLevels(Matrix that) {
    if (entry != that.entry) {
      return false;
    }
    long levels = entry;
    for (int persona = 0; levels != 0; persona++, levels >>>= BITS) {
      if ((levels & LEVEL_MASK) != 0 && mask(persona) != that.mask(persona)) {
        return false;
      }
    }
    return true;
  }

  /** Whether some persona holds some right of the guarantee above its ceiling. */
  public boolean breaks(Guarantee guarantee) {
    int rights = guarantee.rightsMask();
    int ceiling = guarantee.ceiling().ordinal();
    for (Persona persona : guarantee.who()) {
      int level = (int) (entry >>> (BITS * persona.ordinal())) & LEVEL_MASK;
      if (level > ceiling && (rights(persona) & rights) != 0) {
        return true;
      }
    }
    return false;
  }

  /** One persona's hold on one right. */
  public record Cell(Persona persona, Right right, Level level) {}

  /**
   * The worst cell that breaks a guarantee: the highest level, then the greatest weight of persona
   * and right together, then the first in the tables. Null where the guarantee holds.
   */
  public @Nullable Cell worst(Guarantee guarantee) {
    int rights = guarantee.rightsMask();
    Persona who = null;
    Right what = null;
    int highest = guarantee.ceiling().ordinal();
    int heaviest = 0;
    for (Persona persona : Persona.all()) {
      int level = (int) (entry >>> (BITS * persona.ordinal())) & LEVEL_MASK;
      boolean counts = who == null ? level > highest : level >= highest;
      int held = counts && guarantee.who().contains(persona) ? rights(persona) & rights : 0;
      for (int left = held; left != 0; left &= left - 1) {
        Right right = Right.all().get(Integer.numberOfTrailingZeros(left));
        int weight = persona.weight() * right.weight();
        if (level > highest || weight > heaviest) {
          who = persona;
          what = right;
          highest = level;
          heaviest = weight;
        }
      }
    }
    return who == null || what == null ? null : new Cell(who, what, Level.all().get(highest));
  }

  /** Every level, personas and rights in their tables' order. */
  public Map<Persona, Map<Right, Level>> asMap() {
    Map<Persona, Map<Right, Level>> rows = new EnumMap<>(Persona.class);
    for (Persona persona : Persona.all()) {
      Map<Right, Level> row = new EnumMap<>(Right.class);
      List<Right> rights = Right.all();
      rights.forEach(right -> row.put(right, level(persona, right)));
      rows.put(persona, row);
    }
    return rows;
  }
}
