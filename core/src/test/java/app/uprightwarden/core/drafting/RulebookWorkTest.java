package app.uprightwarden.core.drafting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.time.LocalDateTime;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Rulebooks compared, put together, and held to a guarantee. */
public class RulebookWorkTest {
  private static Rule bound(Control control, Object start, Object limit) {
    return Rule.bound(control, control.parse(start), control.parse(limit), false, 2, "");
  }

  private static Rulebook book(Rule... rules) {
    return new Rulebook(List.of(new Layer(Scope.ORGANISATION, Arrays.asList(rules), List.of())));
  }

  @DataProvider
  public Object[][] changes() {
    Control chat = Control.CHAT;
    Rule before = bound(chat, "off", "in-session");
    Rule sealed = Rule.bound(chat, before.start(), before.limit(), true, 3, "why");
    return new Object[][] {
      {null, before, "[NEW]"},
      {before, null, "[GONE]"},
      {before, bound(chat, "off", "hosts-post"), "[TIGHTER]"},
      {before, bound(chat, "off", "always"), "[LOOSER]"},
      {before, bound(chat, "hosts-post", "in-session"), "[START]"},
      {before, sealed, "[SEALED, WEIGHTIER, REASON]"},
      {sealed, before, "[UNSEALED, LIGHTER, REASON]"},
      {before, Rule.fix(chat, chat.parse("off"), false, 2, ""), "[TIGHTER, FIXED]"},
      {Rule.fix(chat, chat.parse("off"), false, 2, ""), before, "[LOOSER, FREED]"},
      {Rule.suggest(chat, chat.parse("off"), 2, ""), before, "[BINDS]"},
      {before, Rule.suggest(chat, chat.parse("off"), 2, ""), "[SUGGESTS]"},
      {
        bound(Control.REGIONS, List.of("IE"), List.of("IE")),
        bound(Control.REGIONS, List.of("IE"), List.of("GB")),
        "[MOVED]"
      },
      {
        bound(chat, "off", "off"),
        Rule.fix(chat, chat.parse("in-session"), false, 2, ""),
        "[LOOSER, FIXED]" // what is fixed starts there: not said again
      },
    };
  }

  @Test(dataProvider = "changes")
  public void aRuleThatDiffersIsPutInWords(Rule before, Rule after, String words) {
    Comparison comparison =
        Comparison.of(
            before == null ? Rulebook.EMPTY : book(before),
            after == null ? Rulebook.EMPTY : book(after));
    assertEquals(comparison.rules().size(), 1);
    assertEquals(comparison.rules().get(0).words().toString(), words);
  }

  private static Guarantee guarantee(List<Persona> who, List<Right> rights, Level ceiling) {
    return new Guarantee("g", who, rights, ceiling, 2, "");
  }

  private static Rulebook promising(Guarantee guarantee) {
    return new Rulebook(List.of(new Layer(Scope.ORGANISATION, List.of(), List.of(guarantee))));
  }

  @Test
  public void aGuaranteeThatForbidsMoreIsTighter() {
    List<Persona> one = List.of(Persona.LINK_FINDER);
    List<Persona> two = List.of(Persona.LINK_FINDER, Persona.FORWARDED);
    List<Right> rights = List.of(Right.LISTEN);
    Guarantee base = guarantee(one, rights, Level.HOST_LETS_IN);
    assertEquals(words(base, guarantee(two, rights, Level.HOST_LETS_IN)), "[TIGHTER]");
    assertEquals(words(base, guarantee(one, rights, Level.NEVER)), "[TIGHTER]");
    assertEquals(words(base, guarantee(one, rights, Level.FREE)), "[LOOSER]");
    assertEquals(words(base, guarantee(two, rights, Level.FREE)), "[MOVED]");
    List<Right> more = List.of(Right.LISTEN, Right.CHAT);
    assertEquals(words(base, guarantee(one, more, Level.HOST_LETS_IN)), "[TIGHTER]");
    assertEquals(words(guarantee(one, more, Level.NEVER), base), "[LOOSER]");
  }

  @Test
  public void aGuaranteeInAnotherOrderOrForAnotherReasonForbidsTheSame() {
    List<Right> rights = List.of(Right.LISTEN);
    List<Persona> two = List.of(Persona.LINK_FINDER, Persona.FORWARDED);
    List<Persona> turned = List.of(Persona.FORWARDED, Persona.LINK_FINDER);
    Guarantee base = guarantee(two, rights, Level.NEVER);
    assertEquals(
        words(base, new Guarantee("g", turned, rights, Level.NEVER, 3, "why")),
        "[WEIGHTIER, REASON]");
    assertEquals(words(base, new Guarantee("g", two, rights, Level.NEVER, 1, "")), "[LIGHTER]");
  }

  @Test
  public void aGuaranteeIsNewOrGone() {
    Guarantee some = guarantee(List.of(Persona.FORWARDED), List.of(Right.LISTEN), Level.NEVER);
    Comparison made = Comparison.of(Rulebook.EMPTY, promising(some));
    assertEquals(made.guarantees().size(), 1);
    assertEquals(made.guarantees().get(0).words(), Set.of(Comparison.Word.NEW));
    assertEquals(
        Comparison.of(promising(some), Rulebook.EMPTY).guarantees().get(0).words(),
        Set.of(Comparison.Word.GONE));
  }

  private static String words(Guarantee before, Guarantee after) {
    return Comparison.of(promising(before), promising(after))
        .guarantees()
        .get(0)
        .words()
        .toString();
  }

  @Test
  public void workOnDifferentItemsIsPutTogether() {
    Rulebook base = book(bound(Control.CHAT, "off", "off"), bound(Control.REACTIONS, "off", "off"));
    Rulebook mine =
        book(bound(Control.CHAT, "off", "always"), bound(Control.REACTIONS, "off", "off"));
    Rulebook theirs =
        book(bound(Control.CHAT, "off", "off"), bound(Control.WHITEBOARD, "off", "off"));
    RulebookItems.Merged merged = RulebookItems.merge(base, mine, theirs);
    assertEquals(merged.collisions(), List.of());
    assertEquals(
        merged.rulebook(),
        book(bound(Control.WHITEBOARD, "off", "off"), bound(Control.CHAT, "off", "always")),
        "what they took away is gone, what either changed is there, in the table's order");
  }

  @Test
  public void workOnOneItemCollidesUnlessItIsTheSame() {
    Rulebook base = book(bound(Control.CHAT, "off", "off"));
    Rulebook mine = book(bound(Control.CHAT, "off", "always"));
    Rulebook theirs = book(bound(Control.CHAT, "off", "hosts-post"));
    RulebookItems.Merged merged = RulebookItems.merge(base, mine, theirs);
    assertEquals(merged.rulebook(), mine, "mine stands until I say otherwise");
    assertEquals(merged.collisions().size(), 1);
    assertEquals(merged.collisions().get(0).place().part(), "chat");
    assertEquals(RulebookItems.merge(base, mine, mine).collisions(), List.of());
  }

  @Test
  public void mergingLosesNothingOfEither() {
    for (int seed = 0; seed < 50; seed++) {
      RandomMeetings any = new RandomMeetings(new Random(seed));
      Rulebook base =
          new Rulebook(
              List.of(any.layer(Scope.ORGANISATION, 3, 2), any.layer(Scope.unit("u"), 3, 2)));
      Rulebook mine =
          new Rulebook(
              List.of(any.layer(Scope.ORGANISATION, 3, 1), any.layer(Scope.kind("k"), 3, 1)));
      Rulebook theirs =
          new Rulebook(
              List.of(any.layer(Scope.ORGANISATION, 3, 2), any.layer(Scope.unit("u"), 3, 2)));
      assertEquals(RulebookItems.merge(base, mine, base).rulebook(), RulebookItems.ordered(mine));
      assertEquals(
          RulebookItems.merge(base, base, theirs).rulebook(), RulebookItems.ordered(theirs));
      Set<RulebookItems.Place> one = places(RulebookItems.merge(base, mine, theirs));
      Set<RulebookItems.Place> other = places(RulebookItems.merge(base, theirs, mine));
      assertEquals(one, other, "where they collide does not depend on who is asked");
      assertTrue(
          Comparison.of(base, base).rules().isEmpty()
              && Comparison.of(base, base).guarantees().isEmpty());
    }
  }

  @Test
  public void whatIsPutTogetherHasOneOrder() {
    List<Persona> who = List.of(Persona.FORWARDED);
    List<Right> rights = List.of(Right.LISTEN);
    Guarantee b = new Guarantee("b", who, rights, Level.NEVER, 2, "");
    Guarantee a = new Guarantee("a", who, rights, Level.NEVER, 2, "");
    Rule chat = bound(Control.CHAT, "off", "off");
    Rule passcode = bound(Control.PASSCODE, "required", "required");
    Layer kind = new Layer(Scope.kind("k"), List.of(), List.of(b));
    Layer two = new Layer(Scope.unit("two"), List.of(chat), List.of());
    Layer one = new Layer(Scope.unit("one"), List.of(chat), List.of());
    Layer all = new Layer(Scope.ORGANISATION, List.of(chat, passcode), List.of(b, a));
    assertEquals(
        RulebookItems.merge(
                Rulebook.EMPTY, new Rulebook(List.of(kind, two)), new Rulebook(List.of(all, one)))
            .rulebook(),
        new Rulebook(
            List.of(
                new Layer(Scope.ORGANISATION, List.of(passcode, chat), List.of(a, b)),
                one,
                two,
                kind)));
  }

  private static Set<RulebookItems.Place> places(RulebookItems.Merged merged) {
    return merged.collisions().stream()
        .map(RulebookItems.Collision::place)
        .collect(java.util.stream.Collectors.toSet());
  }

  private static Cohort cohort(Object... values) {
    ControlValues set = ControlValues.NONE;
    for (int i = 0; i < values.length; i += 2) {
      Control control = (Control) values[i];
      set = set.with(control, control.parse(values[i + 1]));
    }
    return new Cohort(null, null, set, Reach.NOBODY, List.of());
  }

  @Test
  public void aGuaranteeNamesWhatCouldKeepIt() {
    Guarantee unheard =
        guarantee(List.of(Persona.LINK_FINDER), List.of(Right.LISTEN), Level.HOST_LETS_IN);
    // held at the door by hosts: kept
    Cohort kept =
        cohort(
            Control.WAITING_ROOM,
            "on",
            Control.LOBBY_BYPASS,
            "hosts",
            Control.DOOR_KEEPER,
            "hosts");
    // in, since anyone passes the waiting room
    Cohort open =
        cohort(
            Control.WAITING_ROOM,
            "on",
            Control.LOBBY_BYPASS,
            "anyone",
            Control.DOOR_KEEPER,
            "hosts");
    RegisterIndex index =
        RegisterIndex.EMPTY.with(
            List.of(
                new RegisterIndex.Fresh(1, 0, kept, "a", 1, 1),
                new RegisterIndex.Fresh(2, 0, open, "a", 9, 1),
                new RegisterIndex.Fresh(3, 0, open, "b", 4, 1)),
            Set.of());
    Layers free = new Layers(promising(unheard), unit -> List.of());
    GuaranteeStudy study = GuaranteeStudy.of(index, free, Scope.ORGANISATION, unheard, 10);
    assertEquals(study.applies(), 3);
    assertEquals(study.breaking(), 2);
    assertEquals(study.rows(), List.of(3L, 2L), "the soonest first");
    assertEquals(study.keptByNone(), 0);
    GuaranteeStudy.Keeper bypass =
        study.keepers().stream()
            .filter(k -> k.control() == Control.LOBBY_BYPASS)
            .findFirst()
            .orElseThrow();
    assertEquals(Control.LOBBY_BYPASS.plain(bypass.to()), "partners", "the loosest that will do");
    assertEquals(bypass.meetings(), 2);

    Layers fixed =
        new Layers(
            book(
                Rule.fix(Control.LOBBY_BYPASS, Control.LOBBY_BYPASS.parse("anyone"), false, 2, "")),
            unit -> List.of());
    assertTrue(
        GuaranteeStudy.of(index, fixed, Scope.ORGANISATION, unheard, 10).keepers().stream()
            .noneMatch(k -> k.control() == Control.LOBBY_BYPASS),
        "what is fixed cannot be moved");
  }

  private static GuaranteeStudy studied(
      Rulebook rulebook, Guarantee guarantee, RegisterIndex.Fresh... meetings) {
    return GuaranteeStudy.of(
        RegisterIndex.EMPTY.with(List.of(meetings), Set.of()),
        new Layers(rulebook, unit -> List.of()),
        Scope.ORGANISATION,
        guarantee,
        10);
  }

  /** Whoever finds the link is heard of nowhere. */
  private static Guarantee unheard() {
    return guarantee(List.of(Persona.LINK_FINDER), List.of(Right.LISTEN), Level.NEVER);
  }

  @Test
  public void whatIsNotComingAnyMoreStandsLast() {
    Cohort open = cohort();
    GuaranteeStudy study =
        studied(
            promising(unheard()),
            unheard(),
            new RegisterIndex.Fresh(1, 0, open, "a", -1, 0),
            new RegisterIndex.Fresh(2, 0, open, "a", 0, 1),
            new RegisterIndex.Fresh(3, 0, open, "a", 7, 1),
            new RegisterIndex.Fresh(4, 0, open, "b", 7, 1));
    assertEquals(study.rows(), List.of(2L, 3L, 4L, 1L));
    assertEquals(study.applies(), 4);
  }

  @Test
  public void anOccurrenceAloneBreaksIt() {
    Control signIn = Control.SIGN_IN;
    ControlValues known = ControlValues.NONE.with(signIn, signIn.parse("known-account"));
    ControlValues loose = known.with(signIn, signIn.parse("none"));
    Cohort cohort =
        new Cohort(
            null,
            null,
            known,
            Reach.NOBODY,
            List.of(new MeetingFacts.Change(LocalDateTime.parse("2027-03-01T09:00"), loose, 60)));
    GuaranteeStudy study =
        studied(
            promising(unheard()),
            unheard(),
            new RegisterIndex.Fresh(1, 0, cohort, "a", 1, 1),
            new RegisterIndex.Fresh(2, 0, cohort(signIn, "known-account"), "a", 1, 1));
    assertEquals(study.breaking(), 1);
    assertEquals(study.rows(), List.of(1L));
  }

  /** The most helpful first; of equally helpful ones, those that cost people least. */
  @Test
  public void whatHelpsMostMeetingsStandsFirst() {
    GuaranteeStudy study =
        studied(
            promising(unheard()),
            unheard(),
            new RegisterIndex.Fresh(1, 0, cohort(), "a", 1, 1),
            new RegisterIndex.Fresh(2, 0, cohort(Control.PASSCODE_IN_LINK, "separate"), "a", 1, 1));
    assertInOrder(study);
    assertEquals(
        study.keepers().stream().map(GuaranteeStudy.Keeper::control).toList(),
        List.of(Control.SIGN_IN, Control.REGISTRATION, Control.PASSCODE),
        study.keepers().toString());
    Guarantee unshared =
        guarantee(List.of(Persona.OTHER_MEMBER), List.of(Right.SHARE_SCREEN), Level.NEVER);
    GuaranteeStudy sharing =
        studied(promising(unshared), unshared, new RegisterIndex.Fresh(1, 0, cohort(), "a", 1, 1));
    assertInOrder(sharing);
    assertEquals(sharing.keepers().get(0).control().friction(), 1, sharing.keepers().toString());
    assertTrue(
        sharing.keepers().get(sharing.keepers().size() - 1).control().friction() > 1,
        sharing.keepers().toString());
  }

  private static void assertInOrder(GuaranteeStudy study) {
    for (int i = 1; i < study.keepers().size(); i++) {
      GuaranteeStudy.Keeper a = study.keepers().get(i - 1);
      GuaranteeStudy.Keeper b = study.keepers().get(i);
      int order = b.meetings() - a.meetings();
      order = order == 0 ? a.control().friction() - b.control().friction() : order;
      order = order == 0 ? a.control().compareTo(b.control()) : order;
      assertTrue(order < 0, a + " stands before " + b);
    }
  }

  @Test
  public void aPasscodeOfUnknownLengthKeepsNothingWhereARuleAsksForIt() {
    Cohort apart = cohort(Control.PASSCODE_IN_LINK, "separate");
    Rulebook long8 =
        book(
            Rule.bound(
                Control.PASSCODE_LENGTH,
                Control.PASSCODE_LENGTH.parse(8),
                Control.PASSCODE_LENGTH.parse(8),
                false,
                2,
                ""));
    RegisterIndex.Fresh meeting = new RegisterIndex.Fresh(1, 0, apart, "a", 1, 1);
    assertTrue(controls(studied(Rulebook.EMPTY, unheard(), meeting)).contains(Control.PASSCODE));
    assertFalse(controls(studied(long8, unheard(), meeting)).contains(Control.PASSCODE));
  }

  private static List<Control> controls(GuaranteeStudy study) {
    return study.keepers().stream().map(GuaranteeStudy.Keeper::control).toList();
  }
}
