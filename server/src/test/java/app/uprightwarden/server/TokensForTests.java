package app.uprightwarden.server;

import app.uprightwarden.server.access.AccessTokens;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import java.time.Duration;
import org.springframework.stereotype.Component;

/** Issues access tokens for the demo's accounts. */
@Component
public class TokensForTests {
  private final AccessTokens access;

  TokensForTests(AccessTokens access) {
    this.access = access;
  }

  String tokenFor(String who) {
    if (who.equals(ServerTest.UNIT_WARDEN)) {
      return access
          .issue(
              "a test",
              Role.UNIT_WARDEN,
              "pilotage",
              who,
              Duration.ofHours(1),
              new SignedIn("test", "test", Role.WARDEN))
          .token();
    }
    Role role =
        who.equals(ServerTest.WARDEN) || who.equals(ServerTest.SECOND_WARDEN)
            ? Role.WARDEN
            : who.equals(ServerTest.AUDITOR) ? Role.AUDITOR : Role.HOST;
    return issue(who, role);
  }

  private String issue(String who, Role role) {
    return access
        .issue("a test", role, who, Duration.ofHours(1), new SignedIn("test", "test", Role.WARDEN))
        .token();
  }
}
