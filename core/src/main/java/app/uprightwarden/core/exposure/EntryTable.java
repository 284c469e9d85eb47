package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.rulebook.Level;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.atomic.AtomicLongArray;

/**
 * At what level each persona comes in, for every combination of the controls that decide it. There
 * are about 220,000; each is asked of the {@link Door} once, when it is first needed, so that the
 * fast way and the door can never differ.
 */
final class EntryTable {
  /** A control with the classes of its ranks: ranks of one class are the same to every persona. */
  private record Digit(Control control, int[] classes, int size) {}

  private static final List<Digit> DIGITS =
      List.of(
          digit(Control.PASSCODE, 0, 1),
          digit(Control.PASSCODE_IN_LINK, 0, 1),
          digit(Control.PASSCODE_IN_MAIL, 0, 1),
          digit(Control.WAITING_ROOM, 0, 1),
          digit(Control.LOBBY_BYPASS, 0, 1, 2, 3, 4, 5),
          digit(Control.PHONE_BYPASS, 0, 1),
          digit(Control.EARLY_ENTRY, 0, 1),
          digit(Control.DOOR_KEEPER, 0, 1, 2),
          digit(Control.SIGN_IN, 0, 1, 2),
          digit(Control.REGISTRATION, 0, 0, 1),
          digit(Control.RETURN_AFTER_REMOVAL, 0, 1),
          digit(Control.FORWARDING, 0, 1),
          digit(Control.PRESENTER_ROLE, 0, 0, 1, 1),
          digit(Control.AUDIO_ROUTES, 0, 1));

  private static final int[] STRIDES = strides();
  private static final int SHUT_STRIDE = STRIDES[DIGITS.size()];
  private static final int[][] STEPS = steps();
  private static final AtomicLongArray LEVELS = new AtomicLongArray(2 * SHUT_STRIDE);
  private static final long KNOWN = 1L << 63;
  private static final long DEAD_KNOWN = 1L << 62;
  private static final int DEAD_SHIFT = Matrix.BITS * Persona.all().size();
  private static final long LEVEL_BITS = (1L << DEAD_SHIFT) - 1;

  /** The bits of the controls that have a say in how anybody comes in: the first ones. */
  private static final long DECIDED = (1L << DIGITS.size()) - 1;

  /** A bit for each control of the matrix. */
  private static final long[] BITS = bits();

  private EntryTable() {}

  private static Digit digit(Control control, int... classes) {
    return new Digit(control, classes, classes[classes.length - 1] + 1);
  }

  private static int[] strides() {
    int[] strides = new int[DIGITS.size() + 1];
    strides[0] = 1;
    for (int i = 0; i < DIGITS.size(); i++) {
      strides[i + 1] = strides[i] * DIGITS.get(i).size();
    }
    return strides;
  }

  /** What each rank of each control adds to the index; empty for controls that add nothing. */
  private static int[][] steps() {
    int[][] steps = new int[Control.COUNT][0];
    for (int i = 0; i < DIGITS.size(); i++) {
      int[] classes = DIGITS.get(i).classes();
      int[] of = new int[classes.length];
      for (int rank = 0; rank < of.length; rank++) {
        of[rank] = STRIDES[i] * classes[rank];
      }
      steps[DIGITS.get(i).control().ordinal()] = of;
    }
    return steps;
  }

  private static long[] bits() {
    long[] bits = new long[Control.COUNT];
    for (int i = 0; i < DIGITS.size(); i++) {
      bits[DIGITS.get(i).control().ordinal()] = 1L << i;
    }
    int next = DIGITS.size();
    for (Control control : Control.matrix()) {
      if (bits[control.ordinal()] == 0) {
        bits[control.ordinal()] = 1L << next++;
      }
    }
    return bits;
  }

  /** The one bit of a control of the matrix, where controls are told by a bit each. */
  static long bit(Control control) {
    return BITS[control.ordinal()];
  }

  static int index(byte[] ranks, boolean shutAtStart) {
    int index = shutAtStart ? SHUT_STRIDE : 0;
    for (int i = 0; i < DIGITS.size(); i++) {
      Digit digit = DIGITS.get(i);
      index += STRIDES[i] * digit.classes()[ranks[digit.control().ordinal()]];
    }
    return index;
  }

  /** Whether a control has a say in how anybody comes in. */
  static boolean moves(Control control) {
    return STEPS[control.ordinal()].length != 0;
  }

  /** How far the index moves when a control's rank changes. */
  static int shift(Control control, int from, int to) {
    int[] steps = STEPS[control.ordinal()];
    return steps.length == 0 ? 0 : steps[to] - steps[from];
  }

  /** Three bits a persona. */
  static long levels(int index) {
    long known = LEVELS.getPlain(index);
    if (known == 0) {
      known = ask(index) | KNOWN;
      LEVELS.setPlain(index, known);
    }
    return known & LEVEL_BITS;
  }

  /**
   * The levels, and behind them a bit for each control that has a say in them: whether putting it
   * at its loosest would change none ({@link #dead}).
   */
  static long levelsAndDead(int index) {
    long known = LEVELS.getPlain(index);
    if ((known & DEAD_KNOWN) == 0) {
      long levels = levels(index);
      known = levels | KNOWN | DEAD_KNOWN;
      for (int i = 0; i < DIGITS.size(); i++) {
        int at = index / STRIDES[i] % DIGITS.get(i).size();
        if (levels == levels(index - at * STRIDES[i])) {
          known |= 1L << (DEAD_SHIFT + i);
        }
      }
      LEVELS.setPlain(index, known);
    }
    return known;
  }

  /** The controls that at their loosest would leave every level as it is; so do all with no say. */
  static long dead(long levelsAndDead) {
    return levelsAndDead >>> DEAD_SHIFT & DECIDED | ~DECIDED;
  }

  private static long ask(int index) {
    Map<Control, Value> map = new EnumMap<>(Control.class);
    int rest = index % SHUT_STRIDE;
    for (Digit digit : DIGITS) {
      int wanted = rest % digit.size();
      rest /= digit.size();
      map.put(digit.control(), representative(digit, wanted));
    }
    if (index >= SHUT_STRIDE) {
      map.put(Control.LATE_ENTRY, new Value.Amount(0));
    }
    ControlValues values = ControlValues.of(map);
    long levels = 0;
    for (Persona persona : Persona.all()) {
      levels |= (long) level(values, persona).ordinal() << (Matrix.BITS * persona.ordinal());
    }
    return levels;
  }

  private static Value representative(Digit digit, int wanted) {
    Control control = digit.control();
    if (wanted == 0) {
      return control.loosest();
    }
    for (Value stricter : control.tightenings(control.loosest())) {
      if (digit.classes()[MatrixState.rank(control, stricter)] == wanted) {
        return stricter;
      }
    }
    throw new IllegalStateException(control.id() + " has no value of class " + wanted);
  }

  static Level level(ControlValues values, Persona persona) {
    Joiner joiner = Matrix.joiner(persona, values);
    Passage.Outcome inSession = Door.outcome(values, joiner, Moment.IN_SESSION);
    if (Door.outcome(values, joiner, Moment.UNATTENDED) == Passage.Outcome.IN) {
      return Level.UNATTENDED;
    }
    return switch (inSession) {
      case IN -> Level.FREE;
      case HELD -> unvettedKeepers(values) ? Level.PEER_LETS_IN : Level.HOST_LETS_IN;
      case REFUSED -> Level.NEVER;
    };
  }

  /** Whether people nobody vetted may let others in. */
  private static boolean unvettedKeepers(ControlValues values) {
    return values.is(Control.DOOR_KEEPER, "anyone-inside")
        || (values.is(Control.DOOR_KEEPER, "presenters")
            && values.rank(Control.PRESENTER_ROLE) <= 1);
  }
}
