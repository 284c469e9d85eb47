package app.uprightwarden.core.door;

import static org.testng.Assert.assertEquals;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Who is named to take part where the others only watch. */
public class ContributorTest {
  @DataProvider
  public Object[][] comers() {
    return new Object[][] {
      {"onlooker", "hosts", Tie.NAMED, Route.APP, true, Role.ATTENDEE},
      {"onlooker", "hosts", Tie.NAMED, Route.APP, false, Role.ONLOOKER},
      {"attendee", "hosts", Tie.NAMED, Route.APP, false, Role.ATTENDEE},
      {"onlooker", "everyone", Tie.NAMED, Route.APP, true, Role.PRESENTER},
      {"onlooker", "hosts", Tie.CO_HOST, Route.APP, true, Role.CO_HOST},
      // by telephone nobody is recognised, and so nobody is one of those named
      {"onlooker", "hosts", Tie.NAMED, Route.PHONE, true, Role.ONLOOKER},
    };
  }

  @Test(dataProvider = "comers")
  public void theRoleIsAsNamed(
      String mode, String presenters, Tie tie, Route route, boolean isNamed, Role role) {
    ControlValues values =
        ControlValues.NONE
            .with(Control.JOINER_MODE, Control.JOINER_MODE.parse(mode))
            .with(Control.PRESENTER_ROLE, Control.PRESENTER_ROLE.parse(presenters));
    Joiner joiner = new Joiner(Standing.OUTSIDER, tie, route, true, false, null, false, isNamed);
    assertEquals(Roles.of(values, joiner), role);
  }
}
