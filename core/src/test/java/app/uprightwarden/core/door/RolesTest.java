package app.uprightwarden.core.door;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import java.util.ArrayList;
import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What is switched off is off for hosts too. */
public class RolesTest {
  @DataProvider
  public Object[][] switches() {
    return new Object[][] {
      {Control.ANNOTATION, Right.ANNOTATE},
      {Control.WHITEBOARD, Right.WHITEBOARD},
      {Control.REMOTE_CONTROL, Right.TAKE_CONTROL},
      {Control.RECORDING, Right.RECORD},
      {Control.CHAT, Right.CHAT},
      {Control.PRIVATE_CHAT, Right.PRIVATE_CHAT},
      {Control.REACTIONS, Right.REACT},
    };
  }

  private static List<Right> rights(ControlValues values, Role role, Route route) {
    return Roles.list(Roles.rights(values, role, route));
  }

  @Test(dataProvider = "switches")
  public void aSwitchTakesItsOwnRightAlone(Control control, Right right) {
    ControlValues off = ControlValues.NONE.with(control, control.parse("off"));
    List<Right> left = new ArrayList<>(Right.all());
    left.remove(right);
    assertEquals(rights(off, Role.HOST, Route.APP), left);
    assertEquals(rights(off, Role.CO_HOST, Route.APP), left);
    assertEquals(rights(ControlValues.NONE, Role.HOST, Route.APP), Right.all());
  }

  @Test
  public void switchesAddUp() {
    ControlValues off = ControlValues.NONE;
    List<Right> left = new ArrayList<>(Right.all());
    for (Object[] each : switches()) {
      Control control = (Control) each[0];
      off = off.with(control, control.parse("off"));
      left.remove((Right) each[1]);
      assertEquals(rights(off, Role.HOST, Route.APP), left);
    }
  }

  @Test
  public void byTelephoneTheyListenAndSpeak() {
    assertEquals(
        rights(ControlValues.NONE, Role.HOST, Route.PHONE), List.of(Right.LISTEN, Right.SPEAK));
  }
}
