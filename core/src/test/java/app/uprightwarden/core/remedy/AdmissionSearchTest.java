package app.uprightwarden.core.remedy;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.core.remedy.AdmissionSearch.Goal;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/** Invented values; the least ways are held to trying everything, in a way of its own. */
public class AdmissionSearchTest {
  private static ControlValues values(Map<Control, Object> plain) {
    ControlValues values = ControlValues.NONE;
    for (Map.Entry<Control, Object> each : plain.entrySet()) {
      values = values.with(each.getKey(), each.getKey().parse(each.getValue()));
    }
    return values;
  }

  private static Function<ControlValues, Joiner> as(Persona persona) {
    return values -> Matrix.joiner(persona, values);
  }

  private static List<String> told(List<AdmissionSearch.Way> ways) {
    return ways.stream()
        .map(
            way ->
                way.changes().stream()
                    .map(c -> c.control().id() + " " + c.control().label(c.to()))
                    .toList()
                    .toString())
        .toList();
  }

  @Test
  public void aStrangerIsKeptOutByTheCheapestOfTheWays() {
    ControlValues open = values(Map.of(Control.PASSCODE, "required"));
    List<AdmissionSearch.Way> ways =
        AdmissionSearch.least(open, as(Persona.LINK_FINDER), Moment.IN_SESSION, Goal.REFUSED, 5);
    assertEquals(told(ways), List.of("[passcode-in-link apart from the link]"));
    assertEquals(ways.get(0).friction(), 1);
    assertEquals(ways.get(0).beside(), List.of());
  }

  @Test
  public void thePasscodeAloneDoesNotKeepOutWhoFindsItInTheLink() {
    List<AdmissionSearch.Way> ways =
        AdmissionSearch.least(
            ControlValues.NONE, as(Persona.LINK_FINDER), Moment.IN_SESSION, Goal.REFUSED, 9);
    // signing in would cost three; closing the door at the start costs one, and the invited too
    assertEquals(
        told(ways),
        List.of(
            "[passcode required, passcode-in-link apart from the link]",
            "[late-entry at the start]"));
    assertEquals(
        ways.get(1).beside(),
        List.of(Persona.INVITED_MEMBER, Persona.INVITED_OUTSIDER, Persona.LISTED_MEMBER));
  }

  @Test
  public void whoHostsIsAlwaysIn() {
    Function<ControlValues, Joiner> host =
        values -> new Joiner(Standing.MEMBER, Tie.HOST, Route.APP, true, false, null, false);
    assertTrue(
        AdmissionSearch.least(ControlValues.NONE, host, Moment.IN_SESSION, Goal.NOT_IN, 5)
            .isEmpty());
  }

  @Test
  public void noChangeOpensALockedMeeting() {
    assertTrue(
        AdmissionSearch.least(
                ControlValues.NONE,
                as(Persona.INVITED_MEMBER),
                new Moment(5, true, true),
                Goal.IN,
                5)
            .isEmpty());
  }

  @Test
  public void theLeastIsTheLeastOfEverything() {
    Random random = new Random(7);
    RandomMeetings any = new RandomMeetings(random);
    int found = 0;
    int ordered = 0;
    for (int i = 0; i < 1500; i++) {
      ControlValues values = any.values();
      Function<ControlValues, Joiner> joiner =
          as(Persona.all().get(random.nextInt(Persona.all().size())));
      Moment moment = new Moment(random.nextInt(91) - 30, random.nextBoolean(), false);
      Goal goal = Goal.values()[random.nextInt(3)];
      List<AdmissionSearch.Way> ways = AdmissionSearch.least(values, joiner, moment, goal, 4);
      int bound = ways.stream().mapToInt(AdmissionSearch.Way::friction).min().orElse(4);
      for (AdmissionSearch.Way way : ways) {
        found++;
        ControlValues then = values;
        int friction = 0;
        for (Remedy.Change change : way.changes()) {
          then = then.with(change.control(), change.to());
          friction += change.control().friction();
        }
        assertTrue(meets(goal, then, joiner, moment), way + " of " + values);
        assertEquals(way.friction(), friction);
        assertEquals(way.exposureTenths(), Exposure.of(Matrix.of(then)).scoreTenths());
        for (Remedy.Change needless : way.changes()) {
          ControlValues without = then.with(needless.control(), values.get(needless.control()));
          assertFalse(meets(goal, without, joiner, moment), needless + " is needless");
        }
        assertEquals(way.beside(), wrong(goal, values, then, moment), way + " of " + values);
        if (way.changes().size() == 1) {
          assertFalse(
              nearerDoes(way.changes().get(0), values, joiner, moment, goal), way + " is far");
        }
      }
      for (int w = 1; w < ways.size(); w++) {
        AdmissionSearch.Way a = ways.get(w - 1);
        AdmissionSearch.Way b = ways.get(w);
        if (a.friction() == b.friction() && a.beside().size() == b.beside().size()) {
          int order = a.changes().size() - b.changes().size();
          order = order == 0 ? a.exposureTenths() - b.exposureTenths() : order;
          assertTrue(order <= 0, a + " stands before " + b);
          ordered++;
        }
      }
      if (!meets(goal, values, joiner, moment)) {
        assertFalse(
            cheaper(values, joiner, moment, goal, bound),
            "something cheaper than " + ways + " meets " + goal + " at " + moment);
      }
    }
    assertTrue(found > 800 && ordered > 50, "enough to tell: " + found + ", " + ordered);
  }

  /** Whom it turns out wrong for, besides the joiner. */
  private static List<Persona> wrong(
      Goal goal, ControlValues before, ControlValues after, Moment moment) {
    List<Persona> wrong = new ArrayList<>();
    for (Persona persona : Persona.all()) {
      boolean was = meets(Goal.IN, before, as(persona), moment);
      boolean is = meets(Goal.IN, after, as(persona), moment);
      if (goal == Goal.IN && !persona.invited() && !was && is
          || goal != Goal.IN && persona.invited() && was && !is) {
        wrong.add(persona);
      }
    }
    return wrong;
  }

  /** Whether a word of the same ladder, fewer steps away, would do. */
  private static boolean nearerDoes(
      Remedy.Change change,
      ControlValues values,
      Function<ControlValues, Joiner> joiner,
      Moment moment,
      Goal goal) {
    if (!(change.control().scale() instanceof Scale.Words words)) {
      return false;
    }
    List<Value> ladder = List.copyOf(words.values());
    int from = ladder.indexOf(values.effective(change.control()));
    int steps = Math.abs(ladder.indexOf(change.to()) - from);
    for (int i = 0; i < ladder.size(); i++) {
      if (Math.abs(i - from) < steps
          && meets(goal, values.with(change.control(), ladder.get(i)), joiner, moment)) {
        return true;
      }
    }
    return false;
  }

  @Test
  public void whoJoinsFromElsewhereIsLetInByTheirRegion() {
    ControlValues irish = values(Map.of(Control.REGIONS, List.of("IE")));
    Function<ControlValues, Joiner> norwegian = some -> from("NO");
    List<AdmissionSearch.Way> ways =
        AdmissionSearch.least(irish, norwegian, Moment.IN_SESSION, Goal.IN, 5);
    assertEquals(
        ways.get(0).changes(),
        List.of(
            new Remedy.Change(
                Control.REGIONS,
                Control.REGIONS.parse(List.of("IE")),
                Control.REGIONS.parse(List.of("IE", "NO")),
                false)));
    assertTrue(
        AdmissionSearch.least(ControlValues.NONE, norwegian, Moment.IN_SESSION, Goal.REFUSED, 9)
            .stream()
            .flatMap(way -> way.changes().stream())
            .noneMatch(change -> change.control() == Control.REGIONS),
        "a list of regions is never begun for one person's sake");
    assertTrue(
        AdmissionSearch.least(irish, some -> from(null), new Moment(0, true, true), Goal.IN, 9)
            .isEmpty(),
        "where nobody knows whence they come no region helps");
  }

  private static Joiner from(@Nullable String region) {
    return new Joiner(Standing.MEMBER, Tie.NAMED, Route.APP, true, false, region, false);
  }

  private static boolean meets(
      Goal goal, ControlValues values, Function<ControlValues, Joiner> joiner, Moment moment) {
    Passage.Outcome outcome = Door.pass(values, joiner.apply(values), moment).outcome();
    return switch (goal) {
      case IN -> outcome == Passage.Outcome.IN;
      case NOT_IN -> outcome != Passage.Outcome.IN;
      case REFUSED -> outcome == Passage.Outcome.REFUSED;
    };
  }

  /** Whether one or two controls of the whole table, less dear than the bound, would do. */
  private static boolean cheaper(
      ControlValues values,
      Function<ControlValues, Joiner> joiner,
      Moment moment,
      Goal goal,
      int bound) {
    for (Control first : Control.matrix()) {
      for (Value one : every(first)) {
        ControlValues with = values.with(first, one);
        if (first.friction() < bound && meets(goal, with, joiner, moment)) {
          return true;
        }
        for (Control second : Control.matrix()) {
          if (first.friction() + second.friction() >= bound || second.compareTo(first) <= 0) {
            continue;
          }
          for (Value two : every(second)) {
            if (meets(goal, with.with(second, two), joiner, moment)) {
              return true;
            }
          }
        }
      }
    }
    return false;
  }

  private static List<Value> every(Control control) {
    if (control.scale() instanceof Scale.Words words) {
      return List.copyOf(words.values());
    }
    if (control == Control.AUDIO_ROUTES) {
      return List.of(
          new Value.Names(List.of("computer")), new Value.Names(List.of("computer", "phone")));
    }
    List<Value> some = new ArrayList<>();
    if (control == Control.EARLY_ENTRY) {
      for (int minutes = 0; minutes <= 30; minutes++) {
        some.add(new Value.Amount(minutes));
      }
    }
    return some;
  }
}
