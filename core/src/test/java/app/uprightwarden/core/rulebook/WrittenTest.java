package app.uprightwarden.core.rulebook;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.expectThrows;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** How layers, guarantees and steps are written and read, and which rules are which. */
public class WrittenTest {
  private static Rule rule(Control control, Mode mode, Object value, boolean sealed) {
    Value limit = control.parse(value);
    return new Rule(control, mode, limit, mode == Mode.SUGGEST ? null : limit, sealed, 3, "");
  }

  @Test
  public void aLayerReadsBackAsItIsWritten() {
    for (Scope scope : List.of(Scope.ORGANISATION, Scope.unit("pilotage"), Scope.kind("board"))) {
      assertEquals(Scope.parse(scope.toString()), scope);
    }
    assertEquals(Scope.parse("unit:a:b"), Scope.unit("a:b"), "the first colon parts them");
    assertEquals(Scope.parse("unit:x").toString(), "unit:x");
  }

  @DataProvider
  public Object[][] noLayers() {
    return new Object[][] {{""}, {"unit"}, {"unit:"}, {":x"}, {"host:x"}, {"organisation:x"}};
  }

  @Test(dataProvider = "noLayers")
  public void whatIsNoLayerIsRefused(String text) {
    assertThrows(IllegalArgumentException.class, () -> Scope.parse(text));
  }

  @Test
  public void rulesAreSortedByWhatTheyBind() {
    ResolvedRulebook rules =
        ResolvedRulebook.of(
            List.of(
                new Layer(
                    Scope.ORGANISATION,
                    List.of(
                        rule(Control.CHAT, Mode.BOUND, "in-session", false),
                        rule(Control.POLLS, Mode.FIX, "on", false),
                        rule(Control.WAITING_ROOM, Mode.FIX, "on", false),
                        rule(Control.SIGN_IN, Mode.SUGGEST, "none", false)),
                    List.of())));
    assertEquals(
        controls(rules.governing()), controls(Control.WAITING_ROOM, Control.CHAT, Control.POLLS));
    assertEquals(controls(rules.governingMatrix()), controls(Control.WAITING_ROOM, Control.CHAT));
    assertEquals(controls(rules.fixed()), controls(Control.WAITING_ROOM, Control.POLLS));
    assertEquals(rules.rules().size(), 4);
  }

  private static List<Control> controls(List<ResolvedRule> rules) {
    return rules.stream().map(ResolvedRule::control).toList();
  }

  private static List<Control> controls(Control... all) {
    return List.of(all);
  }

  @DataProvider
  public Object[][] steps() {
    return new Object[][] {
      {Mode.FIX, true, TraceStep.Action.TAKEN, "The unit x fixes on, sealed."},
      {Mode.BOUND, false, TraceStep.Action.TAKEN, "The unit x sets the limit on."},
      {
        Mode.SUGGEST,
        false,
        TraceStep.Action.REPLACED,
        "The unit x suggests on in place of the rule above it."
      },
      {
        Mode.FIX,
        true,
        TraceStep.Action.REPLACED,
        "The unit x fixes on in place of the rule above it, and seals it."
      },
      {
        Mode.BOUND,
        true,
        TraceStep.Action.TIGHTENED,
        "The unit x sets the limit on, within the seal above it."
      },
      {
        Mode.FIX,
        false,
        TraceStep.Action.OVERRULED,
        "The unit x fixes on, but a sealed rule above it stands."
      },
    };
  }

  @Test(dataProvider = "steps")
  public void aStepIsSaidInASentence(
      Mode mode, boolean sealed, TraceStep.Action action, String words) {
    Rule rule = rule(Control.WAITING_ROOM, mode, "on", sealed);
    TraceStep step = new TraceStep(Scope.unit("x"), rule, action);
    assertEquals(step.words(), words);
    assertEquals(step.words("Pilots"), words.replace("The unit x", "Pilots"));
  }

  @Test
  public void whoeverSaidItIsCalledByWhatTheyAre() {
    Rule rule = rule(Control.WAITING_ROOM, Mode.FIX, "on", false);
    TraceStep.Action taken = TraceStep.Action.TAKEN;
    assertEquals(
        new TraceStep(Scope.ORGANISATION, rule, taken).words(), "The organisation fixes on.");
    assertEquals(new TraceStep(Scope.kind("k"), rule, taken).words(), "The kind k fixes on.");
    assertEquals(TraceStep.Action.START_CHANGED.id(), "start-changed");
  }

  @Test
  public void aGuaranteeIsASentenceAndNamesSomebodyAndSomething() {
    List<Persona> who = List.of(Persona.GUEST, Persona.PARTNER);
    List<Right> rights = List.of(Right.RECORD);
    String nobody =
        "Nobody who "
            + Persona.GUEST.phrase()
            + " or "
            + Persona.PARTNER.phrase()
            + " may "
            + Right.RECORD.phrase();
    assertEquals(new Guarantee("g", who, rights, Level.NEVER, 4, "").sentence(), nobody + ".");
    assertEquals(
        new Guarantee("g", who, rights, Level.HOST_LETS_IN, 1, "").sentence(),
        nobody + ", except " + Level.HOST_LETS_IN.phrase() + ".");
    assertEquals(wrong(who, rights, 0), "importance");
    assertEquals(wrong(who, rights, 5), "importance");
    assertEquals(wrong(List.of(), rights, 3), "who");
    assertEquals(wrong(who, List.of(), 3), "rights");
  }

  private static String wrong(List<Persona> who, List<Right> rights, int importance) {
    return expectThrows(
            InvalidRuleException.class,
            () -> new Guarantee("g", who, rights, Level.NEVER, importance, ""))
        .part();
  }

  @Test
  public void aLevelIsFoundByItsId() {
    for (Level level : Level.all()) {
      assertEquals(Level.byId(level.id()), level);
    }
    assertEquals(Level.HOST_LETS_IN.id(), "host-lets-in");
  }
}
