package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Two servers on one database behind a proxy, with the conference service's stand-in in a process
 * of its own: what one does the other knows, work is done once, and when one is killed the other
 * carries on.
 */
public class TwoNodesTest {
  private static final String SCHEMA = "warden_two";
  private static final long PATIENCE_NANOS = 150_000_000_000L;

  private final CookieManager cookies = new CookieManager();
  private OwnDatabase database;
  private RunningWarden bridge;
  private RunningWarden one;
  private RunningWarden two;
  private Proxy proxy;
  private Map<String, String> shared;

  @BeforeClass
  public void start() throws Exception {
    database = OwnDatabase.start("two-db");
    try (Connection connection = database.connect("")) {
      connection.createStatement().execute("create database " + SCHEMA);
    }
    int bridgePort = RunningWarden.freePort();
    int proxyPort = RunningWarden.freePort();
    shared =
        Map.of(
            "WARDEN_BRIDGE_ADDRESS",
            "http://127.0.0.1:" + bridgePort,
            "WARDEN_BRIDGE_SECRET",
            "known to the three");
    // both at once, on an empty database: one fills it
    one = RunningWarden.begin(SCHEMA, "two-one", true, 300, database.url(SCHEMA), shared);
    two = RunningWarden.begin(SCHEMA, "two-two", true, 300, database.url(SCHEMA), shared);
    one.await();
    two.await();
    proxy = new Proxy(List.of(one.port(), two.port()), proxyPort);
    bridge =
        RunningWarden.begin(
            SCHEMA,
            "two-bridge",
            false,
            0,
            database.url(SCHEMA),
            Map.of(
                "WARDEN_ONLY",
                "bridge",
                "WARDEN_BRIDGE_PORT",
                Integer.toString(bridgePort),
                "WARDEN_BRIDGE_SECRET",
                "known to the three",
                "WARDEN_BRIDGE_CALLBACK",
                proxy.address() + "/api/bridge/events"));
    bridge.listensAt(bridgePort);
    until(
        "the first audits are done",
        "select count(*) from audit_run where state in ('waiting', 'running')",
        0);
    send(proxy.address(), "GET", "/api/session", "");
    HttpResponse<String> in =
        send(
            proxy.address(),
            "POST",
            "/api/session",
            """
            {"email": "m.sachs@saltmarsh.example", "password": "low-water-0642"}""");
    assertEquals(in.statusCode(), 200, in.body());
  }

  @AfterClass(alwaysRun = true)
  public void stop() throws Exception {
    for (AutoCloseable each :
        Stream.of(proxy, one, two, bridge, database).filter(c -> c != null).toList()) {
      each.close();
    }
  }

  /** Each call on a connection of its own, so that the proxy sends it where it will. */
  private HttpResponse<String> send(String server, String method, String path, String body)
      throws IOException, InterruptedException {
    String token =
        cookies.getCookieStore().getCookies().stream()
            .filter(c -> c.getName().equals("XSRF-TOKEN"))
            .map(HttpCookie::getValue)
            .findFirst()
            .orElse("");
    return HttpClient.newBuilder()
        .cookieHandler(cookies)
        .version(HttpClient.Version.HTTP_1_1)
        .build()
        .send(
            HttpRequest.newBuilder(URI.create(server + path))
                .header("Content-Type", "application/json")
                .header("X-XSRF-TOKEN", token)
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
  }

  private long id(HttpResponse<String> answer, int status) {
    assertEquals(answer.statusCode(), status, answer.body());
    return Long.parseLong(answer.body().replaceFirst("(?s).*?\"id\":(\\d+).*", "$1"));
  }

  private long number(String sql) {
    try (Connection connection = database.connect(SCHEMA);
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      return -1;
    }
  }

  private void until(String what, String sql, long value) throws InterruptedException {
    long end = System.nanoTime() + PATIENCE_NANOS;
    for (long now = number(sql); now != value; now = number(sql)) {
      assertTrue(System.nanoTime() < end, "in vain: " + what + "; it is at " + now);
      TimeUnit.MILLISECONDS.sleep(50);
    }
  }

  @Test
  public void oneFilledTheDatabaseAndBothServeIt() throws Exception {
    assertEquals(number("select count(*) from account where email like 'm.sachs%'"), 1);
    assertEquals(number("select count(distinct public_id) - count(*) from meeting"), 0);
    for (RunningWarden server : List.of(one, two)) {
      HttpResponse<String> service = send(server.address(), "GET", "/api/service", "");
      assertEquals(service.statusCode(), 200, "one session is good at both");
      assertTrue(service.body().contains(":" + one.port() + "\""), service.body());
      assertTrue(service.body().contains(":" + two.port() + "\""), service.body());
    }
    for (int i = 0; i < 6; i++) {
      assertEquals(send(proxy.address(), "GET", "/api/lookout", "").statusCode(), 200);
    }
  }

  @Test
  public void aPageAtOneHearsOfWhatWasDoneAtTheOther() throws Exception {
    CompletableFuture<String> heard = new CompletableFuture<>();
    var unused =
        HttpClient.newBuilder()
            .cookieHandler(cookies)
            .build()
            .sendAsync(
                HttpRequest.newBuilder(URI.create(one.address() + "/api/live")).build(),
                HttpResponse.BodyHandlers.ofLines())
            .thenAccept(
                answer ->
                    answer
                        .body()
                        .filter(line -> line.contains("runs"))
                        .findFirst()
                        .ifPresent(heard::complete));
    TimeUnit.SECONDS.sleep(1); // it listens by then, or hears of the next
    id(send(two.address(), "POST", "/api/audits", "{}"), 202);
    heard.get(30, TimeUnit.SECONDS);
  }

  @Test
  public void workIsDoneOnceWhoeverTakesIt() throws Exception {
    for (int i = 0; i < 4; i++) {
      id(send(proxy.address(), "POST", "/api/audits", "{}"), 202);
    }
    long versions = number("select count(*) from meeting_version");
    long job =
        id(
            send(
                proxy.address(),
                "POST",
                "/api/remedies",
                """
                {"wholeCheck": "beyond-limit", "wholeSubject": "screen-share", "evenIfAsked": true}"""),
            202);
    String items = "select count(*) from remedy_item where job = " + job;
    long all = number(items);
    assertTrue(all > 10, "there is something to mend: " + all);
    until("all is mended", items + " and state = 'done'", all);
    assertEquals(number("select count(*) from meeting_version") - versions, all, "each once");
    assertEquals(
        number(
            "select count(*) from bridge_command where id in (select concat('remedy-', id, '-0')"
                + " from remedy_item where job = "
                + job
                + ")"),
        all);
    until(
        "the audits are done",
        "select count(*) from audit_run where state in ('waiting', 'running')",
        0);
    assertEquals(
        number(
            "select count(*) from audit_run r where state = 'done' and findings <> (select count(*)"
                + " from finding f where f.audit = r.id)"),
        0);
    String due = "select count(*) from audit_run where cause = 'schedule' and schedule is not null";
    long before = number(due);
    try (Connection connection = database.connect(SCHEMA)) {
      connection
          .createStatement()
          .execute("update audit_schedule set next_at = utc_timestamp(), active = 1 limit 1");
    }
    until("the scheduled audit was begun", due, before + 1);
    TimeUnit.SECONDS.sleep(3); // the other looks as well
    assertEquals(number(due), before + 1, "by one of them");
  }

  private String open() throws Exception {
    HttpResponse<String> answer =
        send(
            proxy.address(),
            "POST",
            "/api/floor/sessions",
            """
            {"meeting": "m-0001", "script": "usual", "speed": 4, "strangers": 0}""");
    assertEquals(answer.statusCode(), 201, answer.body());
    String session = answer.body().replaceFirst("(?s).*\"id\":\"([^\"]+)\".*", "$1");
    until(
        "the session is open",
        "select folded > 0 from floor_session where id = '" + session + "'",
        1);
    return session;
  }

  private static String order(String key, String act) {
    return """
        {"key": "%s", "act": "%s", "people": []}"""
        .formatted(key, act);
  }

  @Test
  public void anOrderGivenAtBothIsCarriedOutOnce() throws Exception {
    String session = open();
    String path = "/api/floor/sessions/" + session + "/orders";
    CompletableFuture<Integer> there =
        CompletableFuture.supplyAsync(
            () -> {
              try {
                return send(two.address(), "POST", path, order("both-1", "lock")).statusCode();
              } catch (IOException | InterruptedException e) {
                throw new IllegalStateException(e);
              }
            });
    assertEquals(send(one.address(), "POST", path, order("both-1", "lock")).statusCode(), 200);
    assertEquals(there.get(30, TimeUnit.SECONDS), Integer.valueOf(200));
    String locked =
        "select count(*) from floor_event where session = '" + session + "' and body like '%lock%'";
    until("it is locked", locked, 1);
    assertEquals(send(one.address(), "POST", path, order("both-2", "unlock")).statusCode(), 200);
    until("and unlocked", locked, 2);
    for (RunningWarden server : List.of(one, two)) {
      HttpResponse<String> page =
          send(server.address(), "GET", "/api/floor/sessions/" + session, "");
      assertEquals(page.statusCode(), 200);
      assertTrue(page.body().contains("\"locked\":false"), page.body());
    }
  }

  @Test
  public void whenOneIsKilledTheOtherCarriesOn() throws Exception {
    try (RunningWarden third =
            RunningWarden.begin(SCHEMA, "two-three", true, 300, database.url(SCHEMA), shared);
        Proxy between = new Proxy(List.of(third.port(), two.port()))) {
      third.await();
      whenOneIsKilledTheOtherCarriesOn(third, between);
    }
  }

  private void whenOneIsKilledTheOtherCarriesOn(RunningWarden one, Proxy proxy) throws Exception {
    String session = open();
    long job =
        id(
            send(
                one.address(),
                "POST",
                "/api/remedies",
                """
                {"wholeCheck": "beyond-limit", "wholeSubject": "lobby-bypass", "evenIfAsked": true}"""),
            202);
    long audit = id(send(one.address(), "POST", "/api/audits", "{}"), 202);
    one.kill();
    // whoever is signed in goes on, on the next call
    for (int i = 0; i < 4; i++) {
      assertEquals(send(proxy.address(), "GET", "/api/lookout", "").statusCode(), 200);
    }
    assertEquals(
        send(
                proxy.address(),
                "POST",
                "/api/floor/sessions/" + session + "/orders",
                order("after-1", "lock"))
            .statusCode(),
        200);
    until(
        "the session is heard of",
        "select count(*) from floor_event where session = '" + session + "' and body like '%lock%'",
        1);
    until(
        "the audit ends",
        "select count(*) from audit_run where state = 'done' and id = " + audit,
        1);
    String items = "select count(*) from remedy_item where job = " + job;
    until("all is mended", items + " and state = 'done'", number(items));
    HttpResponse<String> verified = send(proxy.address(), "POST", "/api/ledger/verification", "");
    assertTrue(verified.body().contains("\"whole\":true"), verified.body());
  }
}
