package app.uprightwarden.server;

import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.AccessTokens;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import java.time.Duration;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** Issues access tokens for the demo's accounts. */
@Component
public class TokensForTests {
  private static final SignedIn ISSUER =
      new SignedIn(ServerTest.WARDEN, "the demo's warden", Role.WARDEN);

  private final AccessTokens access;
  private final AccessService accounts;
  private final JdbcClient jdbc;

  TokensForTests(AccessTokens access, AccessService accounts, JdbcClient jdbc) {
    this.access = access;
    this.accounts = accounts;
    this.jdbc = jdbc;
  }

  String tokenFor(String who) {
    if (who.equals(ServerTest.UNIT_WARDEN)) {
      return issue(who, Role.UNIT_WARDEN, "pilotage");
    }
    Role role =
        who.equals(ServerTest.WARDEN) || who.equals(ServerTest.SECOND_WARDEN)
            ? Role.WARDEN
            : who.equals(ServerTest.AUDITOR) ? Role.AUDITOR : Role.HOST;
    return issue(who, role, null);
  }

  /** A token acts as somebody with an account in that role: the demo lacks some of them. */
  private String issue(String who, Role role, String unit) {
    boolean isThere =
        jdbc.sql("select count(*) from account where email = ?")
                .param(who)
                .query(Integer.class)
                .single()
            > 0;
    if (!isThere && role != Role.HOST) {
      accounts.createAccount(who, "Somebody of the tests", role, unit, "");
    }
    return access.issue("a test", role, unit, who, Duration.ofHours(1), ISSUER).token();
  }
}
