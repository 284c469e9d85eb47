package app.uprightwarden.core.door;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.util.List;
import java.util.Random;
import org.testng.annotations.Test;

/** The door's trail: every step asked, what decided it, and the same answer without it. */
public class TrailTest {
  private static Joiner joiner(Random random) {
    return new Joiner(
        Standing.values()[random.nextInt(5)],
        Tie.values()[random.nextInt(6)],
        Route.values()[random.nextInt(2)],
        random.nextBoolean(),
        random.nextInt(4) == 0,
        random.nextBoolean() ? null : List.of("IE", "US").get(random.nextInt(2)),
        random.nextBoolean());
  }

  private static ControlValues set(ControlValues values, String control, Object value) {
    Control of = Control.byId(control);
    return values.with(of, of.parse(value));
  }

  @Test
  public void theTrailEndsWhereTheAnswerFellAndTheShortWayAgrees() {
    Random random = new Random(41);
    RandomMeetings meetings = new RandomMeetings(random);
    for (int i = 0; i < 5000; i++) {
      ControlValues values = meetings.values();
      Joiner joiner = joiner(random);
      Moment moment =
          new Moment(random.nextInt(90) - 30, random.nextBoolean(), random.nextInt(8) == 0);
      Passage passage = Door.pass(values, joiner, moment);
      assertEquals(Door.outcome(values, joiner, moment), passage.outcome());
      if (joiner.tie().hosts()) {
        assertEquals(passage.outcome(), Passage.Outcome.IN);
        continue;
      }
      List<Passage.Trace> trail = passage.trail();
      Passage.Trace last = trail.get(trail.size() - 1);
      for (int step = 0; step < trail.size(); step++) {
        assertEquals(trail.get(step).step(), DoorStep.values()[step], "in the door's order");
        assertFalse(trail.get(step).words().isBlank());
        if (step < trail.size() - 1) {
          assertEquals(trail.get(step).outcome(), Passage.Outcome.IN);
        }
      }
      assertEquals(last.outcome(), passage.outcome());
      if (passage.outcome() == Passage.Outcome.IN) {
        assertNull(passage.step());
        assertEquals(trail.size(), DoorStep.values().length);
      } else {
        assertEquals(passage.step(), last.step());
        assertNull(passage.role());
      }
    }
  }

  @Test
  public void theWaitingRoomNamesTheControlThatDecided() {
    ControlValues held =
        set(set(ControlValues.NONE, "waiting-room", "on"), "lobby-bypass", "named");
    Joiner named = new Joiner(Standing.OUTSIDER, Tie.NAMED, Route.APP, true, false, null, false);
    Joiner stranger = new Joiner(Standing.UNKNOWN, Tie.NONE, Route.APP, true, false, null, false);
    Joiner caller = new Joiner(Standing.UNKNOWN, Tie.NONE, Route.PHONE, true, false, null, false);
    assertEquals(decider(held, named), Control.LOBBY_BYPASS);
    assertEquals(decider(held, stranger), Control.WAITING_ROOM);
    assertEquals(decider(held, caller), Control.PHONE_BYPASS, "loosest: straight in");
    assertEquals(decider(set(held, "phone-bypass", "waits"), caller), Control.WAITING_ROOM);
  }

  private static Control decider(ControlValues values, Joiner joiner) {
    List<Passage.Trace> trail = Door.pass(values, joiner, Moment.IN_SESSION).trail();
    return trail.get(trail.size() - 1).control();
  }

  @Test
  public void byPhoneNobodyIsRecognisedAndLittleCanBeDone() {
    ControlValues values =
        set(set(ControlValues.NONE, "presenter-role", "members"), "sign-in", "any-account");
    Joiner member = new Joiner(Standing.MEMBER, Tie.NAMED, Route.PHONE, true, false, null, true);
    assertEquals(Door.pass(values, member, Moment.IN_SESSION).step(), DoorStep.SIGN_IN);
    assertEquals(Roles.of(values, member), Role.ATTENDEE);
    assertEquals(
        Roles.list(Roles.rights(ControlValues.NONE, Role.HOST, Route.PHONE)),
        List.of(Right.LISTEN, Right.SPEAK));
  }

  @Test
  public void aHostHoldsAllSaveWhatIsOff() {
    int all = Roles.rights(ControlValues.NONE, Role.HOST, Route.APP);
    assertEquals(Integer.bitCount(all), Right.all().size());
    ControlValues off = set(set(ControlValues.NONE, "recording", "off"), "chat", "off");
    List<Right> held = Roles.list(Roles.rights(off, Role.CO_HOST, Route.APP));
    assertFalse(held.contains(Right.RECORD));
    assertFalse(held.contains(Right.CHAT));
    assertEquals(held.size(), Right.all().size() - 2);
    assertEquals(
        Roles.list(Roles.rights(ControlValues.NONE, Role.ONLOOKER, Route.APP)),
        List.of(Right.LISTEN));
  }
}
