package app.uprightwarden.core.door;

import static app.uprightwarden.core.door.Passage.Outcome.HELD;
import static app.uprightwarden.core.door.Passage.Outcome.IN;
import static app.uprightwarden.core.door.Passage.Outcome.REFUSED;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * Who is refused, held or let in. A value that is not evidenced counts as the loosest. The same
 * steps answer with or without a trail, so that the matrix and a rehearsal can never differ.
 */
public final class Door {
  private final ControlValues values;
  private final Joiner joiner;
  private final Moment moment;
  private @Nullable Control decider;

  private Door(ControlValues values, Joiner joiner, Moment moment) {
    this.values = values;
    this.joiner = joiner.asSeen();
    this.moment = moment;
  }

  /** The full answer with its trail. */
  public static Passage pass(ControlValues values, Joiner joiner, Moment moment) {
    if (joiner.tie().hosts()) {
      return new Passage(IN, null, Roles.of(values, joiner), List.of());
    }
    Door door = new Door(values, joiner, moment);
    List<Passage.Trace> trail = new ArrayList<>();
    for (DoorStep step : DoorStep.values()) {
      door.decider = step.control();
      Passage.Outcome outcome = door.ask(step);
      trail.add(door.trace(step, outcome));
      if (outcome != IN) {
        return new Passage(outcome, step, null, List.copyOf(trail));
      }
    }
    return new Passage(IN, null, Roles.of(values, joiner), List.copyOf(trail));
  }

  /** The outcome alone. */
  public static Passage.Outcome outcome(ControlValues values, Joiner joiner, Moment moment) {
    if (joiner.tie().hosts()) {
      return IN;
    }
    Door door = new Door(values, joiner, moment);
    for (DoorStep step : DoorStep.values()) {
      Passage.Outcome outcome = door.ask(step);
      if (outcome != IN) {
        return outcome;
      }
    }
    return IN;
  }

  private Passage.Outcome ask(DoorStep step) {
    return switch (step) {
      case LOCKED -> refusedIf(moment.locked());
      case REMOVED ->
          refusedIf(joiner.removed() && values.is(Control.RETURN_AFTER_REMOVAL, "barred"));
      case LATE -> refusedIf(moment.minutesFromStart() > amount(Control.LATE_ENTRY));
      case REGION -> refusedIf(outsideRegions());
      case ROUTE ->
          refusedIf(
              joiner.route() == Route.PHONE && !names(Control.AUDIO_ROUTES).contains("phone"));
      case SIGN_IN -> refusedIf(signInRefuses());
      case REGISTRATION ->
          refusedIf(
              values.is(Control.REGISTRATION, "approved")
                  && (joiner.tie() == Tie.FORWARDED || joiner.tie() == Tie.NONE));
      case PASSCODE ->
          refusedIf(values.is(Control.PASSCODE, "required") && !joiner.holdsPasscode());
      case HOST_ABSENT -> !moment.hostIn() && waitsForHost() ? HELD : IN;
      case WAITING_ROOM ->
          values.is(Control.WAITING_ROOM, "on") && !passesWaitingRoom() ? HELD : IN;
    };
  }

  private static Passage.Outcome refusedIf(boolean refused) {
    return refused ? REFUSED : IN;
  }

  private boolean outsideRegions() {
    List<String> regions = names(Control.REGIONS);
    return joiner.region() != null && !regions.isEmpty() && !regions.contains(joiner.region());
  }

  private boolean signInRefuses() {
    return switch (((Value.Word) values.effective(Control.SIGN_IN)).word()) {
      case "any-account" -> joiner.standing() == Standing.UNKNOWN;
      case "known-account" ->
          joiner.standing() == Standing.UNKNOWN || joiner.standing() == Standing.OUTSIDER;
      default -> false;
    };
  }

  private boolean waitsForHost() {
    int early = amount(Control.EARLY_ENTRY);
    int minutesLeft = -moment.minutesFromStart();
    return minutesLeft > 0 ? early < minutesLeft : early == 0;
  }

  private boolean passesWaitingRoom() {
    if (joiner.route() == Route.PHONE && values.is(Control.PHONE_BYPASS, "straight-in")) {
      decider = Control.PHONE_BYPASS;
      return true;
    }
    boolean covered =
        switch (((Value.Word) values.effective(Control.LOBBY_BYPASS)).word()) {
          case "anyone" -> true;
          case "partners" ->
              joiner.standing() == Standing.MEMBER
                  || joiner.standing() == Standing.GUEST
                  || joiner.standing() == Standing.PARTNER;
          case "guests" ->
              joiner.standing() == Standing.MEMBER || joiner.standing() == Standing.GUEST;
          case "members" -> joiner.standing() == Standing.MEMBER;
          case "named" ->
              joiner.tie() == Tie.NAMED
                  || (joiner.tie() == Tie.FORWARDED && !values.is(Control.FORWARDING, "blocked"));
          default -> false;
        };
    decider = covered ? Control.LOBBY_BYPASS : Control.WAITING_ROOM;
    return covered;
  }

  private int amount(Control control) {
    return ((Value.Amount) values.effective(control)).number();
  }

  private List<String> names(Control control) {
    return ((Value.Names) values.effective(control)).members();
  }

  private Passage.Trace trace(DoorStep step, Passage.Outcome outcome) {
    Control control = decider;
    Value value = control == null ? null : values.effective(control);
    return new Passage.Trace(step, control, value, outcome, reason(step, outcome));
  }

  private DoorReason reason(DoorStep step, Passage.Outcome outcome) {
    boolean in = outcome == IN;
    return switch (step) {
      case LOCKED -> in ? DoorReason.NOT_LOCKED : DoorReason.LOCKED;
      case REMOVED ->
          in
              ? (joiner.removed() ? DoorReason.MAY_COME_BACK : DoorReason.NOT_REMOVED)
              : DoorReason.MAY_NOT_COME_BACK;
      case LATE -> in ? DoorReason.IN_TIME : DoorReason.LOCKED_ITSELF;
      case REGION -> in ? DoorReason.REGION_ALLOWED : DoorReason.REGION_NOT_ALLOWED;
      case ROUTE -> in ? DoorReason.ROUTE_OPEN : DoorReason.NO_PHONE;
      case SIGN_IN -> in ? DoorReason.ACCOUNT_ENOUGH : DoorReason.NOT_SIGNED_IN;
      case REGISTRATION -> in ? DoorReason.REGISTRATION_IN_ORDER : DoorReason.NOT_APPROVED;
      case PASSCODE ->
          in
              ? (values.is(Control.PASSCODE, "required")
                  ? DoorReason.HOLDS_PASSCODE
                  : DoorReason.NO_PASSCODE_ASKED)
              : DoorReason.LACKS_PASSCODE;
      case HOST_ABSENT ->
          in
              ? (moment.hostIn() ? DoorReason.HOST_IN : DoorReason.BEFORE_ANY_HOST)
              : DoorReason.NO_HOST_YET;
      case WAITING_ROOM ->
          in
              ? (values.is(Control.WAITING_ROOM, "on")
                  ? DoorReason.PAST_WAITING_ROOM
                  : DoorReason.NO_WAITING_ROOM)
              : DoorReason.WAITS;
    };
  }
}
