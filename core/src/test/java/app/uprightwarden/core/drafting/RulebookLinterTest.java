package app.uprightwarden.core.drafting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.testng.annotations.Test;

/** Each remark on a rulebook, made to fire and made not to; the values are invented. */
public class RulebookLinterTest {
  private static final Scope PILOTS = Scope.unit("pilots");
  private static final Scope HEARING = Scope.kind("hearing");

  private static Value v(Control control, Object plain) {
    return control.parse(plain);
  }

  private static Rule bound(Control control, Object start, Object limit, boolean sealed) {
    return Rule.bound(control, v(control, start), v(control, limit), sealed, 2, "");
  }

  private static Rule fix(Control control, Object value, boolean sealed) {
    return Rule.fix(control, v(control, value), sealed, 2, "");
  }

  private static Layer layer(Scope scope, Rule... rules) {
    return new Layer(scope, Arrays.asList(rules), List.of());
  }

  private static List<Remark> remarks(Layer... layers) {
    Rulebook book = new Rulebook(Arrays.asList(layers));
    Layers resolved = new Layers(book, unit -> unit == null ? List.of() : List.of("root", unit));
    return RulebookLinter.remarks(
        book, List.of("root", "pilots", "berths"), List.of("hearing"), resolved, Scope::toString);
  }

  private static List<Remark> of(Remark.Kind kind, Layer... layers) {
    return remarks(layers).stream().filter(r -> r.kind() == kind).toList();
  }

  @Test
  public void aRuleUnderASealThatOverrulesItIsVoid() {
    Layer sealed = layer(Scope.ORGANISATION, fix(Control.PASSCODE, "required", true));
    List<Remark> found =
        of(Remark.Kind.VOID, sealed, layer(PILOTS, fix(Control.PASSCODE, "none", false)));
    assertEquals(found.size(), 1);
    assertEquals(found.get(0).layer(), PILOTS);
    assertEquals(found.get(0).control(), Control.PASSCODE);
    assertEquals(
        found.get(0).text(), "This rule does nothing: organisation has sealed “required”.");
    assertEquals(
        of(
                Remark.Kind.VOID,
                layer(Scope.ORGANISATION, bound(Control.CHAT, "off", "in-session", true)),
                layer(PILOTS, bound(Control.CHAT, "off", "off", false)))
            .size(),
        0,
        "tightening under a seal counts");
  }

  @Test
  public void whatIsVoidForSomeSaysForWhom() {
    List<Remark> found =
        of(
            Remark.Kind.VOID,
            layer(PILOTS, fix(Control.CHAT, "off", true)),
            layer(HEARING, fix(Control.CHAT, "always", false)));
    assertEquals(found.size(), 1);
    assertTrue(
        found.get(0).text().endsWith("(For unit:pilots + kind:hearing.)"), found.get(0).text());
  }

  /** Three are named, the others counted; where it holds for all, nobody is. */
  @Test
  public void whatIsVoidForManyNamesThree() {
    List<String> units = List.of("a", "b", "c", "d");
    List<Layer> layers = new ArrayList<>();
    layers.add(layer(Scope.unit("root"), fix(Control.CHAT, "off", true)));
    for (String unit : units) {
      layers.add(layer(Scope.unit(unit), fix(Control.REACTIONS, "off", false)));
    }
    layers.add(layer(HEARING, fix(Control.CHAT, "always", false)));
    Rulebook book = new Rulebook(layers);
    Layers resolved = new Layers(book, unit -> unit == null ? List.of() : List.of("root", unit));
    String text =
        RulebookLinter.remarks(book, units, List.of("hearing"), resolved, Scope::toString).stream()
            .filter(r -> r.kind() == Remark.Kind.VOID)
            .map(Remark::text)
            .findFirst()
            .orElseThrow();
    assertTrue(
        text.endsWith(
            "(For unit:root + unit:a + kind:hearing; unit:root + unit:b + kind:hearing;"
                + " unit:root + unit:c + kind:hearing and 1 more.)"),
        text);
  }

  @Test
  public void whatIsWrongStandsFirst() {
    List<Remark> found =
        remarks(
            layer(
                Scope.ORGANISATION,
                bound(Control.CHAT, "always", "off", false),
                bound(Control.REACTIONS, "off", "off", false)),
            promising(
                PILOTS,
                Persona.INVITED_MEMBER,
                Right.LISTEN,
                Level.NEVER,
                bound(Control.REACTIONS, "off", "on", false)));
    List<Remark.Weight> weights = found.stream().map(Remark::weight).toList();
    assertEquals(weights, weights.stream().sorted().toList());
    assertEquals(found.get(0).kind(), Remark.Kind.START_OUTSIDE);
    assertEquals(found.get(1).kind(), Remark.Kind.UNKEEPABLE);
    assertEquals(found.get(1).guarantee(), "g");
  }

  @Test
  public void idsInFilesStayAsTheyAre() {
    assertEquals(Remark.Kind.BROKEN_AT_START.id(), "broken-at-start");
    assertEquals(Remark.Weight.DOUBTFUL.id(), "doubtful");
    assertEquals(Comparison.Word.BINDS.id(), "binds");
    assertEquals(Comparison.Word.FREED.phrase(), "no longer fixed");
  }

  @Test
  public void aStartOutsideItsLimit() {
    assertEquals(
        of(Remark.Kind.START_OUTSIDE, layer(PILOTS, bound(Control.CHAT, "always", "off", false)))
            .size(),
        1);
    assertEquals(
        of(Remark.Kind.START_OUTSIDE, layer(PILOTS, bound(Control.CHAT, "off", "always", false)))
            .size(),
        0);
    List<Remark> suggested =
        of(
            Remark.Kind.START_OUTSIDE,
            layer(Scope.ORGANISATION, bound(Control.CHAT, "off", "in-session", true)),
            layer(PILOTS, Rule.suggest(Control.CHAT, v(Control.CHAT, "always"), 2, "")));
    assertEquals(suggested.size(), 1);
    assertTrue(suggested.get(0).text().contains("organisation has sealed"));
  }

  private static Layer promising(
      Scope scope, Persona who, Right right, Level ceiling, Rule... rules) {
    return new Layer(
        scope,
        Arrays.asList(rules),
        List.of(new Guarantee("g", List.of(who), List.of(right), ceiling, 3, "")));
  }

  @Test
  public void aGuaranteeNothingCanKeep() {
    List<Remark> never =
        of(
            Remark.Kind.UNKEEPABLE,
            promising(Scope.ORGANISATION, Persona.INVITED_MEMBER, Right.LISTEN, Level.NEVER));
    assertEquals(never.size(), 1);
    assertTrue(never.get(0).text().startsWith("No setting can keep this, whatever"));

    Layer fixedOpen =
        promising(
            Scope.ORGANISATION,
            Persona.INVITED_OUTSIDER,
            Right.SHARE_SCREEN,
            Level.NEVER,
            fix(Control.SCREEN_SHARE, "everyone", false));
    List<Remark> blamed = of(Remark.Kind.UNKEEPABLE, fixedOpen);
    // an onlooker, or somebody refused at the door, holds nothing: other controls still keep it
    assertEquals(blamed.size(), 0);
    List<Remark> byFix =
        of(
            Remark.Kind.UNKEEPABLE,
            promising(
                Scope.ORGANISATION,
                Persona.LINK_FINDER,
                Right.LISTEN,
                Level.NEVER,
                fix(Control.SIGN_IN, "none", false),
                fix(Control.PASSCODE, "none", false),
                fix(Control.REGISTRATION, "open", false),
                fix(Control.CHAT, "off", false))); // which is not to blame
    assertEquals(byFix.size(), 1);
    assertTrue(
        byFix.get(0).text().contains("while Passcode or Sign-in or Registration is fixed"),
        byFix.get(0).text());
  }

  @Test
  public void aGuaranteeBrokenFromTheStart() {
    Layer loose =
        promising(
            Scope.ORGANISATION,
            Persona.LINK_FINDER,
            Right.LISTEN,
            Level.HOST_LETS_IN,
            bound(Control.WAITING_ROOM, "off", "off", false));
    assertEquals(of(Remark.Kind.BROKEN_AT_START, loose).size(), 1);
    Layer strict =
        promising(
            Scope.ORGANISATION,
            Persona.LINK_FINDER,
            Right.LISTEN,
            Level.HOST_LETS_IN,
            bound(Control.SIGN_IN, "known-account", "known-account", false));
    assertEquals(of(Remark.Kind.BROKEN_AT_START, strict).size(), 0);
  }

  @Test
  public void aStartThatDoesNothing() {
    List<Remark> found =
        of(
            Remark.Kind.IDLE,
            layer(
                Scope.ORGANISATION,
                bound(Control.ATTENDEE_MICROPHONE, "off", "off", false),
                bound(Control.PRESENTER_ROLE, "everyone", "everyone", false)));
    assertEquals(found.size(), 1);
    assertEquals(found.get(0).control(), Control.ATTENDEE_MICROPHONE);
    assertTrue(found.get(0).text().contains("Presenter role “everyone”"), found.get(0).text());
  }

  @Test
  public void layersThatUndoEachOther() {
    Layer organisation = layer(Scope.ORGANISATION, bound(Control.CHAT, "off", "off", false));
    List<Remark> looser =
        of(
            Remark.Kind.UNDONE,
            organisation,
            layer(PILOTS, bound(Control.CHAT, "off", "always", false)));
    assertEquals(looser.size(), 1);
    assertEquals(looser.get(0).weight(), Remark.Weight.NOTE, "a unit may differ");
    assertTrue(looser.get(0).text().startsWith("This is looser than “"), looser.get(0).text());
    List<Remark> letGo =
        of(
            Remark.Kind.UNDONE,
            organisation,
            layer(PILOTS, Rule.suggest(Control.CHAT, v(Control.CHAT, "off"), 2, "")));
    assertEquals(letGo.get(0).weight(), Remark.Weight.DOUBTFUL, "a limit taken away in passing");
    assertTrue(letGo.get(0).text().startsWith("The suggestion takes away"), letGo.get(0).text());
    List<Remark> sideways =
        of(
            Remark.Kind.UNDONE,
            layer(PILOTS, bound(Control.CHAT, "off", "off", false)),
            layer(HEARING, bound(Control.CHAT, "always", "always", false)));
    assertEquals(sideways.get(0).weight(), Remark.Weight.DOUBTFUL);
    List<Remark> under =
        of(
            Remark.Kind.UNDONE,
            organisation,
            layer(HEARING, bound(Control.CHAT, "always", "always", false)));
    assertEquals(under.get(0).weight(), Remark.Weight.NOTE, "a kind may differ from everybody");
    assertEquals(
        of(Remark.Kind.UNDONE, organisation, layer(PILOTS, fix(Control.CHAT, "off", false))).size(),
        0);
  }

  @Test
  public void aLimitByStandingIsNotALimitOnNames() {
    for (Rule rule :
        List.of(
            bound(Control.LOBBY_BYPASS, "named", "guests", false),
            bound(Control.PRESENTER_ROLE, "hosts", "members", false))) {
      List<Remark> found = of(Remark.Kind.NAMES_AGAINST_STANDING, layer(PILOTS, rule));
      assertEquals(found.size(), 1);
      assertTrue(
          found
              .get(0)
              .text()
              .contains(
                  rule.control() == Control.LOBBY_BYPASS
                      ? "forwarding is blocked and everybody invited"
                      : "every listed presenter is a member"),
          found.get(0).text());
    }
    for (Rule rule :
        List.of(
            bound(Control.LOBBY_BYPASS, "named", "anyone", false),
            bound(Control.LOBBY_BYPASS, "named", "named", false),
            bound(Control.PRESENTER_ROLE, "hosts", "everyone", false))) {
      assertEquals(of(Remark.Kind.NAMES_AGAINST_STANDING, layer(PILOTS, rule)).size(), 0);
    }
  }

  @Test
  public void whatNoLayerGoverns() {
    List<Remark> found =
        of(Remark.Kind.GOVERNED_NOWHERE, layer(PILOTS, fix(Control.CHAT, "off", false)));
    assertEquals(found.size(), Control.COUNT - 1);
    assertTrue(found.stream().noneMatch(r -> r.control() == Control.CHAT));
  }
}
