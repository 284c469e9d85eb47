package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertSame;

import app.uprightwarden.core.MeetingMaker;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rulebook;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/** What an audit is told of a meeting's people. */
public class FactsBuilderTest {
  private static final LocalDateTime START = LocalDateTime.of(2026, 5, 1, 9, 0);

  private static final Directory DIRECTORY =
      new Directory(
          List.of(
              new Person("host@x.example", "H", Standing.MEMBER, null, true),
              new Person("co@x.example", "C", Standing.MEMBER, null, true),
              new Person("guest@y.example", "G", Standing.GUEST, null, true)),
          List.of("partner.example"),
          Map.of(),
          Map.of(
              "list:crew",
                  List.of("One@x.example", "named@x.example", "CO@x.example", "Host@x.example"),
              "space:quay", List.of("Two@x.example", "one@x.example")));

  private static Meeting meeting(@Nullable String kind, @Nullable String space) {
    return new MeetingMaker(START, ZoneOffset.UTC)
        .kind(kind)
        .host("Host@x.example")
        .people(
            List.of("Co@x.example", "Guest@y.example", "co@partner.example"),
            List.of("NAMED@x.example", "TWO@x.example", "Co@X.example", "elsewhere@x.example"),
            List.of(
                new Invitee("Named@x.example", Invitee.Need.REQUIRED),
                new Invitee("p@partner.example", Invitee.Need.REQUIRED),
                new Invitee("z@away.example", Invitee.Need.OPTIONAL)))
        .lists("crew")
        .space(space)
        .recurrence("FREQ=DAILY")
        .controls(ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("off")))
        .changes(
            new OccurrenceChange(
                START.plusDays(1),
                null,
                90,
                ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("always"))))
        .make();
  }

  private static MeetingFacts facts(@Nullable String kind, @Nullable String space) {
    return new FactsBuilder(
            DIRECTORY, Rulebook.EMPTY, Set.of("inquiry"), new MeetingFacts.Plan(3, 120))
        .build(meeting(kind, space));
  }

  @Test
  public void eachIsCountedOnceHoweverOftenAndWrittenHowever() {
    MeetingFacts facts = facts(null, "quay");
    // named, two others and two of lists, who are neither named nor hosts; co and host by the list
    assertEquals(facts.invited(), 7);
    assertEquals(facts.listedOnly(), 2);
    assertEquals(facts(null, null).listedOnly(), 1, "without the space");
    assertEquals(facts.coHosts(), 3);
    assertEquals(facts.presenters(), 4);
  }

  @Test
  public void coHostsWhoAreNoMembersAndPresentersWhoAreNotInvitedAreNamed() {
    MeetingFacts facts = facts(null, "quay");
    assertEquals(facts.foreignCoHosts(), List.of("Guest@y.example", "co@partner.example"));
    assertEquals(facts.strayPresenters(), List.of("elsewhere@x.example"));
    assertEquals(
        facts(null, null).strayPresenters(), List.of("TWO@x.example", "elsewhere@x.example"));
  }

  @Test
  public void strangersAreThoseTheDirectoryDoesNotKnowWhereItIsConfidential() {
    assertEquals(facts(null, null).strangers(), List.of());
    assertEquals(facts("briefing", null).strangers(), List.of());
    assertEquals(
        facts("inquiry", null).strangers(),
        List.of("named@x.example", "one@x.example", "p@partner.example", "z@away.example"));
  }

  @Test
  public void aDateHasItsOwnValues() {
    MeetingFacts facts = facts(null, null);
    assertEquals(facts.valuesAt(START.plusDays(1)).get(Control.CHAT), Control.CHAT.parse("always"));
    assertEquals(facts.valuesAt(START).get(Control.CHAT), Control.CHAT.parse("off"));
    assertEquals(facts.valuesAt(null), facts.values());
  }

  /** What is judged once for all that are equal must differ in nothing. */
  @Test
  public void subjectsAreEqualWhereNothingIsOther() {
    ResolvedRulebook rules = ResolvedRulebook.of(List.of());
    Reach reach = new Reach(true, Standing.GUEST, true, false);
    ControlValues values = ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("off"));
    Subject one = new Subject(rules, values, reach);
    assertEquals(new Subject(rules, values, new Reach(true, Standing.GUEST, true, false)), one);
    assertEquals(new Subject(rules, values, reach).hashCode(), one.hashCode());
    for (Reach other :
        List.of(
            new Reach(false, Standing.GUEST, true, false),
            new Reach(true, Standing.PARTNER, true, false),
            new Reach(true, Standing.GUEST, false, false),
            new Reach(true, Standing.GUEST, true, true))) {
      assertNotEquals(new Subject(rules, values, other), one);
    }
    assertNotEquals(new Subject(ResolvedRulebook.of(List.of()), values, reach), one);
    assertNotEquals(new Subject(rules, ControlValues.NONE, reach), one);
    assertNotEquals(one, "something else");
  }

  @Test
  public void whatIsEqualIsKeptOnce() {
    FactsBuilder builder =
        new FactsBuilder(DIRECTORY, Rulebook.EMPTY, Set.of(), new MeetingFacts.Plan(3, 120));
    MeetingFacts one = builder.build(meeting(null, null));
    MeetingFacts other = builder.build(meeting(null, null));
    assertSame(one.values(), other.values());
    assertSame(one.subject(), other.subject());
    assertSame(one.rules(), other.rules());
  }
}
