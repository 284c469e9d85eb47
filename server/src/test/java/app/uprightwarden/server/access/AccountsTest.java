package app.uprightwarden.server.access;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.Authenticator;
import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.Visitor;
import java.net.URI;
import java.net.http.HttpRequest;
import java.sql.Connection;
import java.sql.SQLException;
import java.sql.Statement;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import java.util.function.Supplier;
import javax.sql.DataSource;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Accounts from their invitation to their end. */
public class AccountsTest extends ServerTest {
  private static final String GOOD = "barnacle Thursday 92 lantern";
  private static final String BETTER = "ferry otter umbrella 17";

  @Autowired private AccessTokens tokens;
  @Autowired private JdbcClient jdbc;
  @Autowired private DataSource database;
  private String email;

  @BeforeMethod
  public void nameSomebody() {
    email = "new" + System.nanoTime() + "@saltmarsh.example";
    jdbc.sql("delete from sign_in_failure").update();
  }

  @AfterMethod(alwaysRun = true)
  public void letGo() {
    jdbc.sql("update access_setting set factor_for = 'nobody'").update();
    jdbc.sql("delete from account where email like 'new%'").update();
    jdbc.sql("delete from sign_in_failure").update();
  }

  private Visitor visitor() {
    return new Visitor(port);
  }

  private String invited(String role) {
    return invited(email, role, null);
  }

  private String invited(String who, String role, String unit) {
    Map<String, Object> body = new HashMap<>(Map.of("email", who, "name", "Nora New"));
    body.put("role", role);
    body.put("unit", unit);
    return post(WARDEN, "/api/accounts", body).is(201).json().get("token").stringValue();
  }

  private Visitor.Seen welcome(String token, String password) {
    Visitor guest = visitor();
    guest.get("/api/session");
    return guest.send("POST", "/api/welcome", Map.of("token", token, "password", password));
  }

  private Visitor member(String role) {
    welcome(invited(role), GOOD).is(204);
    Visitor visitor = visitor();
    visitor.signIn(email, GOOD).is(200);
    return visitor;
  }

  @Test
  public void anInvitationIsGoodOnceAndSetsAGoodPassword() {
    String token = invited("auditor");
    Visitor guest = visitor();
    guest.get("/api/session");
    guest.signIn(email, GOOD).is(401);
    assertEquals(
        guest
            .send("POST", "/api/welcome/look", Map.of("token", token))
            .is(200)
            .body()
            .get("email")
            .stringValue(),
        email);
    welcome(token, "short").is(422);
    welcome(token, "password1234").is(422);
    welcome(token, "qwertyuiop123").is(422);
    welcome(token, "nora new saltmarsh").is(422);
    welcome(token, GOOD).is(204);
    welcome(token, BETTER).is(404);
    guest.signIn(email, GOOD).is(200);
    assertEquals(guest.get("/api/session").body().get("role").stringValue(), "auditor");
    guest.get("/api/audits").is(200);
  }

  @Test
  public void aLinkTooOldIsRefusedAndANewOneTakesItsPlace() {
    String token = invited("host");
    String second =
        post(WARDEN, "/api/accounts/" + email + "/link", null)
            .is(201)
            .json()
            .get("token")
            .stringValue();
    welcome(token, GOOD).is(404);
    jdbc.sql("update account_link set ends_at = utc_timestamp() - interval 1 second").update();
    welcome(second, GOOD).is(404);
    post(WARDEN, "/api/accounts", Map.of("email", email, "name", "x", "role", "host")).is(409);
    post(WARDEN, "/api/accounts", Map.of("email", "no address", "name", "x", "role", "host"))
        .is(422);
    post(WARDEN, "/api/accounts", Map.of("email", "a" + email, "name", "x", "role", "unit-warden"))
        .is(422);
  }

  @Test
  public void sessionsAreListedAndEndedAndEndByThemselvesWithThePassword() {
    Visitor here = member("auditor");
    Visitor there = visitor();
    there.signIn(email, GOOD).is(200);
    Visitor elsewhere = visitor();
    elsewhere.signIn(email, GOOD).is(200);
    var sessions = here.get("/api/account").is(200).body().get("sessions");
    assertEquals(sessions.size(), 3);
    String cookie = here.cookie("warden-session");
    assertFalse(sessions.toString().contains(cookie), "what signs in is not shown");
    String other =
        sessions
            .valueStream()
            .filter(s -> !s.get("thisOne").booleanValue())
            .findFirst()
            .orElseThrow()
            .get("id")
            .stringValue();
    here.send("DELETE", "/api/account/sessions/" + other, null).is(204);
    here.send("DELETE", "/api/account/sessions/" + other, null).is(404);
    assertEquals(here.get("/api/account").body().get("sessions").size(), 2);
    here.send("PUT", "/api/account/password", Map.of("current", "wrong", "password", BETTER))
        .is(422);
    here.send("PUT", "/api/account/password", Map.of("current", GOOD, "password", BETTER)).is(204);
    here.get("/api/account").is(200);
    there.get("/api/account").is(401);
    elsewhere.get("/api/account").is(401);
    visitor().signIn(email, GOOD).is(401);
    visitor().signIn(email, BETTER).is(200);
  }

  @Test
  public void aLanguageIsChosenAndKept() {
    Visitor here = member("host");
    assertTrue(here.get("/api/session").is(200).body().get("language").isNull());
    here.send("PUT", "/api/account/language", Map.of("language", "de")).is(204);
    assertEquals(here.get("/api/session").body().get("language").stringValue(), "de");
    here.send("PUT", "/api/account/password", Map.of("current", GOOD, "password", BETTER)).is(204);
    Visitor again = visitor();
    again.signIn(email, BETTER).is(200);
    assertEquals(again.get("/api/session").body().get("language").stringValue(), "de");
    again.send("PUT", "/api/account/language", Map.of("language", "tlh")).is(422);
    again.send("PUT", "/api/account/language", Map.of("language", "en")).is(204);
    assertEquals(here.get("/api/session").body().get("language").stringValue(), "en");
  }

  @Test
  public void mailIsInTheLanguageOfWhoReadsIt() {
    member("host").send("PUT", "/api/account/language", Map.of("language", "de")).is(204);
    String other = "mayor@town.example";
    Map<String, Object> meeting =
        Map.of(
            "title", "Lichter",
            // what people write stays theirs, whatever it says
            "passcode", "There is no such request.",
            "host", WARDEN,
            "start", "2031-03-03T10:00",
            "zone", "Europe/Dublin",
            "minutes", 45,
            "recurrence", "FREQ=WEEKLY;INTERVAL=2;BYDAY=MO,WE;COUNT=5",
            "invitees",
                List.of(
                    Map.of("email", email, "need", "required"),
                    Map.of("email", other, "need", "required")));
    Map<String, Object> form = Map.of("version", 0, "meeting", meeting, "send", true);
    String id = post(WARDEN, "/api/meetings", form).is(200).json().get("id").stringValue();
    Map<String, JsonNode> first = new HashMap<>();
    get(WARDEN, "/api/outbox?about=meeting:" + id)
        .is(200)
        .json()
        .forEach(each -> first.put(each.get("to").stringValue(), each));
    JsonNode german = first.get(email);
    assertEquals(german.get("subject").stringValue(), "Einladung: Lichter");
    String text = german.get("body").stringValue();
    assertTrue(text.contains("Wann:  Montag, 3. März 2031, 10:00 bis 10:45 (Europe/Dublin)"), text);
    assertTrue(text.contains("Wiederholung:  alle 2 Wochen am Montag und Mittwoch, 5 Mal"), text);
    assertTrue(text.contains("Kenncode:  There is no such request."), text);
    assertTrue(text.contains("Wenn Sie kommen:  "), text);
    assertTrue(german.get("html").stringValue().contains("<html lang=\"de\">"));
    JsonNode english = first.get(other);
    assertEquals(english.get("subject").stringValue(), "Invitation: Lichter");
    text = english.get("body").stringValue();
    assertTrue(text.contains("When:  Monday 3 March 2031, 10:00 to 10:45 (Europe/Dublin)"), text);
    assertTrue(text.contains("Recurs:  every 2 weeks on Monday and Wednesday, 5 times"), text);
  }

  @Test
  public void aChangedRoleEndsSessionsAndTokens() {
    Visitor member = member("host");
    String token =
        post(
                WARDEN,
                "/api/tokens",
                Map.of("purpose", "x", "role", "host", "actsAs", email, "minutes", 5))
            .is(201)
            .json()
            .get("token")
            .stringValue();
    member.get("/api/meetings").is(200);
    assertEquals(statusBy(token), 200);
    send(WARDEN, "PUT", "/api/accounts/" + email, Map.of("role", "auditor", "active", true))
        .is(200);
    member.get("/api/meetings").is(401);
    assertEquals(statusBy(token), 401);
    member.signIn(email, GOOD).is(200);
    send(WARDEN, "PUT", "/api/accounts/" + email, Map.of("role", "auditor", "active", false))
        .is(200);
    member.get("/api/meetings").is(401);
    member.signIn(email, GOOD).is(401);
  }

  private int statusBy(String token) {
    return exchange(
            java.net.http.HttpRequest.newBuilder(
                    java.net.URI.create("http://127.0.0.1:" + port + "/api/meetings"))
                .header("Authorization", "Bearer " + token)
                .build())
        .status();
  }

  @Test
  public void nobodyChangesThemselvesAndOneWardenStays() {
    send(WARDEN, "PUT", "/api/accounts/" + WARDEN, Map.of("role", "host", "active", true)).is(409);
    send(
            SECOND_WARDEN,
            "PUT",
            "/api/accounts/nobody@x.example",
            Map.of("role", "host", "active", true))
        .is(404);
    // a token that the machine itself gave needs no account behind it
    String machine = machine();
    jdbc.sql("update account set active = 0 where role = 'warden' and email <> ?")
        .param(WARDEN)
        .update();
    try {
      allow(machine, WARDEN, Map.of("role", "host", "active", true)).is(409);
    } finally {
      jdbc.sql("update account set active = 1 where role = 'warden'").update();
    }
  }

  private Answer allow(String bearer, String who, Map<String, Object> wanted) {
    return exchange(
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/accounts/" + who))
            .header("Authorization", "Bearer " + bearer)
            .header("Content-Type", "application/json")
            .PUT(HttpRequest.BodyPublishers.ofString(new JsonMapper().writeValueAsString(wanted)))
            .build());
  }

  private String machine() {
    return tokens
        .issue(
            "a test",
            Role.WARDEN,
            "script@localhost",
            Duration.ofMinutes(5),
            new SignedIn(StillThere.MACHINE, "", Role.WARDEN))
        .token();
  }

  @Test
  public void ofTwoWardensWhoTakeEachOthersRoleAtOnceOneStays() {
    String one = email;
    String two = "new-two-" + email.substring(3);
    invited(one, "warden", null);
    invited(two, "warden", null);
    String machine = machine();
    jdbc.sql("update account set active = 0 where role = 'warden' and email not in (?, ?)")
        .params(one, two)
        .update();
    try {
      CompletableFuture<Answer> first =
          CompletableFuture.supplyAsync(
              () -> allow(machine, one, Map.of("role", "host", "active", true)));
      Answer second = allow(machine, two, Map.of("role", "host", "active", true));
      assertEquals(Set.of(first.join().status(), second.status()), Set.of(200, 409));
    } finally {
      jdbc.sql("update account set active = 1 where role = 'warden'").update();
    }
  }

  /**
   * What somebody does with their account, while it is changed by another whose change they have
   * not seen when they look at it, and which is there before they are done.
   */
  private Visitor.Seen overtaken(String change, Supplier<Visitor.Seen> act) throws SQLException {
    jdbc.sql("delete from sign_in_failure").update();
    try (Connection other = database.getConnection();
        Statement statement = other.createStatement()) {
      other.setAutoCommit(false);
      statement.executeUpdate("update account set " + change + " where email = '" + email + "'");
      CompletableFuture<Visitor.Seen> done = CompletableFuture.supplyAsync(act);
      // a try is counted once the account has been read
      until(
          "the password is being looked at",
          () -> jdbc.sql("select count(*) from sign_in_failure").query(Integer.class).single() > 0);
      other.commit();
      other.setAutoCommit(true);
      return done.join();
    }
  }

  @Test
  public void whoIsLetGoWhileTheySetAPasswordStaysLetGo() throws SQLException {
    Visitor member = member("auditor");
    Map<String, Object> wanted = Map.of("current", GOOD, "password", BETTER);
    overtaken("active = 0", () -> member.send("PUT", "/api/account/password", wanted)).is(409);
    visitor().signIn(email, GOOD).is(401);
    visitor().signIn(email, BETTER).is(401);
    assertEquals(
        jdbc.sql("select active from account where email = ?")
            .param(email)
            .query(Boolean.class)
            .single(),
        Boolean.FALSE);
  }

  /** Somebody who knows an old password, and tries it at the moment in which it is changed. */
  @Test
  public void aSessionThatOpensWhileThePasswordIsChangedDoesNotLast() throws SQLException {
    member("auditor");
    Visitor late = visitor();
    String anew = "password_hash = 'another', password_since = now(3) + interval 1 second";
    overtaken(anew, () -> late.signIn(email, GOOD)).is(200);
    late.get("/api/meetings").is(401);
  }

  @Test
  public void whoHasNotSeenThatSomebodyWasLetGoDoesNotLetThemInAgain() {
    invited("auditor");
    Map<String, Object> seen = Map.of("role", "auditor", "active", true);
    String at = "/api/accounts/" + email;
    send(WARDEN, "PUT", at, Map.of("role", "auditor", "active", false, "seen", seen)).is(200);
    JsonNode said =
        send(WARDEN, "PUT", at, Map.of("role", "host", "active", true, "seen", seen))
            .is(409)
            .json();
    assertEquals(said.get("code").stringValue(), "changed-meanwhile");
    Map<String, Object> now = Map.of("role", "auditor", "active", false);
    JsonNode line =
        send(WARDEN, "PUT", at, Map.of("role", "host", "active", false, "seen", now))
            .is(200)
            .json();
    assertEquals(line.get("role").stringValue(), "host");
    assertFalse(line.get("active").booleanValue());
  }

  @Test
  public void aTokenCannotChangeWhatSignsItsOwnerIn() {
    get(WARDEN, "/api/account").is(403);
    send(WARDEN, "PUT", "/api/account/password", Map.of("current", "x", "password", BETTER))
        .is(403);
    post(WARDEN, "/api/account/second-factor", Map.of("current", "x")).is(403);
  }

  @Test
  public void aSecondFactorIsAskedForAndEachCodeIsGoodOnce() {
    Visitor member = member("warden");
    Visitor other = visitor();
    other.signIn(email, GOOD).is(200);
    member.send("POST", "/api/account/second-factor", Map.of("current", "wrong")).is(422);
    String secret =
        member
            .send("POST", "/api/account/second-factor", Map.of("current", GOOD))
            .is(200)
            .body()
            .get("secret")
            .stringValue();
    // until it is confirmed it does not count
    visitor().signIn(email, GOOD).is(200);
    member.send("PUT", "/api/account/second-factor", Map.of("code", "000000")).is(422);
    Instant earlier = Instant.now().minusSeconds(30);
    List<String> recovery = new ArrayList<>();
    member
        .send(
            "PUT",
            "/api/account/second-factor",
            Map.of("code", Authenticator.code(secret, earlier)))
        .is(200)
        .body()
        .get("recoveryTokens")
        .forEach(c -> recovery.add(c.stringValue()));
    assertEquals(recovery.size(), 10);
    other.get("/api/account").is(401);
    member.get("/api/account").is(200);

    Visitor guest = visitor();
    guest.signIn(email, GOOD).is(428);
    guest.signIn(email, GOOD, Authenticator.code(secret, earlier)).is(401);
    String now = Authenticator.code(secret, Instant.now());
    assertNotEquals(now, "");
    guest.signIn(email, GOOD, now.substring(0, 3) + " " + now.substring(3)).is(200);
    visitor().signIn(email, GOOD, now).is(401);
    visitor().signIn(email, GOOD, recovery.get(0)).is(200);
    visitor().signIn(email, GOOD, recovery.get(0)).is(401);
    visitor().signIn(email, GOOD, recovery.get(1).replace("-", "")).is(200);
    assertEquals(member.get("/api/account").body().get("recoveryCodesLeft").intValue(), 8);
    assertEquals(
        jdbc.sql("select count(*) from account where second_factor like concat('%', ?, '%')")
            .param(secret)
            .query(Integer.class)
            .single(),
        0);
    // somebody who lost the device is helped by a warden
    send(WARDEN, "DELETE", "/api/accounts/" + email + "/second-factor", null).is(204);
    member.get("/api/account").is(401);
    visitor().signIn(email, GOOD).is(200);
  }

  @Test
  public void whereItIsNeededNothingElseCanBeDoneFirst() {
    send(WARDEN, "PUT", "/api/accounts/settings", Map.of("factorFor", "wardens")).is(200);
    Visitor member = member("warden");
    assertTrue(member.get("/api/session").body().get("limited").booleanValue());
    assertEquals(
        member.get("/api/meetings").is(403).body().get("code").stringValue(),
        "second-factor-missing");
    String secret =
        member
            .send("POST", "/api/account/second-factor", Map.of("current", GOOD))
            .is(200)
            .body()
            .get("secret")
            .stringValue();
    member
        .send(
            "PUT",
            "/api/account/second-factor",
            Map.of("code", Authenticator.code(secret, Instant.now())))
        .is(200);
    member.get("/api/meetings").is(200);
    Map<String, String> farewell = Map.of("current", GOOD, "code", "000000");
    member.send("POST", "/api/account/second-factor/end", farewell).is(409);
  }

  @Test
  public void whoFailsOnPurposeLocksNobodyElseOut() {
    Visitor owner = member("host");
    jdbc.sql(
            "replace into sign_in_failure values (?, 99, utc_timestamp() + interval 9 minute,"
                + " utc_timestamp())")
        .param(AccessHash.sha256("address " + email))
        .update();
    // this test's own place is known to the account: the counting over all places does not hold
    visitor().signIn(email, GOOD).is(200);
    owner.get("/api/meetings").is(200);
    jdbc.sql("delete from known_place").update();
    visitor().signIn(email, GOOD).is(429);
  }

  @Test
  public void tokensAreListedWithTheirUseAndEnded() {
    var issued =
        post(
                WARDEN,
                "/api/tokens",
                Map.of("purpose", "nightly", "role", "host", "actsAs", HOST, "minutes", 5))
            .is(201)
            .json();
    String token = issued.get("token").stringValue();
    assertEquals(statusBy(token), 200);
    var listed = get(AUDITOR, "/api/tokens").is(200);
    assertFalse(listed.body().contains(token));
    var first =
        listed
            .json()
            .valueStream()
            .filter(t -> t.get("purpose").stringValue().equals("nightly"))
            .findFirst()
            .orElseThrow();
    assertTrue(first.get("lastUsed").isString(), first.toString());
    send(WARDEN, "DELETE", "/api/tokens/" + first.get("id").longValue(), null).is(200);
    assertEquals(statusBy(token), 401);
    send(WARDEN, "DELETE", "/api/tokens/999999", null).is(404);
  }
}
