package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.remedy.AdmissionSearch;
import app.uprightwarden.core.remedy.Remedy;
import java.util.List;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What would have prevented something: the least changes of the meeting's controls with which the
 * same person at the same moment would not have come in, or would not have been able to do it.
 */
public final class Prevention {
  private static final int MAX = 4;

  private Prevention() {}

  /**
   * Ways to it, the least first; none where no change of controls does it.
   *
   * @param values as they stood then
   */
  public static List<AdmissionSearch.Way> of(
      Alert.Kind kind, @Nullable Seat seat, ControlValues values) {
    if (seat == null) {
      return kind == Alert.Kind.OPEN_PAST_END ? List.of(waitingRoom(values)) : List.of();
    }
    return switch (kind) {
      case SHARE_NOT_ALLOWED -> without(seat, values, Right.SHARE_SCREEN, Control.SCREEN_SHARE);
      case RECORDING_NOT_ALLOWED, RECORDING_ENDED ->
          without(seat, values, Right.RECORD, Control.RECORDING);
      case REMOVED_BACK -> keptOut(joiner(seat, true), seat, values);
      case SETTING_BEYOND_RULE, OPEN_PAST_END -> List.of();
      case STRANGER_BEFORE_HOST, GUARANTEE_BROKEN -> keptOut(seat.joiner(), seat, values);
    };
  }

  private static AdmissionSearch.Way waitingRoom(ControlValues values) {
    Value on = Control.WAITING_ROOM.parse("on");
    return new AdmissionSearch.Way(
        List.of(
            new Remedy.Change(Control.WAITING_ROOM, values.get(Control.WAITING_ROOM), on, false)),
        Control.WAITING_ROOM.friction(),
        score(values.with(Control.WAITING_ROOM, on)),
        List.of());
  }

  private static int score(ControlValues values) {
    return app.uprightwarden.core.exposure.Exposure.of(Matrix.of(values)).scoreTenths();
  }

  private static Joiner joiner(Seat seat, boolean removed) {
    Joiner j = seat.joiner();
    return new Joiner(
        j.standing(),
        j.tie(),
        j.route(),
        j.holdsPasscode(),
        removed,
        j.region(),
        j.listedPresenter(),
        j.contributor());
  }

  private static List<AdmissionSearch.Way> keptOut(Joiner was, Seat seat, ControlValues values) {
    Persona persona = seat.persona();
    Moment moment = seat.moment();
    boolean byThemselves = seat.way() == Seat.Way.BY_THEMSELVES;
    // who was let in had been held already: then only the door itself could have kept them out
    AdmissionSearch.Goal goal =
        byThemselves ? AdmissionSearch.Goal.NOT_IN : AdmissionSearch.Goal.REFUSED;
    return AdmissionSearch.least(values, as(was, persona, values), moment, goal, MAX);
  }

  /** A passcode they had from the link alone they would not have had without it there. */
  private static Function<ControlValues, Joiner> as(
      Joiner was, @Nullable Persona persona, ControlValues values) {
    boolean fromTheMatter =
        persona != null
            && persona != Persona.REMOVED
            && Matrix.joiner(persona, values).holdsPasscode() == was.holdsPasscode();
    return some ->
        new Joiner(
            was.standing(),
            was.tie(),
            was.route(),
            fromTheMatter && persona != null
                ? Matrix.joiner(persona, some).holdsPasscode()
                : was.holdsPasscode(),
            was.removed(),
            was.region(),
            was.listedPresenter(),
            was.contributor());
  }

  private static List<AdmissionSearch.Way> without(
      Seat seat, ControlValues values, Right right, Control control) {
    Role role = seat.highest() == null ? Role.ATTENDEE : seat.highest();
    Route route = seat.joiner().route();
    for (Value tighter : control.tightenings(values.effective(control))) {
      ControlValues then = values.with(control, tighter);
      if ((Roles.rights(then, role, route) & right.bit()) == 0) {
        return List.of(
            new AdmissionSearch.Way(
                List.of(new Remedy.Change(control, values.get(control), tighter, false)),
                control.friction(),
                score(then),
                Persona.all().stream()
                    .filter(p -> p.invited() && losesIt(p, values, then, right))
                    .toList()));
      }
    }
    return List.of();
  }

  private static boolean losesIt(
      Persona persona, ControlValues values, ControlValues then, Right right) {
    boolean had = (Matrix.of(values).rights(persona) & right.bit()) != 0;
    return had && (Matrix.of(then).rights(persona) & right.bit()) == 0;
  }
}
