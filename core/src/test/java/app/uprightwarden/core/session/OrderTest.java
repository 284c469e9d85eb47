package app.uprightwarden.core.session;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.Order.Act;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Which order that still waits is void by a later one. */
public class OrderTest {
  private static Order set(Control control, String value) {
    return new Order(Act.SET, List.of(), control, value);
  }

  @DataProvider
  public static Object[][] orders() {
    Order letIn = Order.of(Act.LET_IN, "ann", "bo");
    return new Object[][] {
      {Order.of(Act.UNLOCK), Order.of(Act.LOCK), true},
      {Order.of(Act.LOCK), Order.of(Act.LOCK), true},
      {Order.of(Act.LOCK), set(Control.WAITING_ROOM, "on"), false},
      {set(Control.WAITING_ROOM, "on"), set(Control.WAITING_ROOM, "off"), true},
      {set(Control.WAITING_ROOM, "on"), set(Control.CHAT, "off"), false},
      // whoever is turned away is let in by nothing that was said before
      {Order.of(Act.TURN_AWAY, "bo"), letIn, true},
      {Order.of(Act.REMOVE_AND_BAR, "bo", "cy"), letIn, true},
      {Order.of(Act.TURN_AWAY, "cy"), letIn, false},
      {Order.of(Act.TURN_AWAY, "cy"), Order.of(Act.LET_IN_ALL), true},
      // and only who is let in himself is no longer turned away
      {letIn, Order.of(Act.TURN_AWAY, "bo"), true},
      {Order.of(Act.LET_IN, "ann"), Order.of(Act.TURN_AWAY, "ann", "bo"), false},
      {letIn, Order.of(Act.REMOVE_AND_BAR, "bo"), false},
      {Order.of(Act.ROLE, "ann"), Order.of(Act.ROLE, "ann"), true},
      {Order.of(Act.ROLE, "ann"), Order.of(Act.ROLE, "ann", "bo"), false},
      {Order.of(Act.SILENCE, "ann"), Order.of(Act.SILENCE, "ann"), false},
      {Order.of(Act.END), Order.of(Act.LOCK), false},
    };
  }

  @Test(dataProvider = "orders")
  public void whatWasSaidLastStands(Order later, Order earlier, boolean isVoid) {
    assertEquals(later.replaces(earlier), isVoid, later + " after " + earlier);
  }

  @Test
  public void actsThatConcernPeopleSaySo() {
    assertTrue(Act.LET_IN.concernsPeople());
    assertFalse(Act.LET_IN_ALL.concernsPeople());
  }
}
