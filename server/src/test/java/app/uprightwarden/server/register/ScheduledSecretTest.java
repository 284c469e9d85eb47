package app.uprightwarden.server.register;

import static org.testng.Assert.assertFalse;

import org.testng.annotations.Test;

/** Passcodes on their way. */
public class ScheduledSecretTest {

  @Test
  public void aMeetingOnItsWayNeverShowsItsPasscode() {
    Scheduled scheduled =
        new Scheduled(MeetingsForTests.plain("m-1"), Details.NONE, "kelp-Rudder-41");
    assertFalse(scheduled.toString().contains("kelp"));
  }
}
