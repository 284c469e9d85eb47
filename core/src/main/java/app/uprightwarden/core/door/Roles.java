package app.uprightwarden.core.door;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.util.ArrayList;
import java.util.List;

/** Roles, and the rights that go with them, as masks of {@link Right#bit}. */
public final class Roles {
  private static final int ALL = (1 << Right.all().size()) - 1;
  private static final int BY_PHONE = Right.LISTEN.bit() | Right.SPEAK.bit();

  private Roles() {}

  /** The role that somebody gets who comes in under these values. */
  public static Role of(ControlValues values, Joiner arriving) {
    if (arriving.tie() == Tie.HOST) {
      return Role.HOST;
    }
    if (arriving.tie() == Tie.CO_HOST) {
      return Role.CO_HOST;
    }
    Joiner joiner = arriving.asSeen();
    boolean presents =
        switch (values.rank(Control.PRESENTER_ROLE)) {
          case 0 -> true;
          case 1 -> joiner.standing() == Standing.MEMBER;
          case 2 -> joiner.listedPresenter();
          default -> false;
        };
    if (presents) {
      return Role.PRESENTER;
    }
    boolean watches = values.is(Control.JOINER_MODE, "onlooker") && !joiner.contributor();
    return watches ? Role.ONLOOKER : Role.ATTENDEE;
  }

  /** The rights of a role at a meeting, for someone who comes by this route. */
  public static int rights(ControlValues values, Role role, Route route) {
    int mask =
        switch (role) {
          case HOST, CO_HOST -> ALL & ~switchedOff(values);
          case PRESENTER -> presenter(values);
          case ATTENDEE -> attendee(values);
          case ONLOOKER -> Right.LISTEN.bit();
        };
    return route == Route.PHONE ? mask & BY_PHONE : mask;
  }

  /** The rights of a mask, in the order of their table. */
  public static List<Right> list(int mask) {
    List<Right> rights = new ArrayList<>();
    for (Right right : Right.all()) {
      if ((mask & right.bit()) != 0) {
        rights.add(right);
      }
    }
    return List.copyOf(rights);
  }

  private static int switchedOff(ControlValues values) {
    return when(values.is(Control.ANNOTATION, "off"), Right.ANNOTATE)
        | when(values.is(Control.WHITEBOARD, "off"), Right.WHITEBOARD)
        | when(values.is(Control.REMOTE_CONTROL, "off"), Right.TAKE_CONTROL)
        | when(values.is(Control.RECORDING, "off"), Right.RECORD)
        | when(values.is(Control.CHAT, "off"), Right.CHAT)
        | when(values.is(Control.PRIVATE_CHAT, "off"), Right.PRIVATE_CHAT)
        | when(values.is(Control.REACTIONS, "off"), Right.REACT);
  }

  private static int presenter(ControlValues values) {
    return Right.LISTEN.bit()
        | Right.REMOVE_OTHERS.bit()
        | Right.SPEAK.bit()
        | Right.CAMERA.bit()
        | Right.MUTE_OTHERS.bit()
        | byLadder(values, 1)
        | common(values);
  }

  private static int attendee(ControlValues values) {
    return Right.LISTEN.bit()
        | when(values.is(Control.ATTENDEE_MICROPHONE, "allowed"), Right.SPEAK)
        | when(values.is(Control.ATTENDEE_CAMERA, "allowed"), Right.CAMERA)
        | byLadder(values, 0)
        | common(values);
  }

  /** Rights whose control says everyone (rank 0), presenters (rank 1) or fewer. */
  private static int byLadder(ControlValues values, int rank) {
    return when(values.rank(Control.SCREEN_SHARE) <= rank, Right.SHARE_SCREEN)
        | when(values.rank(Control.ANNOTATION) <= rank, Right.ANNOTATE)
        | when(values.rank(Control.WHITEBOARD) <= rank, Right.WHITEBOARD)
        | when(values.rank(Control.DOOR_KEEPER) <= rank, Right.ADMIT_OTHERS)
        | when(values.rank(Control.RECORDING) <= rank, Right.RECORD);
  }

  private static int common(ControlValues values) {
    return when(values.is(Control.REMOTE_CONTROL, "allowed"), Right.TAKE_CONTROL)
        | when(values.rank(Control.CHAT) <= 1, Right.CHAT)
        | when(values.is(Control.PRIVATE_CHAT, "anyone"), Right.PRIVATE_CHAT)
        | when(values.is(Control.RENAME_SELF, "allowed"), Right.RENAME_SELF)
        | when(values.is(Control.SLIDE_BROWSING, "free"), Right.PAGE_SLIDES)
        | when(values.is(Control.REACTIONS, "on"), Right.REACT);
  }

  private static int when(boolean held, Right right) {
    return held ? right.bit() : 0;
  }
}
