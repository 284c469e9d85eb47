package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** What the guard says of what happens. */
public class GuardTest {
  private static final Guarantee NO_STRANGER_SHARES =
      new Guarantee(
          "g1",
          List.of(Persona.LINK_FINDER, Persona.FORWARDED),
          List.of(Right.SHARE_SCREEN, Right.SPEAK),
          Level.HOST_LETS_IN,
          3,
          "");

  private static Guard guard(List<Rule> rules, Guarantee... guarantees) {
    return new Guard(
        ResolvedRulebook.of(List.of(new Layer(Scope.ORGANISATION, rules, List.of(guarantees)))),
        Told.START.plusSeconds(3600));
  }

  private static List<Alert> tell(Guard guard, Told told, Kind kind, String who, String... with) {
    String was = told.book.recording();
    SessionEvent event = told.event(kind, who, with);
    told.book.take(event);
    return guard.after(told.book, event, was);
  }

  private static List<Alert.Kind> kinds(List<Alert> alerts) {
    return alerts.stream().map(Alert::kind).toList();
  }

  @Test
  public void aStrangerBeforeTheHostIsSeenAndWhoIsInvitedIsNot() {
    Guard guard = guard(List.of());
    Told told = new Told(Map.of());
    told.at(-120).comes("x", "unknown", "none");
    List<Alert> alerts = tell(guard, told, Kind.ENTERED, "x", "role", "attendee");
    assertEquals(kinds(alerts), List.of(Alert.Kind.STRANGER_BEFORE_HOST));
    assertEquals(alerts.get(0).end(), Order.of(Order.Act.REMOVE_AND_BAR, "x"));
    told.comes("a", "member", "named");
    assertEquals(tell(guard, told, Kind.ENTERED, "a", "role", "attendee"), List.of());
    told.at(10).host().comes("y", "unknown", "none");
    assertEquals(tell(guard, told, Kind.ENTERED, "y", "role", "attendee"), List.of());
  }

  @Test
  public void aGuaranteeIsBrokenByTheWayTheyCameIn() {
    Guard guard = guard(List.of(), NO_STRANGER_SHARES);
    Told told = new Told(Map.of());
    told.at(60).host().comes("x", "unknown", "none").comes("y", "unknown", "none");
    List<Alert> free = tell(guard, told, Kind.ENTERED, "x", "role", "attendee");
    assertEquals(kinds(free), List.of(Alert.Kind.GUARANTEE_BROKEN));
    assertEquals(free.get(0).severity(), 3);
    assertTrue(free.get(0).words().contains("share the screen"), "the worst right is named");
    List<Alert> letIn = tell(guard, told, Kind.ENTERED, "y", "role", "attendee", "by", "host");
    assertEquals(letIn, List.of(), "no further than the ceiling");
  }

  @Test
  public void beforeTheStartWithoutAHostItWeighsMore() {
    Guard guard = guard(List.of(), NO_STRANGER_SHARES);
    Told told = new Told(Map.of());
    told.at(-90).comes("x", "unknown", "none");
    List<Alert> alerts = tell(guard, told, Kind.ENTERED, "x", "role", "attendee");
    Alert broken =
        alerts.stream().filter(a -> a.kind() == Alert.Kind.GUARANTEE_BROKEN).findFirst().get();
    assertEquals(broken.severity(), 4);
  }

  @Test
  public void whatIsTurnedOffBreaksNothingUntilItIsTurnedOn() {
    Guarantee shares =
        new Guarantee(
            "g2",
            List.of(Persona.LINK_FINDER),
            List.of(Right.SHARE_SCREEN),
            Level.HOST_LETS_IN,
            2,
            "");
    Guard guard = guard(List.of(), shares);
    Told told = new Told(Map.of(Control.SCREEN_SHARE, "hosts", Control.PRESENTER_ROLE, "hosts"));
    told.at(60).host().comes("x", "unknown", "none");
    assertEquals(tell(guard, told, Kind.ENTERED, "x", "role", "attendee"), List.of());
    List<Alert> loosened =
        tell(guard, told, Kind.SETTING, null, "control", "screen-share", "value", "everyone");
    assertEquals(kinds(loosened), List.of(Alert.Kind.GUARANTEE_BROKEN));
    assertEquals(loosened.get(0).who(), "x");
  }

  @Test
  public void aShareIsHeldAgainstWhoTheyAreAndWhatTheRuleHas() {
    Rule presentersShare =
        Rule.bound(
            Control.SCREEN_SHARE,
            Control.SCREEN_SHARE.parse("presenters"),
            Control.SCREEN_SHARE.parse("presenters"),
            false,
            3,
            "");
    Guard guard = guard(List.of(presentersShare));
    // looser than the rule: an attendee may, and should not
    Told told = new Told(Map.of(Control.SCREEN_SHARE, "everyone"));
    told.at(60).host().comes("a", "member", "named").enters("a", "attendee");
    told.comes("p", "member", "named").enters("p", "presenter");
    told.comes("x", "unknown", "none").enters("x", "presenter");
    assertEquals(
        kinds(tell(guard, told, Kind.SHARE_STARTED, "a")), List.of(Alert.Kind.SHARE_NOT_ALLOWED));
    assertEquals(tell(guard, told, Kind.SHARE_STARTED, "p"), List.of());
    assertEquals(tell(guard, told, Kind.SHARE_STARTED, "host"), List.of());
    List<Alert> stranger = tell(guard, told, Kind.SHARE_STARTED, "x");
    assertEquals(kinds(stranger), List.of(Alert.Kind.SHARE_NOT_ALLOWED));
    assertEquals(stranger.get(0).end().act(), Order.Act.STOP_SHARE);
  }

  private static boolean stands(Guard guard, Told told, Alert alert) {
    return guard.stands(told.book, alert.kind(), alert.who(), alert.guarantee(), alert.cause());
  }

  @Test
  public void anAlertEndsWithWhoeverItIsAbout() {
    Guard guard = guard(List.of(), NO_STRANGER_SHARES);
    Told told = new Told(Map.of());
    told.at(-90).comes("x", "unknown", "none");
    List<Alert> alerts = tell(guard, told, Kind.ENTERED, "x", "role", "attendee");
    assertEquals(alerts.size(), 2);
    for (Alert alert : alerts) {
      assertEquals(alert.cause(), "person/x", "they belong together");
      assertTrue(stands(guard, told, alert));
    }
    told.tell(Kind.REMOVED, "x", "barred", "true");
    alerts.forEach(alert -> assertFalse(stands(guard, told, alert)));
  }

  @Test
  public void aShareThatIsStoppedIsNoAlertAnyMore() {
    Guard guard = guard(List.of());
    Told told = new Told(Map.of(Control.SCREEN_SHARE, "everyone"));
    told.at(60).host().comes("x", "unknown", "none").enters("x", "attendee");
    Alert alert = tell(guard, told, Kind.SHARE_STARTED, "x").get(0);
    assertTrue(stands(guard, told, alert));
    told.tell(Kind.SHARE_STARTED, "host");
    assertFalse(stands(guard, told, alert), "somebody else shares now");
    told.tell(Kind.SHARE_STARTED, "x");
    assertTrue(stands(guard, told, alert));
    told.tell(Kind.SHARE_STOPPED, "x");
    assertFalse(stands(guard, told, alert));
  }

  @Test
  public void whatASettingHasLetHappenIsOneCauseAndEndsWithIt() {
    Rule waits =
        Rule.bound(
            Control.SCREEN_SHARE,
            Control.SCREEN_SHARE.parse("hosts"),
            Control.SCREEN_SHARE.parse("hosts"),
            false,
            4,
            "");
    Guard guard = guard(List.of(waits), NO_STRANGER_SHARES);
    Told told = new Told(Map.of(Control.SCREEN_SHARE, "hosts"));
    told.at(60).host().comes("x", "unknown", "none").enters("x", "attendee");
    told.comes("y", "unknown", "none").enters("y", "attendee");
    List<Alert> alerts =
        tell(guard, told, Kind.SETTING, "host", "control", "screen-share", "value", "everyone");
    assertEquals(alerts.get(0).kind(), Alert.Kind.SETTING_BEYOND_RULE);
    for (Alert alert : alerts) {
      assertEquals(alert.cause(), "setting/screen-share");
      assertEquals(alert.end().act(), Order.Act.SET, "it is set back before anybody is removed");
      assertEquals(alert.end().value(), "hosts");
      assertTrue(stands(guard, told, alert));
    }
    told.tell(Kind.SETTING, "host", "control", "screen-share", "value", "hosts");
    assertFalse(stands(guard, told, alerts.get(0)));
  }

  @Test
  public void onceItIsOverNothingStands() {
    Guard guard = guard(List.of(), NO_STRANGER_SHARES);
    Told told = new Told(Map.of());
    told.at(-90).comes("x", "unknown", "none");
    Alert alert = tell(guard, told, Kind.ENTERED, "x", "role", "attendee").get(0);
    told.tell(Kind.ENDED, null);
    assertFalse(stands(guard, told, alert));
  }

  @Test
  public void aSecondRecordingThatEndsTheFirstIsSeenOnce() {
    Guard guard = guard(List.of());
    Told told = new Told(Map.of(Control.RECORDING, "everyone"));
    told.at(60).host().comes("a", "member", "named").enters("a", "attendee");
    assertEquals(tell(guard, told, Kind.RECORDING_STARTED, "host"), List.of());
    assertEquals(
        kinds(tell(guard, told, Kind.RECORDING_STARTED, "a")), List.of(Alert.Kind.RECORDING_ENDED));
    assertEquals(tell(guard, told, Kind.RECORDING_STARTED, "a"), List.of());
  }

  @Test
  public void whoWasRemovedAndIsInAgainIsSeen() {
    Guard guard = guard(List.of());
    Told told = new Told(Map.of());
    told.at(60).host().comes("x", "member", "named").enters("x", "attendee");
    told.tell(Kind.REMOVED, "x").comes("x", "member", "named");
    List<Alert> alerts = tell(guard, told, Kind.ENTERED, "x", "role", "attendee");
    assertTrue(kinds(alerts).contains(Alert.Kind.REMOVED_BACK), alerts.toString());
  }

  @Test
  public void anotherDeviceDoesNotHideThem() {
    Guard guard = guard(List.of());
    Told told = new Told(Map.of());
    told.at(60).host();
    for (String device : List.of("x", "y", "z")) {
      told.tell(
          Kind.ARRIVED, device, "standing", "guest", "tie", "named", "address", device + "@x");
    }
    told.enters("x", "attendee").tell(Kind.REMOVED, "x");
    told.tell(Kind.ARRIVED, "y", "standing", "guest", "tie", "named", "address", "x@x");
    assertEquals(
        kinds(tell(guard, told, Kind.ENTERED, "y", "role", "attendee")),
        List.of(Alert.Kind.REMOVED_BACK));
    assertEquals(tell(guard, told, Kind.ENTERED, "z", "role", "attendee"), List.of());
  }

  @Test
  public void aSettingBeyondTheRuleComesWithTheWayBack() {
    Rule waits = Rule.fix(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"), false, 4, "");
    Rule early =
        Rule.bound(
            Control.EARLY_ENTRY,
            Control.EARLY_ENTRY.parse(0),
            Control.EARLY_ENTRY.parse(10),
            false,
            2,
            "");
    Guard guard = guard(List.of(waits, early));
    Told told = new Told(Map.of(Control.WAITING_ROOM, "on"));
    List<Alert> alerts =
        tell(guard, told, Kind.SETTING, null, "control", "waiting-room", "value", "off");
    assertEquals(kinds(alerts), List.of(Alert.Kind.SETTING_BEYOND_RULE));
    assertEquals(
        alerts.get(0).end(), new Order(Order.Act.SET, List.of(), Control.WAITING_ROOM, "on"));
    assertEquals(alerts.get(0).severity(), 4);
    assertEquals(
        tell(guard, told, Kind.SETTING, null, "control", "early-entry", "value", "10"), List.of());
    assertEquals(
        tell(guard, told, Kind.SETTING, null, "control", "early-entry", "value", "11")
            .get(0)
            .end()
            .value(),
        "10");
  }

  @Test
  public void pastItsTimeWithTheDoorOpen() {
    Guard guard = guard(List.of());
    List<Object[]> cases = new ArrayList<>();
    cases.add(new Object[] {3600 + 599, "off", false, 0});
    cases.add(new Object[] {3600 + 601, "off", false, 1});
    cases.add(new Object[] {3600 + 601, "on", false, 0});
    cases.add(new Object[] {3600 + 601, "off", true, 0});
    for (Object[] one : cases) {
      Told told = new Told(Map.of(Control.WAITING_ROOM, (String) one[1]));
      told.at(0).host();
      if ((boolean) one[2]) {
        told.tell(Kind.LOCKED, null);
      }
      assertEquals(guard.at(told.book, Told.START.plusSeconds((int) one[0])).size(), (int) one[3]);
    }
    Told empty = new Told(Map.of());
    assertEquals(guard.at(empty.book, Told.START.plusSeconds(9000)), List.of());
    empty.host().tell(Kind.ENDED, null);
    assertEquals(guard.at(empty.book, Told.START.plusSeconds(9000)), List.of());
  }
}
