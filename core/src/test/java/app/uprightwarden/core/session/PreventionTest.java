package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.remedy.AdmissionSearch;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** What would have prevented it: held to the door itself. */
public class PreventionTest {
  private static ControlValues with(ControlValues values, AdmissionSearch.Way way) {
    ControlValues then = values;
    for (Remedy.Change change : way.changes()) {
      then = then.with(change.control(), change.to());
    }
    return then;
  }

  @Test
  public void everyWayWouldHaveKeptThemOut() {
    Told told = new Told(Map.of(Control.PASSCODE_IN_LINK, "embedded"));
    told.at(-100).comes("x", "unknown", "none").enters("x", "attendee");
    Seat seat = told.book.seat("x");
    List<AdmissionSearch.Way> ways =
        Prevention.of(Alert.Kind.STRANGER_BEFORE_HOST, seat, told.book.values());
    assertFalse(ways.isEmpty());
    for (AdmissionSearch.Way way : ways) {
      ControlValues then = with(told.book.values(), way);
      assertTrue(
          Door.outcome(then, seat.joiner(), seat.moment()) != Passage.Outcome.IN
              || then.is(Control.PASSCODE_IN_LINK, "separate"),
          way.toString());
    }
  }

  @Test
  public void whoWasRemovedStaysOut() {
    Told told = new Told(Map.of());
    told.at(60).host().comes("x", "unknown", "none").enters("x", "attendee");
    told.tell(Kind.REMOVED, "x").comes("x", "unknown", "none").enters("x", "attendee");
    List<AdmissionSearch.Way> ways =
        Prevention.of(Alert.Kind.REMOVED_BACK, told.book.seat("x"), told.book.values());
    assertTrue(
        ways.stream().anyMatch(w -> w.changes().get(0).control() == Control.RETURN_AFTER_REMOVAL),
        ways.toString());
  }

  @Test
  public void theShareIsTakenFromTheRoleTheyHad() {
    for (Role role : List.of(Role.ATTENDEE, Role.PRESENTER)) {
      Told told = new Told(Map.of(Control.SCREEN_SHARE, "everyone"));
      told.at(60).host().comes("x", "unknown", "none").enters("x", role.id());
      List<AdmissionSearch.Way> ways =
          Prevention.of(Alert.Kind.SHARE_NOT_ALLOWED, told.book.seat("x"), told.book.values());
      ControlValues then = with(told.book.values(), ways.get(0));
      assertEquals(
          Roles.rights(then, role, Route.APP) & Right.SHARE_SCREEN.bit(), 0, role.toString());
      assertEquals(
          then.get(Control.SCREEN_SHARE),
          Control.SCREEN_SHARE.parse(role == Role.ATTENDEE ? "presenters" : "hosts"),
          "no further than needed");
    }
  }

  @Test
  public void anOpenDoorAtTheEndWantsAWaitingRoom() {
    List<AdmissionSearch.Way> ways =
        Prevention.of(Alert.Kind.OPEN_PAST_END, null, ControlValues.NONE);
    assertEquals(ways.get(0).changes().get(0).control(), Control.WAITING_ROOM);
    assertEquals(
        Prevention.of(Alert.Kind.SETTING_BEYOND_RULE, null, ControlValues.NONE), List.of());
  }
}
