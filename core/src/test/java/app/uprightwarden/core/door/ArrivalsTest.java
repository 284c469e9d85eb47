package app.uprightwarden.core.door;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.MeetingMaker;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Who somebody is at a meeting's door, by their address. */
public class ArrivalsTest {
  private static final Directory DIRECTORY =
      new Directory(
          List.of(new Person("listed@x.example", "L", Standing.MEMBER, null, true)),
          List.of("partner.example"),
          Map.of(),
          Map.of(
              "list:crew", List.of("Listed@x.example", "host@x.example"),
              "space:quay", List.of("inside@partner.example")));

  private static Meeting meeting(@Nullable String space) {
    return new MeetingMaker(LocalDateTime.of(2026, 5, 1, 9, 0), ZoneOffset.UTC)
        .host("Host@x.example")
        .people(
            List.of("Co@x.example"),
            List.of("Presents@x.example", "co@x.example"),
            List.of(
                new Invitee("Invited@x.example", Invitee.Need.OPTIONAL),
                new Invitee(
                    "part@x.example", Invitee.Need.REQUIRED, Invitee.Task.CONTRIBUTOR, null),
                new Invitee(
                    "words@x.example", Invitee.Need.REQUIRED, Invitee.Task.CAPTIONER, "en")))
        .lists("none", "crew")
        .space(space)
        .make();
  }

  @DataProvider
  public Object[][] addresses() {
    return new Object[][] {
      {"host@x.example", Tie.HOST},
      {" CO@x.example", Tie.CO_HOST},
      {"presents@x.example", Tie.NAMED},
      {"invited@X.example", Tie.NAMED},
      {"listed@x.example", Tie.LISTED},
      {"inside@partner.example", Tie.LISTED},
      {"other@partner.example", Tie.NONE},
      {"host@x.example.org", Tie.NONE},
    };
  }

  @Test(dataProvider = "addresses")
  public void theirOwnNameComesBeforeListsAndSpaces(String email, Tie tie) {
    assertEquals(Arrivals.tie(meeting("quay"), email, DIRECTORY), tie);
    if (email.equals("inside@partner.example")) {
      assertEquals(Arrivals.tie(meeting(null), email, DIRECTORY), Tie.NONE, "in no space");
    }
  }

  private static Joiner joiner(String email, String link) {
    ControlValues values =
        ControlValues.NONE.with(Control.PASSCODE_IN_LINK, Control.PASSCODE_IN_LINK.parse(link));
    return Arrivals.joiner(meeting("quay"), values, email, DIRECTORY, Route.APP);
  }

  @Test
  public void whoeverIsInvitedHoldsThePasscodeOthersWhereTheLinkHasIt() {
    assertTrue(joiner("invited@x.example", "separate").holdsPasscode());
    assertTrue(joiner("listed@x.example", "separate").holdsPasscode());
    assertFalse(joiner("stranger@x.example", "separate").holdsPasscode());
    assertTrue(joiner("stranger@x.example", "embedded").holdsPasscode());
  }

  @Test
  public void whatTheyAreNamedForIsKnown() {
    assertEquals(joiner("listed@x.example", "separate").standing(), Standing.MEMBER);
    assertEquals(joiner("inside@partner.example", "separate").standing(), Standing.PARTNER);
    assertTrue(joiner("presents@x.example", "separate").listedPresenter());
    assertFalse(joiner("invited@x.example", "separate").listedPresenter());
    assertTrue(joiner("PART@x.example", "separate").contributor());
    assertFalse(joiner("invited@x.example", "separate").contributor(), "named for nothing");
    assertFalse(joiner("stranger@x.example", "separate").contributor());
    assertEquals(
        joiner("words@x.example", "separate").contributor(), Invitee.Task.CAPTIONER.takesPart());
    assertEquals(joiner("invited@x.example", "separate").route(), Route.APP);
    assertFalse(joiner("invited@x.example", "separate").removed());
  }
}
