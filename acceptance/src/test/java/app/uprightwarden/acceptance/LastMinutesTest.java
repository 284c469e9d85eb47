package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.sql.Connection;
import java.sql.DriverManager;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.stream.Stream;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Minutes before a meeting begins: a host and a warden, each in a browser of their own. */
public class LastMinutesTest {
  private static final String SCHEMA = "warden_last_minutes";
  private static final String TOKEN = "a token that only this test knows";

  private final HttpClient http = HttpClient.newHttpClient();
  private final List<String> received = new CopyOnWriteArrayList<>();
  private HttpServer receiver;
  private RunningWarden warden;
  private Browser browser;

  @BeforeClass
  public void start() throws Exception {
    receiver = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
    receiver.createContext(
        "/",
        exchange -> {
          received.add(
              new String(exchange.getRequestBody().readAllBytes(), StandardCharsets.UTF_8));
          exchange.sendResponseHeaders(204, -1);
          exchange.close();
        });
    receiver.start();
    warden = RunningWarden.startAnew(SCHEMA, Map.of("WARDEN_SERVICES_LOCAL", "true"));
    try (Connection connection = connect()) {
      Tokens.issue(connection, TOKEN);
    }
  }

  private static Connection connect() throws SQLException {
    return DriverManager.getConnection(
        RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
        RunningWarden.environment("WARDEN_TEST_DB_USER"),
        RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"));
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
    receiver.stop(0);
  }

  @BeforeMethod
  public void open() {
    browser = new Browser(warden.address());
  }

  @AfterMethod(alwaysRun = true)
  public void close() {
    browser.close();
  }

  private String send(String method, String path, String body, int status)
      throws IOException, InterruptedException {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(warden.address() + path))
                .header("Authorization", "Bearer " + TOKEN)
                .header("Content-Type", "application/json")
                .method(method, HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    assertEquals(answer.statusCode(), status, answer.body());
    return answer.body();
  }

  /** A meeting that begins in ten minutes, with its waiting room off. */
  private String meeting(String title) throws IOException, InterruptedException {
    LocalDateTime start =
        LocalDateTime.ofInstant(Instant.now(), ZoneOffset.UTC)
            .plusMinutes(10)
            .truncatedTo(ChronoUnit.MINUTES);
    String body =
        """
        {"version": 0, "send": false, "reason": "a test of the last minutes", "meeting": {
          "title": "%s", "host": "m.okafor@saltmarsh.example", "start": "%s", "zone": "UTC",
          "minutes": 60, "invitees": [{"email": "o.treharne@saltmarsh.example"}],
          "controls": {"waiting-room": "off", "early-entry": 0, "screen-share": "presenters"}}}
        """
            .formatted(title, start);
    return send("POST", "/api/meetings", body, 200)
        .replaceAll("(?s).*?\"id\":\"([^\"]+)\".*", "$1");
  }

  @Test
  public void whatIsMendedTenMinutesBeforeIsSoInTheSession() throws Exception {
    String id = meeting("Ten minutes before");
    try (Browser host = new Browser(warden.address())) {
      host.signIn("m.okafor");
      host.go("/register/" + id);
      host.press("Start now");
      host.until("the session", b -> host.path().startsWith("/floor/"));
      host.sees("Ten minutes before");
      host.until("its waiting room is off", b -> setting(host, "Waiting room").equals("off"));

      // the warden finds it on the wall, is told that it is in session, and mends it
      browser.signIn("m.sachs");
      browser.go("/audit");
      browser.sees("Ten minutes before");
      browser.moveTo("Ten minutes before");
      browser.keys(org.openqa.selenium.Keys.ENTER);
      browser.sees("Least change");
      browser.sees("It is in session, which follows at once.");
      browser.applyByKey();
      browser.sees("Done in 1 meeting.");

      // what the host sees is so without anything pressed
      host.until("it is on", b -> setting(host, "Waiting room").equals("on"));

      // the host cannot go back behind it, and reads why
      choose(host, "Waiting room", "off");
      host.sees("A warden can allow it");
      host.until("it stands", b -> setting(host, "Waiting room").equals("on"));
      host.leaveField();
      host.keys("E");
      host.sees("cannot be taken up again");
      host.press("End for all");
      host.sees("The session ended by");
      browser.hasNothingToComplainOf();
    }
  }

  private static String setting(Browser in, String name) {
    return String.valueOf(
        in.script(
            "const l = [...document.querySelectorAll('header label')].find(l =>"
                + " l.innerText.trim().startsWith('"
                + name
                + "')); return l ? l.querySelector('select').value : ''"));
  }

  private static void choose(Browser in, String name, String value) {
    in.script(
        "const s = [...document.querySelectorAll('header label')].find(l =>"
            + " l.innerText.trim().startsWith('"
            + name
            + "')).querySelector('select'); s.value = '"
            + value
            + "'; s.dispatchEvent(new Event('change', {bubbles: true}))");
  }

  @Test
  public void aStrangerIsToldOfOnceAndTheRollSaysWhoWasThere() throws Exception {
    send(
        "PUT",
        "/api/alerting",
        """
        {"onCall": ["m.sachs@saltmarsh.example"], "nextMinutes": 5, "leastSeverity": 3,
         "quietFrom": null, "quietTo": null, "quietZone": "UTC",
         "webhook": "http://127.0.0.1:%d/alerts"}
        """
            .formatted(receiver.getAddress().getPort()),
        200);
    browser.signIn("m.sachs");
    browser.go("/door?meeting=m-0001&set=return-after-removal:allowed");
    browser.press("Put it in the meeting");
    browser.sees("The meeting is changed.");
    browser.go("/floor?practise=m-0001");
    browser.sees("Practise a session");
    browser.press("Open it");
    browser.sees("A stranger is in before the host");

    // told to the receiver, in the envelope of CloudEvents, and to the mailbox of who is on call
    browser.until("it was told", b -> told().findAny().isPresent());
    String first = told().findFirst().orElseThrow();
    assertTrue(first.contains("\"specversion\":\"1.0\"") && first.contains("Rob"), first);

    // on every page a strip says so
    String session = browser.path();
    browser.go("/register");
    browser.sees("To the session");
    browser.go(session);
    browser.sees("Somebody shares who should not");

    // removed and barred, they call by telephone, where nobody knows them: only a lock keeps them
    // out
    browser.leaveField();
    browser.keys("l");
    browser.goToPerson("Rob");
    browser.keys("b");
    browser.sees("Rob was removed and barred");
    browser.keys("L");
    browser.sees("The meeting was locked by");
    browser.sees("Rob was refused: removed before.");
    browser.sees("came to the door by telephone");
    browser.until(
        "they stay out", b -> browser.text().matches("(?s).*Caller \\d+ was refused: .*"));
    assertFalse(browser.text().matches("(?s).*Caller \\d+ is in as .*"), "nobody let them in");
    browser.leaveField();
    browser.keys("E");
    browser.sees("cannot be taken up again");
    browser.press("End for all");
    browser.sees("The session ended by");

    // afterwards: who was there and who was not
    browser.leaveField();
    browser.keys("v");
    browser.sees("Attendance");
    browser.sees("not there");
    browser.sees("unknown, not invited");
    browser.sees("How long this is kept");
    browser.press("Hold it for a legal reason…");
    browser.tabTo("input[maxlength='1000']");
    browser.keys("A dispute about who shared.");
    browser.press("Hold it");
    browser.sees("Held by m.sachs since");
    browser.press("Release it");
    browser.seesNot("Held by m.sachs since");
    assertEquals(told().distinct().count(), told().count(), "each is told once");
    browser.hasNothingToComplainOf();
  }

  /** What came to the receiver about the session that is practised. */
  private Stream<String> told() {
    return received.stream().filter(each -> each.contains("Storm call, outer channel"));
  }
}
