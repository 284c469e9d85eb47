package app.uprightwarden.server.intruder;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.Authenticator;
import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.Visitor;
import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.CyclicBarrier;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Attacks: somebody who has an account and wants another's power, or had one and wants to keep it.
 * Each is what an intruder would do, step by step, with a browser and nothing else.
 */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_ways_in")
public class WaysInTest extends ServerTest {
  private static final String GOOD = "barnacle Thursday 92 lantern";
  private static final int AT_ONCE = 6;

  @Autowired private JdbcClient jdbc;
  private String email;

  @BeforeMethod
  public void nameSomebody() {
    email = "new" + System.nanoTime() + "@saltmarsh.example";
    jdbc.sql("delete from sign_in_failure").update();
  }

  @AfterMethod(alwaysRun = true)
  public void demandNothing() {
    jdbc.sql("update access_setting set factor_for = 'nobody'").update();
    jdbc.sql("update house set needs_consent = false, consent_off_by = null").update();
  }

  private String invited(String who, String role) {
    return post(WARDEN, "/api/accounts", Map.of("email", who, "name", "Nora Quay", "role", role))
        .is(201)
        .json()
        .get("token")
        .stringValue();
  }

  private Visitor.Seen welcome(String token, String password) {
    Visitor guest = new Visitor(port);
    guest.get("/api/session");
    return guest.send("POST", "/api/welcome", Map.of("token", token, "password", password));
  }

  private Visitor member(String role) {
    welcome(invited(email, role), GOOD).is(204);
    return signedIn(email);
  }

  private Visitor signedIn(String who) {
    Visitor visitor = new Visitor(port);
    visitor.signIn(who, GOOD).is(200);
    return visitor;
  }

  private int statusBy(String token, String path) {
    return exchange(
            HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                .header("Authorization", "Bearer " + token)
                .build())
        .status();
  }

  /** A file on the server, named in every way that LDIF has (RFC 2849, value-spec). */
  @DataProvider
  public Object[][] references() {
    return new Object[][] {
      {"cn:< %s"},
      {"cn:<%s"},
      {"cn:\n < %s"},
      {"cn:<\n  %s"},
      {"c\n n:< %s"},
      {"cn: < %s"},
      {"cn;lang-en:< %s"},
      {"CN:<  %s"},
      {"cn:\n  < %s"},
      {"cn:\n \n < %s"},
      {"#\ncn:< %s"},
      {"cn:\n# x\n < %s"},
    };
  }

  @Test(dataProvider = "references")
  public void aDirectoryFileOpensNoOther(String line) throws Exception {
    Path secret = Files.createTempFile("only-the-server-reads", ".txt");
    Files.writeString(secret, "the-servers-own-secret");
    String url = secret.toUri().toString();
    String file =
        "dn: uid=a,dc=x\nmail: %s\n%s\nuid: a\n\ndn: uid=b,dc=x\nmail: b%s\ncn: Honest\n"
            .formatted(email, line.formatted(url), email);
    for (String how : List.of("true", "false")) {
      Answer answer =
          sendRaw(WARDEN, "/api/exchange/files?name=people.ldif&dryRun=" + how, file).is(200);
      assertFalse(answer.body().contains("the-servers-own-secret"), answer.body());
    }
    String people = get(WARDEN, "/api/people?text=" + email).body();
    assertFalse(people.contains("the-servers-own-secret"), people);
    assertTrue(people.contains("Honest"), "what is honest in the file is taken: " + people);
  }

  @Test
  public void whoOwesAFactorReachesNothingElse() {
    Visitor member = member("warden");
    member.get("/api/meetings?size=1").is(200);
    // demanded now, it binds the session that is open
    send(WARDEN, "PUT", "/api/accounts/settings", Map.of("factorFor", "wardens")).is(200);
    for (String path :
        List.of(
            "/api/meetings?size=1",
            "/%61pi/meetings?size=1",
            "/api/%6deetings?size=1",
            "/%61%70%69/tokens",
            "/api;v=1/meetings",
            "/api/./meetings",
            "/api/account/../meetings",
            "/api/account/%2e%2e/meetings",
            "//api/meetings",
            "/API/meetings",
            "/api/openapi.json",
            "/%61pi/openapi.json",
            "/api/prometheus",
            "/%61pi/prometheus",
            "/api/live")) {
      int status = member.get(path).status();
      assertTrue(status >= 400, path + " answered " + status);
    }
    Map<String, Object> token = Map.of("purpose", "mine", "role", "warden", "minutes", 60);
    assertTrue(member.send("POST", "/%61pi/tokens", token).status() >= 400);
    member.get("/api/account").is(200);
    member.get("/%61pi/account").is(200);
  }

  @Test
  public void aTokenDoesNotOutliveWhoGaveItOrWhomItActsAs() {
    Visitor giver = member("warden");
    Map<String, Object> wanted = new HashMap<>(Map.of("purpose", "p", "role", "host"));
    wanted.put("minutes", 500_000);
    String person = "leaver" + System.nanoTime() + "@saltmarsh.example";
    Map<String, Object> here = new HashMap<>(Map.of("name", "Leaver", "standing", "member"));
    here.put("active", true);
    send(WARDEN, "PUT", "/api/people/" + person, here).is(200);
    wanted.put("actsAs", person.toUpperCase(java.util.Locale.ROOT));
    String token =
        giver.send("POST", "/api/tokens", wanted).is(201).body().get("token").stringValue();
    assertEquals(statusBy(token, "/api/meetings?size=1"), 200);
    here.put("active", false);
    send(WARDEN, "PUT", "/api/people/" + person, here).is(200);
    assertEquals(statusBy(token, "/api/meetings?size=1"), 401, "the person has left");
    here.put("active", true);
    send(WARDEN, "PUT", "/api/people/" + person, here).is(200);
    assertEquals(statusBy(token, "/api/meetings?size=1"), 200);
    wanted.put("role", "warden");
    wanted.remove("actsAs");
    String own =
        giver.send("POST", "/api/tokens", wanted).is(201).body().get("token").stringValue();
    send(WARDEN, "PUT", "/api/accounts/" + email, Map.of("role", "host", "active", true)).is(200);
    assertEquals(statusBy(token, "/api/meetings?size=1"), 401, "the giver is no warden any more");
    assertEquals(statusBy(own, "/api/meetings?size=1"), 401, "nor is its owner");
    wanted.put("role", "host");
    wanted.put("actsAs", "nobody-at-all@saltmarsh.example");
    post(WARDEN, "/api/tokens", wanted).is(422);
  }

  @Test
  public void aFeedDoesNotOutliveItsOwner() {
    Visitor owner = member("host");
    String path =
        owner
            .send("POST", "/api/feeds", Map.of("name", "mine", "person", email))
            .is(200)
            .body()
            .get("path")
            .stringValue();
    assertEquals(send(null, "GET", path, null).status(), 200);
    jdbc.sql("update feed set ends_at = utc_timestamp() + interval 1 minute").update();
    assertEquals(send(null, "GET", path, null).status(), 200);
    assertTrue(
        jdbc.sql("select min(ends_at) > utc_timestamp() + interval 80 day from feed")
            .query(Boolean.class)
            .single(),
        "reading it puts its end off");
    send(WARDEN, "PUT", "/api/accounts/" + email, Map.of("role", "host", "active", false)).is(200);
    assertEquals(send(null, "GET", path, null).status(), 404, "its owner has left");
    send(WARDEN, "PUT", "/api/accounts/" + email, Map.of("role", "host", "active", true)).is(200);
    assertEquals(send(null, "GET", path, null).status(), 200);
    jdbc.sql("update feed set ends_at = utc_timestamp() - interval 1 minute").update();
    assertEquals(send(null, "GET", path, null).status(), 404, "nobody read it for long enough");
  }

  private Map<String, Object> meeting(String host) {
    Map<String, Object> meeting = new HashMap<>();
    meeting.put("title", "Slipway " + System.nanoTime());
    meeting.put("host", host);
    meeting.put("start", "2031-05-06T09:00");
    meeting.put("zone", "Europe/Dublin");
    meeting.put("minutes", 30);
    return meeting;
  }

  private String scheduled(String who, Map<String, Object> meeting) {
    return post(who, "/api/meetings", Map.of("meeting", meeting, "reason", "a test"))
        .is(200)
        .json()
        .get("id")
        .stringValue();
  }

  @Test
  public void aFormerHostTakesNoMeetingBack() {
    Visitor former = member("host");
    Map<String, Object> form = meeting(email);
    String id =
        former
            .send("POST", "/api/meetings", Map.of("meeting", form))
            .is(200)
            .body()
            .get("id")
            .stringValue();
    // handed over; the former host stays as a co-host, which is how it was done
    form.put("host", HOST);
    form.put("coHosts", List.of(email));
    change(WARDEN, id, form).is(200);
    long version =
        get(WARDEN, "/api/meetings/" + id + "/history")
            .is(200)
            .json()
            .get("entries")
            .valueStream()
            .filter(entry -> entry.path("restorable").isNumber())
            .reduce((first, last) -> last)
            .orElseThrow()
            .get("restorable")
            .longValue();
    former.send("POST", "/api/meetings/" + id + "/restore?version=" + version, null).is(403);
    form.put("host", email);
    Map<String, Object> taking = new HashMap<>();
    taking.put("meeting", form);
    taking.put("version", version(id));
    former.send("PUT", "/api/meetings/" + id, taking).is(403);
    // cancelled by its host, it is theirs to put back
    send(WARDEN, "DELETE", "/api/meetings/" + id + "?version=" + version(id), null).is(200);
    former.send("POST", "/api/meetings/" + id + "/restore?version=" + version, null).is(404);
  }

  private long version(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json().get("version").longValue();
  }

  private Answer change(String who, String id, Map<String, Object> form) {
    Map<String, Object> body = new HashMap<>();
    body.put("meeting", form);
    body.put("version", version(id));
    body.put("reason", "a test");
    return send(who, "PUT", "/api/meetings/" + id, body);
  }

  @Test
  public void nobodyClaimsAnotherMeetingsNameInCalendars() {
    Visitor host = member("host");
    String victim = scheduled(WARDEN, meeting(HOST));
    Map<String, Object> claiming = meeting(email);
    claiming.put("uid", victim + "@upright-warden");
    claiming.put("sequence", 99);
    String id =
        host.send("POST", "/api/meetings", Map.of("meeting", claiming))
            .is(200)
            .body()
            .get("id")
            .stringValue();
    assertEquals(uids(id), 0, "a form does not say what a meeting is called");
    // nor does a file
    Map<String, Object> bundled = meeting(HOST);
    bundled.put("id", "m-claims-" + System.nanoTime());
    bundled.put("controls", Map.of());
    bundled.put("uid", victim + "@upright-warden");
    Answer taken =
        sendRaw(
            WARDEN,
            "/api/exchange/files?name=x.json&dryRun=false",
            json.writeValueAsString(
                Map.of("format", "upright-warden/1", "meetings", List.of(bundled))));
    assertEquals(uids(String.valueOf(bundled.get("id"))), 0, taken.body());
    assertTrue(taken.body().contains("(UID)"), taken.body());
  }

  private int uids(String id) {
    return jdbc.sql("select count(*) from meeting where public_id = ? and uid is not null")
        .param(id)
        .query(Integer.class)
        .single();
  }

  @Test
  public void oneWardenIsNotTwo() {
    send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=true", null).is(200);
    Answer draft =
        post(WARDEN, "/api/rulebook/drafts", Map.of("name", "alone", "from", "in-force")).is(201);
    long id = draft.json().at("/line/id").longValue();
    Map<String, Object> publishing = new HashMap<>();
    publishing.put("version", draft.json().get("version"));
    publishing.put("reason", "because");
    post(WARDEN, "/api/rulebook/drafts/" + id + "/publish", publishing).is(200);
    // a second account, made by the same hand
    Visitor other = member("warden");
    Visitor.Seen refused =
        other.send("POST", "/api/rulebook/drafts/" + id + "/consent", null).is(409);
    assertTrue(refused.text().contains(WARDEN), refused.text());
    other.send("PUT", "/api/rulebook/drafts/consent?needed=false", null).is(409);
    // the ledger says who set them, and both are told
    String ledger = get(AUDITOR, "/api/ledger?act=password.set-by-link&text=" + WARDEN).body();
    assertTrue(ledger.contains(email) && ledger.contains("credentialsSetBy"), ledger);
    String letters = get(WARDEN, "/api/outbox?about=account:" + email).is(200).body();
    assertTrue(letters.contains("\"to\":\"" + email) && letters.contains("\"to\":\"" + WARDEN));
    // a week later it is the other's own account
    jdbc.sql("update account set credentials_at = credentials_at - interval 8 day").update();
    other.send("POST", "/api/rulebook/drafts/" + id + "/consent", null).is(200);
  }

  @Test
  public void droppingAFactorNeedsACodeAndEndsOtherSessions() throws Exception {
    Visitor member = member("host");
    String secret =
        member
            .send("POST", "/api/account/second-factor", Map.of("current", GOOD))
            .is(200)
            .body()
            .get("secret")
            .stringValue();
    var codes =
        member
            .send(
                "PUT",
                "/api/account/second-factor",
                Map.of("code", Authenticator.code(secret, Instant.now())))
            .is(200)
            .body()
            .get("recoveryTokens");
    Visitor other = new Visitor(port);
    other.signIn(email, GOOD, codes.get(0).stringValue()).is(200);
    Map<String, String> without = Map.of("current", GOOD, "code", "123456");
    member.send("POST", "/api/account/second-factor/end", without).is(422);
    member.send("POST", "/api/account/second-factor/end", Map.of("current", GOOD)).is(422);
    other.get("/api/account").is(200);
    Map<String, String> with = Map.of("current", GOOD, "code", codes.get(1).stringValue());
    member.send("POST", "/api/account/second-factor/end", with).is(204);
    other.get("/api/account").is(401);
    member.get("/api/account").is(200);
    assertEquals(
        jdbc.sql("select count(*) from recovery_code where salt = ''")
            .query(Integer.class)
            .single(),
        0);
  }

  @Test
  public void onesOwnPasswordIsNotGuessedInASession() {
    Visitor thief = member("host");
    int refused = 0;
    for (int i = 0; i < 12; i++) {
      Map<String, String> guess = Map.of("current", "guess " + i);
      refused += thief.send("POST", "/api/account/second-factor", guess).status() == 429 ? 1 : 0;
    }
    assertTrue(refused > 0, "it is slowed like guessing at sign-in");
  }

  private <T> List<T> together(Callable<T> act) throws Exception {
    ExecutorService pool = Executors.newFixedThreadPool(AT_ONCE);
    CyclicBarrier start = new CyclicBarrier(AT_ONCE);
    List<Future<T>> all = new ArrayList<>();
    for (int i = 0; i < AT_ONCE; i++) {
      all.add(
          pool.submit(
              () -> {
                start.await();
                return act.call();
              }));
    }
    List<T> answers = new ArrayList<>();
    for (Future<T> each : all) {
      answers.add(each.get());
    }
    pool.shutdown();
    return answers;
  }

  @Test
  public void anInvitationIsGoodOnceForSixAtOnce() throws Exception {
    String token = invited(email, "host");
    List<Integer> answers = together(() -> welcome(token, GOOD).status());
    assertEquals(answers.stream().filter(s -> s == 204).count(), 1, answers.toString());
  }

  @Test
  public void aCodeIsGoodOnceForSixAtOnce() throws Exception {
    Visitor member = member("host");
    String secret =
        member
            .send("POST", "/api/account/second-factor", Map.of("current", GOOD))
            .is(200)
            .body()
            .get("secret")
            .stringValue();
    String recovery =
        member
            .send(
                "PUT",
                "/api/account/second-factor",
                Map.of("code", Authenticator.code(secret, Instant.now())))
            .is(200)
            .body()
            .get("recoveryTokens")
            .get(0)
            .stringValue();
    List<Integer> answers =
        together(() -> new Visitor(port).signIn(email, GOOD, recovery).status());
    assertEquals(answers.stream().filter(s -> s == 200).count(), 1, answers.toString());
  }

  @Test
  public void aCodeOfTheMomentIsGoodOnceForSixAtOnce() throws Exception {
    Visitor member = member("host");
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
            Map.of("code", Authenticator.code(secret, Instant.now().minusSeconds(30))))
        .is(200);
    String now = Authenticator.code(secret, Instant.now());
    List<Integer> answers = together(() -> new Visitor(port).signIn(email, GOOD, now).status());
    assertEquals(answers.stream().filter(s -> s == 200).count(), 1, answers.toString());
  }

  @Test
  public void aDraftIsPublishedOnceBySixAtOnce() throws Exception {
    Answer draft =
        post(WARDEN, "/api/rulebook/drafts", Map.of("name", "six", "from", "in-force")).is(201);
    long id = draft.json().at("/line/id").longValue();
    int before = get(WARDEN, "/api/rulebook/editions").json().size();
    Map<String, Object> publishing = new HashMap<>();
    publishing.put("version", draft.json().get("version"));
    publishing.put("reason", "six at once");
    List<Integer> answers =
        together(
            () -> post(WARDEN, "/api/rulebook/drafts/" + id + "/publish", publishing).status());
    assertEquals(answers.stream().filter(s -> s == 200).count(), 1, answers.toString());
    assertEquals(get(WARDEN, "/api/rulebook/editions").json().size(), before + 1);
  }

  @Test
  public void anImportIsTakenBackOnceBySixAtOnce() throws Exception {
    String table =
        "title,host,start,zone,minutes\nOnce,%s,2031-05-05T09:00,UTC,30\n".formatted(HOST);
    sendRaw(WARDEN, "/api/exchange/files?name=x.csv&dryRun=false", table).is(200);
    long id = get(WARDEN, "/api/exchange/imports").json().get(0).get("id").longValue();
    List<Integer> answers =
        together(() -> post(WARDEN, "/api/exchange/imports/" + id + "/take-back", null).status());
    assertEquals(answers.stream().filter(s -> s == 200).count(), 1, answers.toString());
  }

  @Test
  public void aSessionEndsAfterTwelveHoursWhateverHappens() {
    Visitor member = member("host");
    Visitor idle = signedIn(email);
    member.get("/api/account").is(200);
    age(member, "warden.opened", 12);
    member.get("/api/account").is(401);
    age(idle, "warden.active", 7);
    // a page that listens and asks by itself puts nothing off
    idle.get("/api/meetings?size=1").is(200);
    age(idle, "warden.active", 8);
    idle.get("/api/account").is(401);
  }

  /** As if so many hours had gone by; the session's times are in its attributes. */
  private void age(Visitor whose, String attribute, int hours) {
    String id =
        new String(
            java.util.Base64.getDecoder().decode(whose.cookie("warden-session")),
            java.nio.charset.StandardCharsets.UTF_8);
    java.io.ByteArrayOutputStream bytes = new java.io.ByteArrayOutputStream();
    try (java.io.ObjectOutputStream out = new java.io.ObjectOutputStream(bytes)) {
      out.writeObject(System.currentTimeMillis() - hours * 3_600_000L);
    } catch (java.io.IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
    assertEquals(
        jdbc.sql(
                "update SPRING_SESSION_ATTRIBUTES a join SPRING_SESSION s on s.primary_id ="
                    + " a.session_primary_id set attribute_bytes = ? where s.session_id = ? and"
                    + " attribute_name = ?")
            .params(bytes.toByteArray(), id, attribute)
            .update(),
        1);
  }

  /** A class that does something when it is read, as in every attack by serialised objects. */
  static final class Bomb implements java.io.Serializable {
    private static final long serialVersionUID = 1;
    static volatile boolean wentOff;

    private void readObject(java.io.ObjectInputStream in) {
      wentOff = true;
    }
  }

  @Test
  public void whatIsPutIntoASessionInTheDatabaseBuildsNothing() throws Exception {
    Visitor member = member("host");
    java.io.ByteArrayOutputStream bytes = new java.io.ByteArrayOutputStream();
    try (java.io.ObjectOutputStream out = new java.io.ObjectOutputStream(bytes)) {
      out.writeObject(new Bomb());
    }
    jdbc.sql("update SPRING_SESSION_ATTRIBUTES set attribute_bytes = ?")
        .param(bytes.toByteArray())
        .update();
    member.get("/api/account").is(401);
    assertFalse(Bomb.wentOff);
    jdbc.sql("delete from SPRING_SESSION").update();
  }

  @DataProvider
  public Object[][] guessed() {
    return new Object[][] {
      {"Summer2026!!!"},
      {"SaltmarshHarbour1"},
      {"limited one limited"},
      {"Winter2025!!!!"},
      {"Pilotage-2026-!"},
      {"iloveyou iloveyou"},
      {"S@ltmarsh2026!"},
      {"Nora-Quay-Nora-1"},
      {"november2026november"},
      {"harbour master 2026"},
      {"Passw0rd!Passw0rd!"},
      {"upright warden 1"},
      {"abcabcabcabc1"},
      {"January!February!"},
    };
  }

  @Test(dataProvider = "guessed")
  public void aPasswordThatIsGuessedIsNotTaken(String password) {
    welcome(invited(email, "host"), password).is(422);
  }

  @DataProvider
  public Object[][] unguessed() {
    return new Object[][] {
      {"correct horse battery staple"}, {"ferry otter umbrella 17"}, {"Xk9!vQ2#mL7p"},
      {"kelp-Rudder-41"}, {"gulls eat chips 44"}, {"жёлтая чайка над молом"},
    };
  }

  @Test(dataProvider = "unguessed")
  public void aGoodPasswordIsTaken(String password) {
    welcome(invited(email, "host"), password).is(204);
    String kept =
        jdbc.sql("select password_hash from account where email = ?")
            .param(email)
            .query(String.class)
            .single();
    assertTrue(kept.startsWith("$argon2id$v=19$m=47104,t=2,p=1$"), kept.substring(0, 30));
  }
}
