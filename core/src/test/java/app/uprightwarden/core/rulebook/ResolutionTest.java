package app.uprightwarden.core.rulebook;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.RandomMeetings;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Random;
import org.testng.annotations.Test;

/** Layers, modes, seals and the trace. */
public class ResolutionTest {
  private static final Control LOBBY = Control.LOBBY_BYPASS;

  private static Value lobby(String word) {
    return LOBBY.parse(word);
  }

  private static Layer layer(Scope scope, Rule... rules) {
    return new Layer(scope, List.of(rules), List.of());
  }

  private static ResolvedRule resolve(Rule... inOrder) {
    List<Layer> layers = new ArrayList<>();
    for (int i = 0; i < inOrder.length; i++) {
      layers.add(layer(i == 0 ? Scope.ORGANISATION : Scope.unit("u" + i), inOrder[i]));
    }
    return Objects.requireNonNull(ResolvedRulebook.resolve(LOBBY, layers));
  }

  private static List<TraceStep.Action> actions(ResolvedRule rule) {
    return rule.trace().stream().map(TraceStep::action).toList();
  }

  @Test
  public void aLaterRuleReplacesAnUnsealedOneWhole() {
    ResolvedRule rule =
        resolve(
            Rule.fix(LOBBY, lobby("hosts"), false, 4, "a"),
            Rule.suggest(LOBBY, lobby("anyone"), 1, "b"));
    assertEquals(rule.mode(), Mode.SUGGEST);
    assertNull(rule.limit());
    assertEquals(rule.importance(), 1);
    assertEquals(rule.source(), Scope.unit("u1"));
    assertEquals(actions(rule), List.of(TraceStep.Action.TAKEN, TraceStep.Action.REPLACED));
  }

  @Test
  public void againstASealedFixEverythingIsOverruled() {
    ResolvedRule rule =
        resolve(
            Rule.fix(LOBBY, lobby("members"), true, 2, "a"),
            Rule.suggest(LOBBY, lobby("named"), 1, "b"),
            Rule.fix(LOBBY, lobby("hosts"), false, 4, "c"));
    assertEquals(rule.limit(), lobby("members"));
    assertEquals(rule.importance(), 2);
    assertEquals(
        actions(rule),
        List.of(TraceStep.Action.TAKEN, TraceStep.Action.OVERRULED, TraceStep.Action.OVERRULED));
  }

  @Test
  public void aSealedBoundIsTightenedNeverLoosened() {
    ResolvedRule rule =
        resolve(
            Rule.bound(LOBBY, lobby("named"), lobby("guests"), true, 3, "a"),
            Rule.bound(LOBBY, lobby("members"), lobby("partners"), false, 4, "looser"),
            Rule.bound(LOBBY, lobby("named"), lobby("members"), false, 1, "tighter"),
            Rule.suggest(LOBBY, lobby("hosts"), 4, "start"));
    assertEquals(rule.limit(), lobby("members"));
    assertEquals(rule.start(), lobby("hosts"));
    assertEquals(rule.importance(), 3, "the larger of those taken");
    assertTrue(rule.sealed());
    assertEquals(
        actions(rule),
        List.of(
            TraceStep.Action.TAKEN,
            TraceStep.Action.OVERRULED,
            TraceStep.Action.TIGHTENED,
            TraceStep.Action.START_CHANGED));
    rule.trace().forEach(step -> assertFalse(step.words().isBlank()));
  }

  @Test
  public void aStartLooserThanTheLimitBecomesTheLimit() {
    ResolvedRule rule = resolve(Rule.bound(LOBBY, lobby("anyone"), lobby("named"), false, 2, ""));
    assertEquals(rule.start(), lobby("named"));
  }

  @Test
  public void invalidRulesAreRefused() {
    assertThrows(
        InvalidRuleException.class,
        () -> new Rule(LOBBY, Mode.SUGGEST, lobby("named"), null, true, 2, ""));
    Value on = Control.POLLS.parse("on");
    assertThrows(InvalidRuleException.class, () -> Rule.bound(Control.POLLS, on, on, false, 2, ""));
    assertThrows(InvalidRuleException.class, () -> Rule.fix(LOBBY, lobby("named"), false, 5, ""));
    Rule rule = Rule.suggest(LOBBY, lobby("named"), 2, "");
    assertThrows(InvalidRuleException.class, () -> layer(Scope.ORGANISATION, rule, rule));
  }

  /** Law: what the layers that apply say does not depend on layers that do not apply. */
  @Test
  public void layersThatDoNotApplyChangeNothing() {
    RandomMeetings random = new RandomMeetings(new Random(11));
    for (int i = 0; i < 200; i++) {
      Layer organisation = random.layer(Scope.ORGANISATION);
      Layer quay = random.layer(Scope.unit("quay"));
      Layer yard = random.layer(Scope.unit("yard"));
      Layer hearing = random.layer(Scope.kind("hearing"));
      List<Layer> with =
          new Rulebook(List.of(yard, hearing, organisation, quay)).applying(List.of("quay"), null);
      assertEquals(with, List.of(organisation, quay));
      assertEquals(
          ResolvedRulebook.of(with).rules(),
          ResolvedRulebook.of(List.of(organisation, quay)).rules());
    }
  }

  /** Law: once a limit is sealed, no layer below loosens it. */
  @Test
  public void aSealedLimitIsNeverLoosened() {
    RandomMeetings random = new RandomMeetings(new Random(12));
    int sealedSeen = 0;
    for (int i = 0; i < 400; i++) {
      List<Layer> layers =
          List.of(
              random.layer(Scope.ORGANISATION),
              random.layer(Scope.unit("quay")),
              random.layer(Scope.kind("hearing")));
      for (Control control : Control.all()) {
        Value sealedLimit = null;
        for (int depth = 1; depth <= layers.size(); depth++) {
          ResolvedRule rule = ResolvedRulebook.resolve(control, layers.subList(0, depth));
          if (sealedLimit != null) {
            assertTrue(control.within(Objects.requireNonNull(rule.limit()), sealedLimit));
          }
          if (rule != null && rule.sealed()) {
            sealedSeen++;
            sealedLimit = rule.limit();
          }
        }
      }
    }
    assertTrue(sealedSeen > 1000, "the law was tried " + sealedSeen + " times");
  }
}
