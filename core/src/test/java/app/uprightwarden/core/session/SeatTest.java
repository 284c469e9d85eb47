package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.time.Duration;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What a session's book knows of one participant, and of who shares and speaks. */
public class SeatTest {
  @Test
  public void whoIsInAndComesToTheDoorAgainHasLeftFirst() {
    Told told = new Told(Map.of());
    told.at(0).host().at(60).comes("a", "member", "named").enters("a", "presenter");
    told.at(120).tell(Kind.ARRIVED, "a", "name", "Ann", "standing", "member", "tie", "listed");
    Seat ann = told.seat("a");
    assertEquals(ann.place(), Seat.Place.AT_DOOR);
    assertEquals(ann.since(), told.now());
    assertEquals(ann.moment(), new Moment(2, true, false));
    assertEquals(ann.name(), "Ann");
    assertNull(ann.role());
    assertNull(ann.whyOut(), "they are at the door, not gone");
    assertEquals(ann.stays().get(0).to(), told.now());
    told.at(180).enters("a", "attendee");
    assertEquals(ann.stays().size(), 2);
    assertEquals(ann.highest(), Role.PRESENTER, "the highest they had stays");
    assertEquals(ann.inside(Told.START.plusSeconds(240)), Duration.ofMinutes(2));
  }

  @Test
  public void whoIsInIsNotLetInASecondTime() {
    Told told = new Told(Map.of());
    told.at(0).host().comes("a", "member", "named").enters("a", "attendee");
    told.at(60).tell(Kind.ENTERED, "a", "role", "co-host", "by", "host");
    assertEquals(told.seat("a").stays().size(), 1);
    assertEquals(told.seat("a").role(), Role.ATTENDEE);
    assertNull(told.seat("a").letInBy());
    assertEquals(told.book.hostsIn(), 1);
    told.tell(Kind.HELD, "a", "step", "waiting-room");
    assertNull(told.seat("a").step(), "nothing holds whoever is in");
  }

  @Test
  public void aRoleIsOnlyForWhoIsIn() {
    Told told = new Told(Map.of());
    told.at(0).comes("a", "member", "named").tell(Kind.ROLE, "a", "role", "co-host");
    assertNull(told.seat("a").role());
    assertNull(told.seat("a").highest());
    assertEquals(told.book.hostsIn(), 0);
    assertNull(told.book.hostFirstIn());
  }

  @DataProvider
  public Object[][] waysOut() {
    return new Object[][] {
      {Kind.LEFT, "left"}, {Kind.TURNED_AWAY, "turned-away"}, {Kind.REMOVED, "removed"},
    };
  }

  @Test(dataProvider = "waysOut")
  public void whySomebodyIsOutIsWhatHappenedFirst(Kind kind, String why) {
    Told told = new Told(Map.of());
    told.at(0).host().comes("a", "unknown", "none").at(10).tell(kind, "a");
    assertEquals(told.seat("a").place(), Seat.Place.OUT);
    assertEquals(told.seat("a").whyOut(), why);
    assertEquals(told.seat("a").removals(), kind == Kind.REMOVED ? 1 : 0);
    assertFalse(told.seat("a").barred(), "nobody said so");
    told.at(20).tell(Kind.LEFT, "a").at(30).tell(Kind.ENDED, null);
    assertEquals(told.seat("a").whyOut(), why);
    assertEquals(told.seat("a").since(), Told.START.plusSeconds(10));
  }

  @Test
  public void whoWasBarredOnceStaysBarred() {
    Told told = new Told(Map.of());
    told.at(0).comes("a", "unknown", "none").enters("a", "attendee");
    told.tell(Kind.REMOVED, "a", "barred", "true").comes("a", "unknown", "none");
    told.enters("a", "attendee").tell(Kind.REMOVED, "a", "barred", "false");
    assertTrue(told.seat("a").barred());
    assertEquals(told.seat("a").removals(), 2);
  }

  @Test
  public void whoIsSilencedIsSoUntilTheySpeakOrComeAnew() {
    Told told = new Told(Map.of());
    told.at(0).comes("a", "member", "named").enters("a", "attendee");
    assertFalse(told.seat("a").silenced());
    assertTrue(told.tell(Kind.SILENCED, "a").seat("a").silenced());
    assertFalse(told.tell(Kind.SPOKE, "a").seat("a").silenced());
    told.tell(Kind.SILENCED, "a").tell(Kind.LEFT, "a").comes("a", "member", "named");
    assertFalse(told.enters("a", "attendee").seat("a").silenced());
  }

  @Test
  public void theScreenIsSharedUntilWhoeverSharesStopsOrGoes() {
    Told told = new Told(Map.of());
    told.at(0).host().comes("a", "member", "named").enters("a", "attendee");
    told.tell(Kind.SHARE_STARTED, "host").tell(Kind.LEFT, "a");
    assertEquals(told.book.sharing(), "host", "another left");
    assertNull(told.tell(Kind.SHARE_STOPPED, "host").book.sharing());
    told.tell(Kind.SHARE_STARTED, "host").tell(Kind.LEFT, "host");
    assertNull(told.book.sharing());
  }

  @DataProvider
  public Object[][] expected() {
    return new Object[][] {
      {"named", true},
      {"listed", true},
      {"host", true},
      {"co-host", true},
      {"forwarded", false},
      {"none", false},
    };
  }

  @Test(dataProvider = "expected")
  public void whoWasAskedIsExpectedAndWhoGotALinkIsNot(String tie, boolean is) {
    Told told = new Told(Map.of());
    assertEquals(told.comes("a", "member", tie).seat("a").isExpected(), is);
  }

  @Test
  public void answersToBeingRecordedAreKeptUpToALimit() {
    Told told = new Told(Map.of());
    told.at(0).comes("a", "member", "named").enters("a", "attendee");
    for (int i = 0; i <= Seat.MAX_CONSENTS; i++) {
      told.at(i).tell(i % 2 == 0 ? Kind.CONSENT_GIVEN : Kind.CONSENT_DECLINED, "a");
    }
    List<Seat.Consent> consents = told.seat("a").consents();
    assertEquals(consents.size(), Seat.MAX_CONSENTS);
    assertTrue(consents.get(0).given());
    assertFalse(consents.get(1).given());
    assertEquals(consents.get(1).at(), Told.START.plusSeconds(1));
  }

  @Test
  public void theBookKnowsWhenTheDoorOpenedWhatWasLastAndHowMuchWasWritten() {
    Told told = new Told(Map.of());
    assertNull(told.book.opened());
    assertNull(told.book.last());
    told.at(5).tell(Kind.OPENED, null).at(7).host().at(9).tell(Kind.CHATTED, "host");
    told.tell(Kind.CHATTED, "nobody").tell(Kind.CHATTED, "host");
    assertEquals(told.book.opened(), Told.START.plusSeconds(5));
    assertEquals(told.book.last(), Told.START.plusSeconds(9));
    assertEquals(told.book.chatted(), 2, "what nobody wrote does not count");
    told.tell(Kind.RENAMED, "host", "name", "Ada").tell(Kind.RENAMED, "host");
    assertEquals(told.seat("host").name(), "Ada", "a name that is not told changes nothing");
    assertEquals(told.book.seats().stream().map(Seat::who).toList(), List.of("host"));
  }

  @Test
  public void whenAHostWasFirstInStaysSo() {
    Told told = new Told(Map.of());
    told.at(30).host().at(60).tell(Kind.LEFT, "host").at(90).host();
    assertEquals(told.book.hostFirstIn(), Told.START.plusSeconds(30));
    assertEquals(told.book.hostsIn(), 1);
  }

  @Test
  public void aNumberThatNoControlCouldHaveIsNone() {
    assertTrue(SessionBook.isValue(Control.EARLY_ENTRY, "10080"));
    assertFalse(SessionBook.isValue(Control.EARLY_ENTRY, "10081"));
    assertFalse(SessionBook.isValue(Control.EARLY_ENTRY, "99999999999999999999"));
    assertFalse(SessionBook.isValue(Control.EARLY_ENTRY, "-1"));
    assertFalse(SessionBook.isValue(Control.EARLY_ENTRY, ""));
    assertEquals(
        SessionBook.value(Control.REGIONS, "IE,GB"), Control.REGIONS.parse(List.of("GB", "IE")));
    assertEquals(SessionBook.value(Control.REGIONS, ""), Control.REGIONS.loosest());
  }

  @Test
  public void aKindIsFoundByItsIdAndWhatIsNotKnownIsOther() {
    for (Kind kind : Kind.values()) {
      assertEquals(Kind.byId(kind.id()), kind);
    }
    assertEquals(Kind.TURNED_AWAY.id(), "turned-away");
    assertEquals(Kind.byId("levitated"), Kind.OTHER);
  }
}
