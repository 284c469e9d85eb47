package app.uprightwarden.core.control;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The table of controls, and the static order. */
public class ControlTableTest {
  @Test
  public void thereAreFiftyTwoControlsTwentyEightOfThemInTheMatrix() {
    assertEquals(Control.all().size(), 52);
    assertEquals(Control.matrix().size(), 28);
    assertEquals(Control.all().stream().filter(Control::isNeutral).count(), 9);
    Control.all().forEach(c -> assertEquals(Control.byId(c.id()), c));
  }

  @Test
  public void everyWordReadsBackAndIsLabelled() {
    for (Control control : Control.all()) {
      if (control.scale() instanceof Scale.Words words) {
        for (Scale.Rung rung : words.rungs()) {
          Value value = control.parse(rung.word());
          assertEquals(control.plain(value), rung.word());
          assertFalse(control.label(value).isBlank());
        }
      }
      assertFalse(control.risk().isBlank());
      assertEquals(control.parse(control.plain(control.loosest())), control.loosest());
    }
  }

  @DataProvider
  public Object[][] order() {
    return new Object[][] {
      // control, value, limit, within
      {Control.WAITING_ROOM, "on", "off", true},
      {Control.WAITING_ROOM, "off", "on", false},
      {Control.LOBBY_BYPASS, "named", "members", true},
      {Control.LOBBY_BYPASS, "members", "named", false},
      {Control.EARLY_ENTRY, "any-time", 10080, false},
      {Control.EARLY_ENTRY, 10, "any-time", true},
      {Control.EARLY_ENTRY, 0, 10, true},
      {Control.EARLY_ENTRY, 11, 10, false},
      {Control.LATE_ENTRY, "open", "open", true},
      {Control.LATE_ENTRY, "open", 5, false},
      {Control.PASSCODE_LENGTH, 8, 10, false},
      {Control.PASSCODE_LENGTH, 12, 10, true},
      {Control.POLLS, "on", "on", true},
      {Control.POLLS, "on", "off", false},
      {Control.REGIONS, List.of(), List.of("IE"), false},
      {Control.REGIONS, List.of("IE"), List.of(), true},
      {Control.REGIONS, List.of("IE"), List.of("GB", "IE"), true},
      {Control.REGIONS, List.of("FR", "IE"), List.of("GB", "IE"), false},
      {Control.AUDIO_ROUTES, List.of("computer"), List.of("computer", "phone"), true},
      {Control.AUDIO_ROUTES, List.of("computer", "phone"), List.of("computer"), false},
      {Control.AUDIO_ROUTES, List.of(), List.of("computer"), true},
    };
  }

  @Test(dataProvider = "order")
  public void withinByTheStaticOrder(Control control, Object value, Object limit, boolean within) {
    assertEquals(control.within(control.parse(value), control.parse(limit)), within);
  }

  @DataProvider
  public Object[][] wrong() {
    return new Object[][] {
      {Control.WAITING_ROOM, "ajar"},
      {Control.WAITING_ROOM, 1},
      {Control.WAITING_ROOM, null},
      {Control.EARLY_ENTRY, -1},
      {Control.EARLY_ENTRY, 1.5},
      {Control.EARLY_ENTRY, "open"},
      {Control.PASSCODE_LENGTH, "any-time"},
      {Control.REGIONS, List.of("XX")},
      {Control.REGIONS, "IE"},
      {Control.AUDIO_ROUTES, List.of("radio")},
      {Control.DATA_REGION, List.of("a b")},
    };
  }

  @Test(dataProvider = "wrong")
  public void aValueTheTableDoesNotHaveIsRefusedInWords(Control control, Object value) {
    InvalidValueException refused =
        org.testng.Assert.expectThrows(InvalidValueException.class, () -> control.parse(value));
    assertTrue(refused.getMessage().contains("is not"), refused.getMessage());
  }

  @Test
  public void aStepStricterIsTheNextWordZeroMinutesOrNoPhone() {
    assertEquals(
        Control.CHAT.oneStepStricter(Control.CHAT.parse("always")),
        Control.CHAT.parse("in-session"));
    assertEquals(
        Control.EARLY_ENTRY.oneStepStricter(Control.EARLY_ENTRY.parse("any-time")),
        new Value.Amount(0));
    assertEquals(
        Control.AUDIO_ROUTES.oneStepStricter(Control.AUDIO_ROUTES.loosest()),
        new Value.Names(List.of("computer")));
    assertEquals(Control.CHAT.oneStepStricter(Control.CHAT.parse("off")), null);
    assertEquals(Control.POLLS.oneStepStricter(Control.POLLS.parse("off")), null);
  }

  @Test
  public void valuesLieOverEachOther() {
    ControlValues series =
        ControlValues.NONE
            .with(Control.CHAT, Control.CHAT.parse("off"))
            .with(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"));
    ControlValues over = ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("always"));
    assertTrue(series.overlaid(over).is(Control.CHAT, "always"));
    assertTrue(series.overlaid(over).is(Control.WAITING_ROOM, "on"));
    assertEquals(series.overlaid(ControlValues.NONE), series);
    assertThrows(UnsupportedOperationException.class, () -> series.asMap().remove(Control.CHAT));
  }

  @DataProvider
  public Object[][] labels() {
    return new Object[][] {
      {Control.CHAT, "hosts-post", "hosts post"},
      {Control.PASSCODE_MAKEUP, "mixed", "with a symbol"},
      {Control.EARLY_ENTRY, "any-time", "any time"},
      {Control.EARLY_ENTRY, 0, "after a host"},
      {Control.EARLY_ENTRY, 15, "15 minutes"},
      {Control.PASSCODE_LENGTH, 0, "none"},
      {Control.PASSCODE_LENGTH, 10, "10 characters"},
      {Control.REGIONS, List.of(), "all"},
      {Control.REGIONS, List.of("IE", "GB"), "GB, IE"},
      {Control.AUDIO_ROUTES, List.of(), "none"},
    };
  }

  @Test(dataProvider = "labels")
  public void aValueIsReadAsItsTableSays(Control control, Object value, String label) {
    assertEquals(control.label(control.parse(value)), label);
  }

  @DataProvider
  public Object[][] loosest() {
    return new Object[][] {
      {Control.WAITING_ROOM, "off"},
      {Control.EARLY_ENTRY, "any-time"},
      {Control.LATE_ENTRY, "open"},
      {Control.PASSCODE_LENGTH, 0},
      {Control.REGIONS, List.of()},
      {Control.AUDIO_ROUTES, List.of("computer", "phone")},
      {Control.DATA_REGION, List.of()},
    };
  }

  @Test(dataProvider = "loosest")
  public void theLoosestLetsMostHappen(Control control, Object value) {
    assertEquals(control.plain(control.loosest()), value);
    assertEquals(control.loosest(), control.parse(value));
  }

  @Test
  public void numbersAreTakenUpToTheirLimit() {
    assertEquals(Control.EARLY_ENTRY.parse(10080), new Value.Amount(10080));
    assertThrows(InvalidValueException.class, () -> Control.EARLY_ENTRY.parse(10081));
    assertEquals(Control.PASSCODE_LENGTH.parse(64), new Value.Amount(64));
    assertThrows(InvalidValueException.class, () -> Control.PASSCODE_LENGTH.parse(65));
    assertEquals(Control.PASSCODE_LENGTH.parse(8.0), new Value.Amount(8), "JSON knows one number");
  }

  @Test
  public void whatWouldBeStricterIsLeastFirst() {
    assertEquals(
        Control.LOBBY_BYPASS.tightenings(Control.LOBBY_BYPASS.parse("members")),
        List.of(Control.LOBBY_BYPASS.parse("named"), Control.LOBBY_BYPASS.parse("hosts")));
    assertEquals(
        Control.EARLY_ENTRY.tightenings(new Value.Amount(1)), List.of(new Value.Amount(0)));
    assertEquals(Control.EARLY_ENTRY.tightenings(new Value.Amount(0)), List.of());
    assertEquals(Control.PASSCODE_LENGTH.tightenings(new Value.Amount(4)), List.of());
    assertEquals(
        Control.AUDIO_ROUTES.tightenings(Control.AUDIO_ROUTES.parse(List.of("computer"))),
        List.of());
    assertEquals(Control.REGIONS.tightenings(Control.REGIONS.loosest()), List.of());
    assertEquals(
        Control.CHAT.oneStepStricter(Control.CHAT.parse("always")),
        Control.CHAT.tightenings(Control.CHAT.parse("always")).get(0));
  }

  @Test
  public void whatIsWrongIsSaidWithWhatMayBeWritten() {
    assertEquals(
        said(Control.CHAT, "loud"), "\"loud\" is not one of always, in-session, hosts-post, off");
    assertEquals(
        said(Control.EARLY_ENTRY, "soon"),
        "\"soon\" is not any-time or a whole number of minutes from 0 to 10080");
    assertEquals(
        said(Control.PASSCODE_LENGTH, -1), "-1 is not a whole number of characters from 0 to 64");
    assertEquals(
        said(Control.REGIONS, "IE"),
        "\"IE\" is not a list of ISO 3166 country codes, empty for all");
    assertEquals(
        said(Control.AUDIO_ROUTES, List.of("radio")),
        "\"radio\" is not a list of audio routes: computer, phone");
  }

  @Test
  public void ofALongValueItsBeginningIsSaid() {
    String whole = "\"" + "x".repeat(58) + "\""; // 60 characters with its quotes
    assertTrue(said(Control.PASSCODE, "x".repeat(58)).startsWith(whole + " is not"));
    String cut = "\"" + "x".repeat(59) + "…";
    assertTrue(said(Control.PASSCODE, "x".repeat(59)).startsWith(cut + " is not"));
    assertTrue(said(Control.PASSCODE, "x".repeat(80)).startsWith(cut + " is not"));
  }

  private static String said(Control control, Object value) {
    return String.valueOf(
        org.testng.Assert.expectThrows(InvalidValueException.class, () -> control.parse(value))
            .getMessage());
  }

  @Test
  public void whatIsNotEvidencedCountsAsItsLoosest() {
    ControlValues values = ControlValues.NONE.with(Control.CHAT, Control.CHAT.parse("hosts-post"));
    assertEquals(values.rank(Control.CHAT), 2);
    assertEquals(values.rank(Control.WAITING_ROOM), 0);
    assertTrue(values.is(Control.WAITING_ROOM, "off"));
    assertEquals(values.get(Control.WAITING_ROOM), null);
    assertEquals(values.asMap().keySet(), java.util.Set.of(Control.CHAT));
    assertEquals(values.with(Control.CHAT, null), ControlValues.NONE, "null takes it away");
    assertEquals(ControlValues.of(values.asMap()), values);
    assertEquals(ControlValues.of(values.asMap()).hashCode(), values.hashCode());
    assertFalse(values.equals(ControlValues.NONE));
    assertEquals(values.toString(), "{CHAT=hosts-post}");
  }

  @Test
  public void namesAreASet() {
    assertEquals(
        new Value.Names(List.of("phone", "computer", "phone")),
        new Value.Names(List.of("computer", "phone")));
    assertEquals(new Value.Names(List.of("b", "a")).toString(), "a, b");
    assertEquals(new Value.Amount(Value.Amount.UNLIMITED).toString(), "unlimited");
    assertEquals(new Value.Amount(5).toString(), "5");
  }
}
