package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** A session as its events tell it. */
public class SessionBookTest {
  @Test
  public void somebodyComesWaitsIsLetInAndLeaves() {
    Told told = new Told(Map.of());
    told.at(-30).host().at(10).comes("ann", "member", "named");
    assertEquals(told.seat("ann").place(), Seat.Place.AT_DOOR);
    told.tell(Kind.HELD, "ann", "step", "waiting-room");
    assertEquals(told.seat("ann").step(), "waiting-room");
    told.at(40).tell(Kind.ENTERED, "ann", "role", "attendee", "by", "host");
    assertEquals(told.seat("ann").place(), Seat.Place.INSIDE);
    assertEquals(told.seat("ann").way(), Seat.Way.LET_IN_BY_HOST);
    assertNull(told.seat("ann").step());
    told.at(100).tell(Kind.LEFT, "ann");
    assertEquals(told.seat("ann").whyOut(), "left");
    assertNull(told.seat("ann").role());
    assertEquals(told.seat("ann").inside(told.now()), Duration.ofSeconds(60));
  }

  @Test
  public void whoLetSomebodyInDecidesHowFarTheyAreVouchedFor() {
    for (String presents : List.of("everyone", "members", "named", "hosts")) {
      Told told = new Told(Map.of(Control.PRESENTER_ROLE, presents));
      told.at(0).host().comes("pat", "member", "named").enters("pat", "presenter");
      told.comes("guest", "unknown", "none");
      told.tell(Kind.ENTERED, "guest", "role", "attendee", "by", "pat");
      boolean picked = presents.equals("named") || presents.equals("hosts");
      assertEquals(
          told.seat("guest").way(),
          picked ? Seat.Way.LET_IN_BY_HOST : Seat.Way.LET_IN_BY_PEER,
          presents);
    }
    Told told = new Told(Map.of());
    told.at(0).host().comes("a", "member", "named").enters("a", "attendee");
    told.comes("b", "unknown", "none").tell(Kind.ENTERED, "b", "role", "attendee", "by", "a");
    assertEquals(told.seat("b").way(), Seat.Way.LET_IN_BY_PEER);
    told.comes("c", "unknown", "none");
    told.tell(Kind.ENTERED, "c", "role", "attendee", "by", "warden@saltmarsh.example");
    assertEquals(told.seat("c").way(), Seat.Way.LET_IN_BY_HOST, "an administrator is no peer");
  }

  @Test
  public void theMomentKnowsTheClockTheHostAndTheLock() {
    Told told = new Told(Map.of());
    assertEquals(told.book.moment(Told.START.minusSeconds(61)), new Moment(-2, false, false));
    assertEquals(told.book.moment(Told.START.minusSeconds(60)), new Moment(-1, false, false));
    assertEquals(told.book.moment(Told.START.minusSeconds(1)), new Moment(-1, false, false));
    assertEquals(told.book.moment(Told.START.plusSeconds(59)), new Moment(0, false, false));
    told.at(0).host().tell(Kind.LOCKED, null);
    assertEquals(told.book.moment(Told.START.plusSeconds(60)), new Moment(1, true, true));
    told.tell(Kind.UNLOCKED, null).tell(Kind.LEFT, "host");
    assertEquals(told.book.moment(Told.START.plusSeconds(60)), new Moment(1, false, false));
    assertEquals(told.book.hostFirstIn(), Told.START);
  }

  @Test
  public void aCoHostMadeDuringItCountsAsOneAndNoLongerWhenUnmade() {
    Told told = new Told(Map.of());
    told.at(0).comes("a", "member", "named").enters("a", "attendee");
    assertEquals(told.book.hostsIn(), 0);
    told.tell(Kind.ROLE, "a", "role", "co-host");
    assertEquals(told.book.hostsIn(), 1);
    told.tell(Kind.ROLE, "a", "role", "attendee");
    assertEquals(told.book.hostsIn(), 0);
    assertEquals(told.seat("a").highest(), Role.CO_HOST);
  }

  @Test
  public void whoIsRemovedAndComesBackIsKnownAgain() {
    Told told = new Told(Map.of());
    told.at(0).host().comes("x", "unknown", "none").enters("x", "attendee");
    told.tell(Kind.SHARE_STARTED, "x").tell(Kind.RECORDING_STARTED, "x");
    told.at(30).tell(Kind.REMOVED, "x", "barred", "true");
    assertNull(told.book.sharing());
    assertNull(told.book.recording());
    assertTrue(told.seat("x").barred());
    told.at(60).comes("x", "unknown", "none");
    assertTrue(told.seat("x").joiner().removed());
    assertEquals(told.seat("x").persona(), Persona.REMOVED);
    told.tell(Kind.REFUSED, "x", "step", "removed");
    assertEquals(told.seat("x").whyOut(), "refused");
    assertEquals(told.seat("x").stays().size(), 1);
  }

  @Test
  public void theEndPutsEverybodyOut() {
    Told told = new Told(Map.of());
    told.at(0).host().comes("a", "member", "named").at(600).tell(Kind.ENDED, null);
    assertTrue(told.book.ended());
    assertEquals(told.book.hostsIn(), 0);
    assertEquals(told.seat("host").inside(Instant.MAX), Duration.ofMinutes(10));
    assertEquals(told.seat("a").whyOut(), "ended");
  }

  @Test
  public void settingsAreWordsNumbersAndNames() {
    Told told = new Told(Map.of());
    told.tell(Kind.SETTING, null, "control", "waiting-room", "value", "on");
    told.tell(Kind.SETTING, null, "control", "early-entry", "value", "15");
    told.tell(Kind.SETTING, null, "control", "audio-routes", "value", "computer");
    assertTrue(told.book.values().is(Control.WAITING_ROOM, "on"));
    assertEquals(told.book.values().get(Control.EARLY_ENTRY), Control.EARLY_ENTRY.parse(15));
    assertEquals(
        told.book.values().get(Control.AUDIO_ROUTES),
        Control.AUDIO_ROUTES.parse(List.of("computer")));
    told.tell(Kind.SETTING, null, "control", "waiting-room", "value", "ajar");
    assertNull(told.book.values().get(Control.WAITING_ROOM), "not evidenced any more");
    told.tell(Kind.SETTING, null, "control", "of-tomorrow", "value", "x");
    assertFalse(SessionBook.isValue(Control.WAITING_ROOM, "ajar"));
    assertTrue(SessionBook.isValue(Control.EARLY_ENTRY, "any-time"));
  }

  @Test
  public void aWordThatIsNotKnownIsTheLeastTrusted() {
    Told told = new Told(Map.of());
    told.tell(Kind.ARRIVED, "a", "standing", "friend", "tie", "cousin", "route", "pigeon");
    told.tell(Kind.ENTERED, "a", "role", "emperor");
    assertEquals(told.seat("a").persona(), Persona.NUMBER_GUESSER);
    assertEquals(told.seat("a").role(), Role.ATTENDEE);
  }

  @Test
  public void onlyTheNextEventIsTaken() {
    Told told = new Told(Map.of());
    SessionEvent second = new SessionEvent(2, Told.START, Told.START, Kind.LOCKED, null, Map.of());
    assertThrows(IllegalArgumentException.class, () -> told.book.take(second));
    told.tell(Kind.OPENED, null);
    told.book.take(second);
    assertThrows(IllegalArgumentException.class, () -> told.book.take(second));
  }

  /** Whatever a service tells, in whatever order of kinds: the counts stay those of the seats. */
  @Test
  public void nonsenseNeverUpsetsTheBook() {
    Random random = new Random(20261125);
    for (int session = 0; session < 60; session++) {
      Told told = new Told(Map.of());
      for (int i = 0; i < 300; i++) {
        Kind kind = Kind.values()[random.nextInt(Kind.values().length)];
        if (kind == Kind.ENDED && random.nextInt(20) > 0) {
          kind = Kind.ARRIVED;
        }
        String who = random.nextInt(10) == 0 ? null : "w" + random.nextInt(6);
        Role role = Role.values()[random.nextInt(Role.values().length)];
        told.at(i * 5)
            .tell(kind, who, "role", role.id(), "by", "w1", "step", "waiting-room", "control", "?");
        long hosts =
            told.book.seats().stream()
                .filter(s -> s.role() == Role.HOST || s.role() == Role.CO_HOST)
                .count();
        assertEquals(told.book.hostsIn(), hosts, kind + " at " + i);
        for (Seat seat : told.book.seats()) {
          boolean inside = seat.place() == Seat.Place.INSIDE;
          assertEquals(seat.role() != null, inside, kind.toString());
          long open = seat.stays().stream().filter(s -> s.to() == null).count();
          assertEquals(open, inside ? 1 : 0, kind.toString());
        }
      }
    }
  }

  @DataProvider
  public Object[][] personas() {
    return new Object[][] {
      {"member", "named", "app", Persona.INVITED_MEMBER},
      {"outsider", "named", "app", Persona.INVITED_OUTSIDER},
      {"partner", "named", "app", Persona.INVITED_OUTSIDER},
      {"member", "listed", "app", Persona.LISTED_MEMBER},
      {"member", "none", "app", Persona.OTHER_MEMBER},
      {"guest", "none", "app", Persona.GUEST},
      {"partner", "none", "app", Persona.PARTNER},
      {"outsider", "forwarded", "app", Persona.FORWARDED},
      {"outsider", "none", "app", Persona.LINK_FINDER},
      {"unknown", "none", "app", Persona.LINK_FINDER},
      {"unknown", "none", "phone", Persona.PHONE_CALLER},
      {"member", "co-host", "app", null},
    };
  }

  @Test(dataProvider = "personas")
  public void everybodyIsSomePersonaButHosts(
      String standing, String tie, String route, Persona persona) {
    Told told = new Told(Map.of());
    told.tell(
        Kind.ARRIVED, "a", "standing", standing, "tie", tie, "route", route, "passcode", "true");
    assertEquals(told.seat("a").persona(), persona);
  }
}
