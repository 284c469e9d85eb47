package app.uprightwarden.core.exposure;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import java.util.Arrays;
import java.util.Map;

/**
 * The values of the matrix controls as small numbers: the compact form on which matrices are
 * computed. Two values that no persona can tell apart (fifteen minutes and any time, one region and
 * another) have the same number. {@code late-entry} is no matrix control, but at 0 it shuts the
 * door before the moment the matrix looks at, and so takes part as a circumstance.
 *
 * <p>A state is changed in place while a matrix is explored; {@link #matrix} reads it as it stands.
 */
public final class MatrixState {
  private static final int MEMBERS_BY_APP =
      1 << Persona.INVITED_MEMBER.ordinal()
          | 1 << Persona.LISTED_MEMBER.ordinal()
          | 1 << Persona.OTHER_MEMBER.ordinal();
  private static final int EVERYONE = (1 << Persona.all().size()) - 1;

  /** How many ranks each control has. */
  private static final int[] RANKS = new int[Control.COUNT];

  static {
    for (Control control : Control.matrix()) {
      int most = 0;
      for (Value value : control.tightenings(control.loosest())) {
        most = Math.max(most, rank(control, value));
      }
      RANKS[control.ordinal()] = most + 1;
    }
  }

  private static final long EVERY_THIRD = spread(EVERYONE);
  private static final long PHONE = 1L << (Matrix.BITS * Persona.PHONE_CALLER.ordinal());

  /** By the rank of the presenters' role: one bit in three a persona who comes in as one. */
  private static final long[] PRESENTING = {
    spread(presenters(0)), spread(presenters(1)), spread(presenters(2)), spread(presenters(3))
  };

  /**
   * Which rights of presenters, and of others, a control's rank takes away. Each right is taken by
   * one control alone, whatever the others are, so that this can be known beforehand.
   */
  private static final int[][] TAKEN_OF_PRESENTERS = new int[Control.COUNT][];

  private static final int[][] TAKEN_OF_OTHERS = new int[Control.COUNT][];

  static {
    MatrixState loosest = new MatrixState(ControlValues.of(Map.of()));
    Control.matrix().forEach(control -> loosest.set(control, 0));
    for (Control control : Control.matrix()) {
      int most = RANKS[control.ordinal()];
      int[] ofPresenters = new int[most];
      int[] ofOthers = new int[most];
      for (int rank = 0; rank < most; rank++) {
        int presenters = loosest.presenterMask();
        int others = loosest.otherMask();
        loosest.set(control, rank);
        ofPresenters[rank] = presenters ^ loosest.presenterMask();
        ofOthers[rank] = others ^ loosest.otherMask();
        loosest.set(control, 0);
      }
      TAKEN_OF_PRESENTERS[control.ordinal()] = ofPresenters;
      TAKEN_OF_OTHERS[control.ordinal()] = ofOthers;
    }
  }

  /** The plain controls that take a right away at some rank. */
  private static final Control[] TAKERS =
      Control.matrix().stream()
          .filter(
              control ->
                  isPlain(control)
                      && (Arrays.stream(TAKEN_OF_PRESENTERS[control.ordinal()])
                              .anyMatch(t -> t != 0)
                          || Arrays.stream(TAKEN_OF_OTHERS[control.ordinal()])
                              .anyMatch(t -> t != 0)))
          .toArray(Control[]::new);

  private final byte[] ranks = new byte[Control.COUNT];
  private final boolean shutAtStart;
  private int entryIndex;

  /** The state under these values. */
  public MatrixState(ControlValues values) {
    for (Control control : Control.matrix()) {
      ranks[control.ordinal()] = rank(control, values.effective(control));
    }
    shutAtStart =
        ((Value.Amount) values.effective(Control.LATE_ENTRY)).number()
            < 1; // the matrix looks one minute after the start
    entryIndex = EntryTable.index(ranks, shutAtStart);
  }

  /** The number of a value. */
  static byte rank(Control control, Value value) {
    if (value instanceof Value.Word word) {
      return (byte) word.rank();
    }
    if (value instanceof Value.Amount amount) {
      return (byte) (amount.number() == 0 ? 1 : 0);
    }
    boolean phoneless =
        control == Control.AUDIO_ROUTES && !((Value.Names) value).members().contains("phone");
    return (byte) (phoneless ? 1 : 0);
  }

  int rank(Control control) {
    return ranks[control.ordinal()];
  }

  /** One step stricter than a control stands, or −1 where there is none a persona could notice. */
  int oneStepStricter(Control control) {
    int next = ranks[control.ordinal()] + 1;
    return next < RANKS[control.ordinal()] ? next : -1;
  }

  /** The word at which a control of words stands. */
  public String word(Control control) {
    return ((Scale.Words) control.scale()).values().get(rank(control)).word();
  }

  /** Puts a value's number in place and gives back the one before. */
  public int set(Control control, int rank) {
    int before = ranks[control.ordinal()];
    if (before != rank) {
      entryIndex += EntryTable.shift(control, before, rank);
      ranks[control.ordinal()] = (byte) rank;
    }
    return before;
  }

  /** Puts a value in place. */
  public int set(Control control, Value value) {
    return set(control, rank(control, value));
  }

  /** The matrix of the state as it stands. */
  public Matrix matrix() {
    return new Matrix(
        EntryTable.levels(entryIndex),
        presenters(ranks[Control.PRESENTER_ROLE.ordinal()]),
        presenterMask(),
        otherMask());
  }

  private static int presenters(int role) {
    return role == 0 ? EVERYONE : role == 1 ? MEMBERS_BY_APP : 0;
  }

  private int presenterMask() {
    return Right.LISTEN.bit()
        | Right.REMOVE_OTHERS.bit()
        | Right.SPEAK.bit()
        | Right.CAMERA.bit()
        | Right.MUTE_OTHERS.bit()
        | commonRights()
        | ladderRights(1);
  }

  private int otherMask() {
    return at(Control.JOINER_MODE, 0)
        ? Right.LISTEN.bit()
            | commonRights()
            | ladderRights(0)
            | bit(at(Control.ATTENDEE_MICROPHONE, 0), Right.SPEAK)
            | bit(at(Control.ATTENDEE_CAMERA, 0), Right.CAMERA)
        : Right.LISTEN.bit();
  }

  private static long spread(int personas) {
    long spread = 0;
    for (int persona = 0; personas >>> persona != 0; persona++) {
      spread |= (personas >>> persona & 1L) << (Matrix.BITS * persona);
    }
    return spread;
  }

  /**
   * Whether a control changes entry and rights of its own alone, and not whose rights are whose.
   */
  static boolean isPlain(Control control) {
    return control != Control.PRESENTER_ROLE && control != Control.JOINER_MODE;
  }

  /**
   * The plain controls that take a right away as they stand, from whom: a bit a control ({@link
   * EntryTable#bit}). By phone there are fewer rights to miss.
   */
  record Taking(
      long fromPresenters, long fromPresentersByPhone, long fromOthers, long fromOthersByPhone) {}

  Taking taking() {
    long fromPresenters = 0;
    long fromPresentersByPhone = 0;
    long fromOthers = 0;
    long fromOthersByPhone = 0;
    for (Control control : TAKERS) {
      long bit = EntryTable.bit(control);
      int ofPresenters = TAKEN_OF_PRESENTERS[control.ordinal()][rank(control)];
      int ofOthers = TAKEN_OF_OTHERS[control.ordinal()][rank(control)];
      fromPresenters |= ofPresenters == 0 ? 0 : bit;
      fromPresentersByPhone |= (ofPresenters & Matrix.BY_PHONE) == 0 ? 0 : bit;
      fromOthers |= ofOthers == 0 ? 0 : bit;
      fromOthersByPhone |= (ofOthers & Matrix.BY_PHONE) == 0 ? 0 : bit;
    }
    return new Taking(fromPresenters, fromPresentersByPhone, fromOthers, fromOthersByPhone);
  }

  /**
   * The plain controls that would change no level at their loosest, with another at a rank: a bit a
   * control. The state stays as it is. Where those who are no presenters may only listen, nothing
   * that is taken from them matters.
   *
   * @param taking what they take as they stand
   */
  long dead(Taking taking, Control control, int rank) {
    long entry =
        EntryTable.levelsAndDead(entryIndex + EntryTable.shift(control, rank(control), rank));
    int role = control == Control.PRESENTER_ROLE ? rank : rank(Control.PRESENTER_ROLE);
    int mode = control == Control.JOINER_MODE ? rank : rank(Control.JOINER_MODE);
    long in = (entry | entry >>> 1 | entry >>> 2) & EVERY_THIRD;
    long presenting = in & PRESENTING[role];
    long others = mode == 0 ? in & ~presenting : 0;
    return EntryTable.dead(entry)
        & ~missed(presenting, taking.fromPresenters(), taking.fromPresentersByPhone())
        & ~missed(others, taking.fromOthers(), taking.fromOthersByPhone());
  }

  /** What is missed by somebody of these. */
  private static long missed(long personas, long byApp, long byPhone) {
    return (personas & ~PHONE) != 0 ? byApp : personas != 0 ? byPhone : 0;
  }

  private int ladderRights(int rank) {
    return bit(at(Control.SCREEN_SHARE, rank), Right.SHARE_SCREEN)
        | bit(at(Control.ANNOTATION, rank), Right.ANNOTATE)
        | bit(at(Control.WHITEBOARD, rank), Right.WHITEBOARD)
        | bit(at(Control.DOOR_KEEPER, rank), Right.ADMIT_OTHERS)
        | bit(at(Control.RECORDING, rank), Right.RECORD);
  }

  private int commonRights() {
    return bit(at(Control.REMOTE_CONTROL, 0), Right.TAKE_CONTROL)
        | bit(at(Control.CHAT, 1), Right.CHAT)
        | bit(at(Control.PRIVATE_CHAT, 0), Right.PRIVATE_CHAT)
        | bit(at(Control.RENAME_SELF, 0), Right.RENAME_SELF)
        | bit(at(Control.SLIDE_BROWSING, 0), Right.PAGE_SLIDES)
        | bit(at(Control.REACTIONS, 0), Right.REACT);
  }

  private boolean at(Control control, int atMost) {
    return ranks[control.ordinal()] <= atMost;
  }

  private static int bit(boolean held, Right right) {
    return held ? right.bit() : 0;
  }
}
