package app.uprightwarden.core.remedy;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.RandomRegister;
import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.drafting.Cohort;
import app.uprightwarden.core.drafting.GuaranteeStudy;
import app.uprightwarden.core.drafting.Layers;
import app.uprightwarden.core.drafting.RegisterIndex;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.service.Means;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.Test;

/**
 * What is said to mend a meeting mends it: the meeting is changed, its facts are made anew from its
 * names, and it is judged again. Invented meetings.
 */
public class NamesTest {
  private static final Set<String> MENDED =
      Set.of("beyond-limit", "not-evidenced", "guarantee-broken");

  private final Directory directory = RandomRegister.directory();

  private FactsBuilder builder(Rulebook rulebook) {
    return new FactsBuilder(directory, rulebook, Set.of(), new MeetingFacts.Plan(100, 240));
  }

  /** What the three checks find, by occurrence, check and subject. */
  private Set<String> found(Rulebook rulebook, Meeting meeting) {
    Set<String> found = new HashSet<>();
    new Auditor()
        .audit(
            builder(rulebook).build(meeting),
            (of, occurrence, detail) -> {
              if (MENDED.contains(detail.check().id())) {
                found.add(occurrence + "|" + detail.check().id() + "|" + detail.subject());
              }
            });
    return found;
  }

  private static Meeting alone(Meeting meeting) {
    return meeting.withExceptions(List.of(), List.of());
  }

  private Remedy cheapest(Rulebook rulebook, Meeting meeting) {
    MeetingFacts facts = builder(rulebook).build(meeting);
    return RemedySearch.cheapest(new Auditor().judge(facts), facts.reach());
  }

  private static Meeting applied(Meeting meeting, Remedy remedy) {
    ControlValues values = meeting.controls();
    for (Remedy.Change change : remedy.changes()) {
      values = values.with(change.control(), change.to());
    }
    return meeting.withControls(values);
  }

  @Test
  public void completeIsCompleteWithNames() {
    Random random = new Random(14);
    RandomMeetings any = new RandomMeetings(random);
    int complete = 0;
    int byName = 0;
    for (int i = 0; i < 60; i++) {
      Rulebook rulebook = RandomRegister.rulebook(any);
      for (Meeting each : RandomRegister.meetings(any, random, 25)) {
        Meeting meeting = alone(each);
        Remedy remedy = cheapest(rulebook, meeting);
        Set<String> left = found(rulebook, applied(meeting, remedy));
        assertEquals(left.isEmpty(), remedy.complete(), meeting + " " + remedy + " " + left);
        complete += remedy.complete() ? 1 : 0;
        byName +=
            remedy.changes().stream().anyMatch(c -> "named".equals(c.control().plain(c.to())))
                ? 1
                : 0;
      }
    }
    assertTrue(complete > 500 && byName > 20, complete + " complete, " + byName + " by name");
  }

  /** A listed presenter from outside: by name is not within members there. */
  @Test
  public void byNameIsNoRemedyWhereTheNameIsAnOutsiders() {
    Control role = Control.PRESENTER_ROLE;
    Guarantee guarantee =
        new Guarantee(
            "g", List.of(Persona.OTHER_MEMBER), List.of(Right.MUTE_OTHERS), Level.NEVER, 3, "");
    Rulebook rulebook =
        new Rulebook(
            List.of(
                new Layer(
                    Scope.ORGANISATION,
                    List.of(
                        Rule.bound(
                            role, role.parse("members"), role.parse("members"), false, 3, "")),
                    List.of(guarantee))));
    Random random = new Random(1);
    Meeting meeting =
        RandomRegister.meetings(new RandomMeetings(random), random, 40).stream()
            .filter(m -> m.presenters().equals(List.of("x@c.example")))
            .map(NamesTest::alone)
            .findFirst()
            .orElseThrow()
            .withControls(ControlValues.NONE.with(role, role.parse("everyone")));
    Remedy remedy = cheapest(rulebook, meeting);
    assertTrue(remedy.complete());
    assertEquals(found(rulebook, applied(meeting, remedy)), Set.of(), remedy.toString());
  }

  /**
   * Letting in by name covers people whom no standing covers: where a service cannot keep all but
   * hosts waiting, the milder of the two it has keeps what the stricter would break.
   */
  @Test
  public void theStricterOfTwoIsNotTriedAlone() {
    Control bypass = Control.LOBBY_BYPASS;
    ControlValues values =
        ControlValues.NONE
            .with(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"))
            .with(bypass, bypass.parse("anyone"))
            .with(Control.DOOR_KEEPER, Control.DOOR_KEEPER.parse("hosts"));
    Guarantee guarantee =
        new Guarantee(
            "g", List.of(Persona.FORWARDED), List.of(Right.LISTEN), Level.HOST_LETS_IN, 3, "");
    ResolvedRulebook rules =
        ResolvedRulebook.of(List.of(new Layer(Scope.ORGANISATION, List.of(), List.of(guarantee))));
    Set<Means.Place> places = Set.of(Means.Place.MEETING);
    Means means =
        new Means(
            Map.of(
                bypass,
                new Means.Holds(
                    Set.of(bypass.parse("anyone"), bypass.parse("members"), bypass.parse("named")),
                    Map.of(),
                    places,
                    places)));
    Remedy remedy =
        RemedySearch.cheapest(
            new Auditor().judge(rules, values, Reach.NOBODY), Reach.NOBODY, Set.of(), means);
    assertEquals(
        remedy.changes(),
        List.of(new Remedy.Change(bypass, bypass.parse("anyone"), bypass.parse("members"), false)));
    assertTrue(remedy.complete());
  }

  private static Meeting tightened(Meeting meeting, Control control, Value value) {
    List<OccurrenceChange> changes = new ArrayList<>();
    for (OccurrenceChange change : meeting.changes()) {
      Value own = change.controls().get(control);
      ControlValues over =
          own == null || control.within(own, value)
              ? change.controls()
              : change.controls().with(control, value);
      changes.add(new OccurrenceChange(change.at(), change.start(), change.minutes(), over));
    }
    return meeting
        .withControls(meeting.controls().with(control, value))
        .withExceptions(meeting.exDates(), changes);
  }

  @Test
  public void oneControlThatWouldKeepItDoes() {
    Random random = new Random(15);
    RandomMeetings any = new RandomMeetings(random);
    int kept = 0;
    for (int i = 0; i < 25; i++) {
      Rulebook rulebook = RandomRegister.rulebook(any);
      List<Meeting> meetings = RandomRegister.meetings(any, random, 30);
      RegisterIndex.Builder index = new RegisterIndex.Builder();
      for (int row = 0; row < meetings.size(); row++) {
        Meeting m = meetings.get(row);
        index.add(
            new RegisterIndex.Fresh(
                row, 0, Cohort.of(m, directory), Reach.of(m, directory), m.host(), row, 1));
      }
      Layers layers = new Layers(rulebook, directory::unitPath);
      Layer layer = rulebook.layers().get(0);
      for (Guarantee guarantee : layer.guarantees()) {
        GuaranteeStudy study =
            GuaranteeStudy.of(index.build(), layers, layer.scope(), guarantee, 100);
        String broken = "|guarantee-broken|" + guarantee.id();
        for (GuaranteeStudy.Keeper keeper : study.keepers()) {
          int does = 0;
          for (long row : study.rows()) {
            Meeting before = meetings.get((int) row);
            if (keeper
                .control()
                .within(before.controls().effective(keeper.control()), keeper.to())) {
              continue;
            }
            Set<String> then = found(rulebook, tightened(before, keeper.control(), keeper.to()));
            Set<String> was = found(rulebook, before);
            boolean isNew =
                then.stream()
                    .anyMatch(
                        one ->
                            one.endsWith("|" + keeper.control().id())
                                || one.contains("|not-evidenced|") && !was.contains(one));
            does += !isNew && then.stream().noneMatch(one -> one.endsWith(broken)) ? 1 : 0;
          }
          assertTrue(does >= keeper.meetings(), keeper + " does " + does);
          kept += does;
        }
      }
    }
    assertTrue(kept > 100, "kept " + kept);
  }
}
