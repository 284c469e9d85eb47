package app.uprightwarden.core.service;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Scope;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;

/** What a poor service can hold. The cases are ours: no standard knows of this. */
public class MeansTest {
  private static final Control LOBBY = Control.LOBBY_BYPASS;
  private static final Control EARLY = Control.EARLY_ENTRY;
  private static final Set<Means.Place> PLACES = Set.of(Means.Place.MEETING);

  private final Means means =
      new Means(
          Map.of(
              LOBBY,
              new Means.Holds(
                  Set.of(lobby("anyone"), lobby("guests"), lobby("members"), lobby("hosts")),
                  Map.of(lobby("partners"), lobby("guests"), lobby("named"), lobby("anyone")),
                  PLACES,
                  PLACES),
              EARLY,
              new Means.Holds(
                  Set.of(EARLY.parse(0), EARLY.parse("any-time")), Map.of(), PLACES, Set.of()),
              Control.CHAT,
              new Means.Holds(null, Map.of(), PLACES, PLACES)));

  private static Value lobby(String word) {
    return LOBBY.parse(word);
  }

  @Test
  public void aValueItHasIsCarried() {
    assertTrue(means.has(LOBBY, lobby("members")));
    assertEquals(means.valueFor(LOBBY, lobby("members")), lobby("members"));
    assertEquals(means.carrying(LOBBY, lobby("members")), Means.Carrying.CARRIED);
    assertEquals(
        means.carrying(Control.CHAT, Control.CHAT.parse("hosts-post")), Means.Carrying.CARRIED);
  }

  @Test
  public void aValueItHasNotIsWhatStandsForIt() {
    assertFalse(means.has(LOBBY, lobby("partners")));
    assertEquals(means.valueFor(LOBBY, lobby("partners")), lobby("guests"));
    assertEquals(means.carrying(LOBBY, lobby("partners")), Means.Carrying.STRICTER);
    // what stands for it lets in more than was wanted
    assertEquals(means.carrying(LOBBY, lobby("named")), Means.Carrying.CANNOT);
  }

  @Test
  public void aControlItHasNotIsHeldInNoWay() {
    Control phone = Control.PHONE_BYPASS;
    assertNull(means.valueFor(phone, phone.parse("waits")));
    assertEquals(means.carrying(phone, phone.parse("waits")), Means.Carrying.CANNOT);
    assertFalse(means.takes(phone, Means.Place.MEETING));
  }

  @Test
  public void whatCanBeReadNeedNotBeTaken() {
    assertTrue(means.takes(LOBBY, Means.Place.MEETING));
    assertFalse(means.takes(LOBBY, Means.Place.LOCK));
    assertFalse(means.takes(EARLY, Means.Place.MEETING));
  }

  @Test
  public void aRuleIsKeptWhereSomeValueIsStrictEnough() {
    assertTrue(canKeep(LOBBY, Mode.BOUND, "members"));
    // named is looser than hosts, which it has
    assertTrue(canKeep(LOBBY, Mode.BOUND, "named"));
    assertTrue(canKeep(EARLY, Mode.BOUND, 5));
    assertFalse(canKeep(Control.PHONE_BYPASS, Mode.FIX, "waits"));
    assertTrue(canKeep(Control.PHONE_BYPASS, Mode.SUGGEST, "waits"), "it binds nobody");
    Control phone = Control.PHONE_BYPASS;
    assertTrue(canKeep(phone, Mode.BOUND, phone.plain(phone.loosest())), "it asks for nothing");
    // what is fixed is that very value, and no stricter one
    assertFalse(canKeep(LOBBY, Mode.FIX, "named"));
    assertTrue(canKeep(LOBBY, Mode.FIX, "members"));
  }

  @Test
  public void aRuleIsKeptByWhatStandsForItsLimitWhereThatIsStrictEnough() {
    assertEquals(keeping(LOBBY, Mode.BOUND, "members"), lobby("members"));
    assertNull(keeping(LOBBY, Mode.BOUND, "named"), "anyone stands for it, which is looser");
    assertNull(keeping(EARLY, Mode.BOUND, 0), "it is not taken from us");
    assertNull(keeping(Control.PHONE_BYPASS, Mode.FIX, "waits"));
    assertEquals(keeping(LOBBY, Mode.BOUND, "partners"), lobby("guests"));
    assertNull(keeping(LOBBY, Mode.FIX, "partners"), "what is fixed is that very value");
    assertTrue(means.canSet(LOBBY, lobby("guests")));
    assertFalse(means.canSet(LOBBY, lobby("named")));
    assertFalse(means.canSet(EARLY, EARLY.parse(0)));
  }

  @Test
  public void aServiceThatHasEveryValueKeepsEveryRuleOfIt() {
    assertTrue(canKeep(Control.CHAT, Mode.FIX, "hosts-post"));
    assertTrue(canKeep(Control.CHAT, Mode.BOUND, "off"));
    assertFalse(canKeep(Control.PHONE_BYPASS, Mode.BOUND, "waits"), "it has no such control");
  }

  @Test
  public void aRuleIsNotKeptWhereEveryValueIsTooLoose() {
    Means loose =
        new Means(
            Map.of(
                LOBBY,
                new Means.Holds(
                    Set.of(lobby("anyone"), lobby("guests")), Map.of(), Set.of(), PLACES)));
    assertFalse(loose.canKeep(resolved(LOBBY, Mode.BOUND, "members")));
    assertTrue(loose.canKeep(resolved(LOBBY, Mode.BOUND, "guests")));
    assertFalse(loose.canKeep(resolved(LOBBY, Mode.FIX, "members")));
    assertTrue(loose.canKeep(resolved(LOBBY, Mode.FIX, "anyone")));
  }

  @Test
  public void ofSomeValuesItKeepsThoseThatItHasInTheirOrder() {
    List<Value> some = List.of(lobby("hosts"), lobby("partners"), lobby("anyone"));
    assertEquals(means.among(LOBBY, some), List.of(lobby("hosts"), lobby("anyone")));
    assertEquals(
        means.among(Control.PHONE_BYPASS, List.of(Control.PHONE_BYPASS.loosest())), List.of());
    List<Value> chat = List.of(Control.CHAT.parse("off"), Control.CHAT.parse("always"));
    assertEquals(means.among(Control.CHAT, chat), chat);
  }

  @Test
  public void aPlaceAndACarryingAreWrittenSmall() {
    assertEquals(Means.Place.OCCURRENCE.id(), "occurrence");
    assertEquals(Means.Carrying.STRICTER.id(), "stricter");
    assertEquals(Held.Cause.CHANGED_THERE.id(), "changed-there");
  }

  @Test
  public void whatIsHeldIsLooserWhereItIsNotWithinWhatWasDecided() {
    assertFalse(held(LOBBY, lobby("members"), lobby("members")).isLooser());
    assertFalse(held(LOBBY, lobby("members"), lobby("hosts")).isLooser());
    assertTrue(held(LOBBY, lobby("members"), lobby("guests")).isLooser());
    assertTrue(held(LOBBY, lobby("members"), null).isLooser(), "it holds nothing");
    Control polls = Control.POLLS;
    assertTrue(held(polls, polls.parse("on"), polls.parse("off")).isLooser(), "it is another");
    assertFalse(held(polls, polls.parse("off"), polls.parse("off")).isLooser());
  }

  private static Held.Difference held(Control control, Value decided, @Nullable Value held) {
    return new Held.Difference(
        null, control, decided, held, Held.Cause.CHANGED_THERE, null, null, "");
  }

  private @Nullable Value keeping(Control control, Mode mode, Object value) {
    return means.keeping(resolved(control, mode, value));
  }

  private boolean canKeep(Control control, Mode mode, Object value) {
    return means.canKeep(resolved(control, mode, value));
  }

  private static ResolvedRule resolved(Control control, Mode mode, Object value) {
    Rule rule = MeansTest.rule(control, mode, value);
    ResolvedRulebook rules =
        ResolvedRulebook.of(List.of(new Layer(Scope.ORGANISATION, List.of(rule), List.of())));
    return Objects.requireNonNull(rules.rule(control));
  }

  private static Rule rule(Control control, Mode mode, Object value) {
    Value limit = control.parse(value);
    return new Rule(control, mode, limit, mode == Mode.SUGGEST ? null : limit, false, 3, "");
  }
}
