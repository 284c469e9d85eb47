package app.uprightwarden.server.alerting;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.ServerTest;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.sql.Timestamp;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.concurrent.CopyOnWriteArrayList;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Alerts reach whoever is on call, and a receiver that is away at first; each cause once. */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_alerting",
      "warden.services.local=true",
      "warden.alerts.look=200ms",
      "warden.jobs.poll=100ms",
      "warden.jobs.heartbeat=500ms"
    })
public class AlertingTest extends ServerTest {
  @Autowired private JdbcClient jdbc;
  private final List<Received> received = new CopyOnWriteArrayList<>();
  private HttpServer receiver;
  private volatile boolean isAway;

  /** What came to the receiver. */
  private record Received(String type, @Nullable String signature, byte[] body) {}

  @BeforeClass
  public void listen() throws IOException {
    receiver = HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 10);
    receiver.createContext(
        "/",
        exchange -> {
          byte[] body = exchange.getRequestBody().readAllBytes();
          if (!isAway) {
            received.add(
                new Received(
                    exchange.getRequestHeaders().getFirst("Content-Type"),
                    exchange.getRequestHeaders().getFirst(Wire.SIGNATURE),
                    body));
          }
          exchange.sendResponseHeaders(isAway ? 503 : 204, -1);
          exchange.close();
        });
    receiver.start();
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    receiver.stop(0);
  }

  private Map<String, Object> settings() {
    Map<String, Object> settings = new LinkedHashMap<>();
    settings.put("onCall", List.of(WARDEN, SECOND_WARDEN));
    settings.put("nextMinutes", 5);
    settings.put("leastSeverity", 3);
    settings.put("quietFrom", null);
    settings.put("quietTo", null);
    settings.put("quietZone", "Europe/Dublin");
    settings.put("webhook", "http://127.0.0.1:" + receiver.getAddress().getPort() + "/alerts");
    return settings;
  }

  private String practise(String title) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", HOST);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(20) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 60);
    form.put(
        "controls",
        Map.of(
            "passcode", "none",
            "waiting-room", "off",
            "sign-in", "none",
            "early-entry", "any-time",
            "screen-share", "everyone",
            "return-after-removal", "allowed"));
    String meeting =
        post(
                WARDEN,
                "/api/meetings",
                Map.of("version", 0, "meeting", form, "send", false, "reason", "a test of alerts"))
            .is(200)
            .json()
            .get("id")
            .stringValue();
    return post(
            WARDEN,
            "/api/floor/sessions",
            Map.of("meeting", meeting, "script", "strangers", "speed", 30, "strangers", 1))
        .is(201)
        .json()
        .get("id")
        .stringValue();
  }

  private List<String> mails(String session, String to) {
    return jdbc.sql("select body from outbox_message where about = ? and recipient = ? order by id")
        .params("session:" + session, to)
        .query(String.class)
        .list();
  }

  /** What came of one session: another's may still be on its way. */
  private List<Received> received(String session) {
    return received.stream()
        .filter(each -> new String(each.body(), StandardCharsets.UTF_8).contains(session))
        .toList();
  }

  private void end(String session) {
    post(
            WARDEN,
            "/api/floor/sessions/" + session + "/orders",
            Map.of("key", "e-" + System.nanoTime(), "act", "end", "people", List.of()))
        .is(200);
  }

  @Test
  public void aCauseIsToldOnceAndGoesOnToTheNextWhereNobodyAcknowledgesIt() {
    send(HOST, "PUT", "/api/alerting", settings()).is(403);
    JsonNode view = send(WARDEN, "PUT", "/api/alerting", settings()).is(200).json();
    String secret = view.path("secret").stringValue();
    assertEquals(
        get(WARDEN, "/api/alerting").json().path("secret").stringValue(""), "", "said once");
    isAway = true;
    String session = practise("Told of");
    until("the first on call is told", () -> mails(session, WARDEN).size() == 1);
    String mail = mails(session, WARDEN).get(0);
    assertTrue(mail.contains("Told of") && mail.contains("can share the screen"), mail);
    until(
        "the receiver was tried in vain",
        () -> get(WARDEN, "/api/alerting").json().at("/deliveries/0/tries").intValue(0) > 0);
    assertEquals(received(session).size(), 0);
    isAway = false;
    until("the receiver has it", () -> received(session).size() == 1);

    Received event = received(session).get(0);
    assertEquals(event.type(), "application/cloudevents+json; charset=UTF-8");
    assertTrue(Wire.isSigned(secret, Instant.now(), event.body(), event.signature()));
    assertFalse(Wire.isSigned("another", Instant.now(), event.body(), event.signature()));
    JsonNode told = new JsonMapper().readTree(event.body());
    // CloudEvents 1.0.2, section 3.1: the attributes that an event must have, none of them empty
    assertEquals(told.path("specversion").stringValue(), "1.0");
    for (String required : List.of("id", "source", "type")) {
      assertFalse(told.path(required).stringValue().isBlank(), required);
    }
    // section 3.1.1 and RFC 3339: a time, where there is one
    Instant.parse(told.path("time").stringValue());
    assertEquals(told.path("subject").stringValue(), session);
    assertEquals(told.at("/data/title").stringValue(), "Told of");
    assertTrue(told.at("/data/alerts").size() > 0);

    assertEquals(mails(session, SECOND_WARDEN).size(), 0);
    jdbc.sql("update alert_told set next_at = date_sub(next_at, interval 1 hour) where session = ?")
        .param(session)
        .update();
    until("the next is told", () -> mails(session, SECOND_WARDEN).size() == 1);
    assertTrue(
        mails(session, SECOND_WARDEN).get(0).contains(WARDEN + " was told"),
        mails(session, SECOND_WARDEN).get(0));
    assertEquals(received(session).size(), 1, "an event is told once");
    end(session);
  }

  @Test
  public void whoIsOnCallIsNotPutBackByWhoOpenedTheSettingsBefore() {
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
    long seen = get(WARDEN, "/api/alerting").is(200).json().path("version").longValue();
    Map<String, Object> anew = settings();
    anew.put("onCall", List.of(SECOND_WARDEN));
    anew.put("version", seen);
    long now =
        send(WARDEN, "PUT", "/api/alerting", anew).is(200).json().path("version").longValue();
    assertEquals(now, seen + 1);
    Map<String, Object> late = settings();
    late.put("nextMinutes", 7);
    late.put("version", seen);
    JsonNode said = send(SECOND_WARDEN, "PUT", "/api/alerting", late).is(409).json();
    assertEquals(said.path("code").stringValue(), "changed-meanwhile");
    JsonNode settings = get(WARDEN, "/api/alerting").json().path("settings");
    assertEquals(settings.at("/onCall/0").stringValue(), SECOND_WARDEN);
    late.put("version", now);
    send(SECOND_WARDEN, "PUT", "/api/alerting", late).is(200);
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
  }

  @Test
  public void whatSomebodyLooksAfterGoesOnToNobody() {
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
    String session = practise("Looked after");
    until("the first on call is told", () -> mails(session, WARDEN).size() == 1);
    for (JsonNode each :
        get(WARDEN, "/api/floor/sessions/" + session).is(200).json().path("alerts")) {
      if (each.path("state").stringValue("").equals("open")) {
        post(
                WARDEN,
                "/api/floor/alerts/" + each.path("id").longValue(),
                Map.of("state", "acknowledged"))
            .is(200);
      }
    }
    int changed =
        jdbc.sql(
                "update alert_told set next_at = date_sub(next_at, interval 1 hour) where session"
                    + " = ?")
            .param(session)
            .update();
    assertTrue(changed > 0);
    until(
        "it was looked at",
        () ->
            jdbc.sql("select count(*) from alert_told where session = ? and next_at < now()")
                    .param(session)
                    .query(Integer.class)
                    .single()
                == 0);
    assertEquals(mails(session, SECOND_WARDEN).size(), 0);
    end(session);
  }

  @Test
  public void inQuietHoursOnlyTheGravestIsTold() {
    Map<String, Object> quiet = settings();
    quiet.put("quietFrom", "00:00");
    quiet.put("quietTo", "23:59");
    quiet.put(
        "quietZone",
        "Etc/GMT" + (Instant.now().atZone(ZoneOffset.UTC).getHour() < 12 ? "-6" : "+6"));
    send(WARDEN, "PUT", "/api/alerting", quiet).is(200);
    String session = practise("Quiet");
    until("who is in before any host is of the gravest", () -> !mails(session, WARDEN).isEmpty());
    String graver = mails(session, WARDEN).get(0);
    assertTrue(graver.contains("came in before any host was there"), graver);
    end(session);
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
  }

  /** Somebody is put out, comes back, and that is told of again. */
  @Test
  public void whatIsOverAndComesBackIsToldAgain() {
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
    String session = practise("Comes back");
    until("it was told of", () -> toldAt(session, "person/s-1").isPresent());
    Instant first = toldAt(session, "person/s-1").orElseThrow();
    post(
            WARDEN,
            "/api/floor/sessions/" + session + "/orders",
            Map.of("key", "r-" + System.nanoTime(), "act", "remove", "people", List.of("s-1")))
        .is(200);
    until(
        "they are back, and it is told of",
        () -> toldAt(session, "person/s-1").filter(first::isBefore).isPresent());
    end(session);
  }

  /** When a cause was told of that is not over. */
  private Optional<Instant> toldAt(String session, String cause) {
    return jdbc.sql("select told_at from alert_told where session = ? and cause = ? and step > 0")
        .params(session, cause)
        .query(Timestamp.class)
        .optional()
        .map(Timestamp::toInstant);
  }

  /** What is milder than somebody wants to hear of reaches nobody. */
  @Test
  public void whatIsMilderThanWantedReachesNobody() {
    Map<String, Object> grave = settings();
    grave.put("leastSeverity", 5);
    grave.put("quietFrom", "00:00");
    grave.put("quietTo", "00:00");
    send(WARDEN, "PUT", "/api/alerting", grave).is(200);
    String session = practise("Milder");
    until(
        "it is past what is milder",
        () ->
            get(WARDEN, "/api/floor/sessions/" + session)
                .json()
                .path("alerts")
                .valueStream()
                .anyMatch(each -> each.path("severity").intValue() < 5));
    until("the gravest is told", () -> !mails(session, WARDEN).isEmpty());
    mails(session, WARDEN)
        .forEach(mail -> assertFalse(mail.contains("is in and no host is"), mail));
    end(session);
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
  }

  @Test
  public void whatCannotBeMeantIsRefusedAndATestIsSentEveryWay() {
    Map<String, Object> wrong = settings();
    wrong.put("webhook", "ftp://somewhere");
    send(WARDEN, "PUT", "/api/alerting", wrong).is(422);
    wrong = settings();
    wrong.put("quietZone", "Mars/Olympus");
    send(WARDEN, "PUT", "/api/alerting", wrong).is(422);
    wrong = settings();
    wrong.put("quietFrom", "22:00");
    send(WARDEN, "PUT", "/api/alerting", wrong).is(422);
    wrong = settings();
    wrong.put("onCall", List.of("nobody"));
    send(WARDEN, "PUT", "/api/alerting", wrong).is(422);
    isAway = false;
    send(WARDEN, "PUT", "/api/alerting", settings()).is(200);
    JsonNode sent = post(WARDEN, "/api/alerting/test", null).is(200).json();
    assertEquals(sent.path("ways").size(), 2);
    until(
        "the test came",
        () ->
            received.stream()
                .anyMatch(
                    each ->
                        new String(each.body(), StandardCharsets.UTF_8)
                            .contains("app.uprightwarden.test")));
  }
}
