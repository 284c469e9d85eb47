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
}
