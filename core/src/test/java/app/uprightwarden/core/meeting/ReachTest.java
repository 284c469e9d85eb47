package app.uprightwarden.core.meeting;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Whom names reach, and whether that is within a limit. */
public class ReachTest {
  private static final Directory DIRECTORY =
      new Directory(
          List.of(
              new Person("member@x.example", "M", Standing.MEMBER, null, true),
              new Person("co@x.example", "C", Standing.MEMBER, null, true),
              new Person("guest@y.example", "G", Standing.GUEST, null, true)),
          List.of("partner.example"),
          Map.of(),
          Map.of());

  private static Reach of(List<String> presenters, String... invited) {
    return Reach.of(
        "Host@x.example",
        List.of("Co@x.example"),
        presenters,
        List.of(invited).stream().map(e -> new Invitee(e, Invitee.Need.REQUIRED)).toList(),
        DIRECTORY);
  }

  @Test
  public void hostsAndCoHostsDoNotCountAndTheWidestDoes() {
    assertEquals(of(List.of()), Reach.NOBODY);
    assertEquals(of(List.of(), "HOST@x.example", "co@x.example"), Reach.NOBODY);
    assertEquals(of(List.of(), "member@x.example"), new Reach(true, Standing.MEMBER, true, true));
    assertEquals(
        of(List.of(), "p@partner.example", "guest@y.example", "member@x.example"),
        new Reach(true, Standing.PARTNER, true, true));
    assertEquals(
        of(List.of(), "guest@y.example", "z@away.example"),
        new Reach(true, Standing.OUTSIDER, true, true));
  }

  @Test
  public void everyPresenterCounts() {
    assertEquals(of(List.of("co@X.example")), Reach.NOBODY);
    // who presents but one is a member, who but one is a host
    assertEquals(
        of(List.of("guest@y.example", "member@x.example")),
        new Reach(false, Standing.MEMBER, false, false));
    assertEquals(
        of(List.of("member@x.example", "co@x.example")),
        new Reach(false, Standing.MEMBER, true, false));
  }

  @DataProvider
  public Object[][] lobbies() {
    Reach members = new Reach(true, Standing.MEMBER, true, true);
    Reach guests = new Reach(true, Standing.GUEST, true, true);
    Reach partners = new Reach(true, Standing.PARTNER, true, true);
    Reach outsiders = new Reach(true, Standing.OUTSIDER, true, true);
    return new Object[][] {
      {Reach.NOBODY, "hosts", true},
      {members, "hosts", false},
      {members, "members", true},
      {guests, "members", false},
      {guests, "guests", true},
      {partners, "guests", false},
      {partners, "partners", true},
      {outsiders, "partners", false},
    };
  }

  /** An invitation that may be handed on lets in whoever gets it. */
  @Test(dataProvider = "lobbies")
  public void namesAreWithinALimitWhereTheyAreAndCannotBeHandedOn(
      Reach reach, String limit, boolean isWithin) {
    Control control = Control.LOBBY_BYPASS;
    assertEquals(
        reach.within(control, control.parse("named"), control.parse(limit), true), isWithin);
    assertEquals(reach.within(control, control.parse("named"), control.parse(limit), false), false);
    assertEquals(
        reach.within(control, control.parse("named"), control.parse("anyone"), false), true);
  }

  @Test
  public void presentersAreWithinALimitByWhoTheyAre() {
    Control control = Control.PRESENTER_ROLE;
    for (boolean members : new boolean[] {true, false}) {
      for (boolean hosts : new boolean[] {true, false}) {
        Reach reach = new Reach(true, Standing.OUTSIDER, members, hosts);
        assertEquals(
            reach.within(control, control.parse("named"), control.parse("members"), false),
            members);
        assertEquals(
            reach.within(control, control.parse("named"), control.parse("hosts"), false), hosts);
        assertEquals(
            reach.within(control, control.parse("named"), control.parse("everyone"), false), true);
      }
    }
  }

  @Test
  public void whoIsStillInvitedKeepsTheirTask() {
    Invitee before =
        new Invitee("C@x.example", Invitee.Need.REQUIRED, Invitee.Task.CAPTIONER, "en");
    Invitee told = new Invitee("c@x.example", Invitee.Need.OPTIONAL);
    Invitee other = new Invitee("o@x.example", Invitee.Need.OPTIONAL);
    Invitee anew =
        new Invitee("c@x.example", Invitee.Need.OPTIONAL, Invitee.Task.CONTRIBUTOR, null);
    assertEquals(
        Invitee.keepingTasks(List.of(told, other), List.of(before, other)),
        List.of(
            new Invitee("c@x.example", Invitee.Need.OPTIONAL, Invitee.Task.CAPTIONER, "en"),
            other));
    assertEquals(Invitee.keepingTasks(List.of(anew), List.of(before)), List.of(anew));
    assertEquals(Invitee.keepingTasks(List.of(other), List.of(before)), List.of(other));
    assertEquals(Invitee.keepingTasks(List.of(told), List.of(told)), List.of(told));
  }
}
