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
    return new Passage.Trace(step, control, value, outcome, words(step, outcome));
  }

  private String words(DoorStep step, Passage.Outcome outcome) {
    boolean in = outcome == IN;
    return switch (step) {
      case LOCKED -> in ? "The meeting is not locked." : "The meeting is locked.";
      case REMOVED ->
          in
              ? (joiner.removed() ? "Someone removed may come back." : "They were not removed.")
              : "Someone removed may not come back.";
      case LATE -> in ? "They are not too late." : "The meeting has locked itself after the start.";
      case REGION -> in ? "Their region is allowed." : "Their region is not allowed.";
      case ROUTE -> in ? "Their way of joining is open." : "Nobody may join by phone.";
      case SIGN_IN ->
          in
              ? "Their account, or none, is enough."
              : "They are not signed in as this meeting asks.";
      case REGISTRATION ->
          in ? "Registration does not stop them." : "They were not approved beforehand.";
      case PASSCODE ->
          in
              ? (values.is(Control.PASSCODE, "required")
                  ? "They hold the passcode."
                  : "No passcode is asked.")
              : "They do not hold the passcode.";
      case HOST_ABSENT ->
          in
              ? (moment.hostIn() ? "A host is in." : "They may be in before any host.")
              : "No host is in yet.";
      case WAITING_ROOM ->
          in
              ? (values.is(Control.WAITING_ROOM, "on")
                  ? "They walk past the waiting room."
                  : "There is no waiting room.")
              : "They wait until somebody lets them in.";
    };
  }
}
