package app.uprightwarden.standins;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.session.Wire;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.time.Instant;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What the stand-ins promise to whoever speaks with them, in good times and in bad. */
public class StandInTest {
  private static final Map<String, Object> TIDES =
      Map.of(
          "title",
          "Tides",
          "host",
          "h@saltmarsh.example",
          "start",
          "2027-01-11T09:00",
          "zone",
          "UTC",
          "minutes",
          60);

  private final JsonMapper json = new JsonMapper();
  private final HttpClient http = HttpClient.newHttpClient();
  private Path file;
  private StandIn standIn;
  private Now clock;

  /** A clock that stands where it is put. */
  private static final class Now extends Clock {
    private Instant at = Instant.parse("2027-01-04T09:00:00Z");

    @Override
    public ZoneId getZone() {
      return ZoneOffset.UTC;
    }

    @Override
    public Clock withZone(ZoneId zone) {
      return this;
    }

    @Override
    public Instant instant() {
      return at;
    }
  }

  @BeforeMethod
  public void start() throws IOException {
    file = Files.createTempDirectory("stand-in").resolve("held.jsonl");
    clock = new Now();
    standIn = standIn(Make.CURLEW);
  }

  @AfterMethod
  public void stop() {
    standIn.close();
  }

  private StandIn standIn(Make make) throws IOException {
    return new StandIn(make, 0, "a key", file, clock);
  }

  private HttpResponse<String> send(
      String method, String path, Map<String, ?> body, Map<String, String> headers)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(standIn.address() + path))
            .header("Authorization", "Bearer a key")
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(json.writeValueAsString(body)));
    headers.forEach(request::setHeader);
    return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private JsonNode get(String path) throws IOException, InterruptedException {
    HttpResponse<String> answer = send("GET", path, null, Map.of());
    assertEquals(answer.statusCode(), 200, answer.body());
    return json.readTree(answer.body());
  }

  private static Map<String, Object> controls(String control, Object value) {
    return Map.of("controls", Map.of(control, value));
  }

  @Test
  public void aCommandIsDoneOnce() throws IOException, InterruptedException {
    Map<String, String> command = Map.of("Command-Id", "c-1");
    HttpResponse<String> first = send("POST", "/v2/meetings", TIDES, command);
    HttpResponse<String> again = send("POST", "/v2/meetings", TIDES, command);
    assertEquals(again.body(), first.body());
    assertEquals(standIn.ids().size(), 1);
  }

  @Test
  public void aChangeOnAnOlderRevisionIsNotDone() throws IOException, InterruptedException {
    String id = standIn.make("h@saltmarsh.example", TIDES);
    String revision = "\"" + standIn.revision(id) + '"';
    standIn.behindOurBack(id, "k@saltmarsh.example", controls("waiting-room", "off"));
    Map<String, String> headers = new LinkedHashMap<>();
    headers.put("Command-Id", "c-2");
    headers.put("If-Match", revision);
    Map<String, Object> patch = controls("waiting-room", "on");
    assertEquals(send("PATCH", "/v2/meetings/" + id, patch, headers).statusCode(), 412);
    headers.put("If-Match", "\"" + standIn.revision(id) + '"');
    assertEquals(send("PATCH", "/v2/meetings/" + id, patch, headers).statusCode(), 200);
    assertEquals(standIn.holds(id).path("controls").path("waiting-room").stringValue(), "on");
  }

  @Test
  public void aPoorServiceRefusesWhatItCannotHold() throws IOException, InterruptedException {
    String id = standIn.make("h@saltmarsh.example", TIDES);
    Map<String, String> headers = Map.of("Command-Id", "c-3");
    for (Map<String, Object> beyond :
        java.util.List.of(
            controls("lobby-bypass", "named"),
            controls("early-entry", 10),
            controls("phone-bypass", "waits"),
            controls("presenter-role", "members"),
            controls("chat", "hosts-post"))) {
      assertEquals(
          send("PATCH", "/v2/meetings/" + id, beyond, headers).statusCode(), 422, "" + beyond);
    }
    JsonNode means = get("/v2/about").path("controls");
    assertTrue(means.path("phone-bypass").isMissingNode());
    assertEquals(means.path("lobby-bypass").path("instead").path("named").stringValue(), "hosts");
  }

  @Test
  public void changesAreToldOldestFirstAndFromAMarkerOn() throws IOException, InterruptedException {
    String one = standIn.make("h@saltmarsh.example", TIDES);
    String two = standIn.make("h@saltmarsh.example", TIDES);
    standIn.behindOurBack(one, "k@saltmarsh.example", controls("waiting-room", "on"));
    JsonNode page = get("/v2/meetings?limit=1");
    assertEquals(page.path("meetings").path(0).path("id").stringValue(), two);
    assertTrue(page.path("more").booleanValue());
    JsonNode rest = get("/v2/meetings?after=" + page.path("marker").stringValue());
    assertEquals(rest.path("meetings").path(0).path("id").stringValue(), one);
    assertEquals(
        rest.path("meetings").path(0).path("changedBy").stringValue(), "k@saltmarsh.example");
    standIn.cancelBehindOurBack(one, "k@saltmarsh.example");
    JsonNode gone = get("/v2/meetings?after=" + rest.path("marker").stringValue());
    assertTrue(gone.path("meetings").path(0).path("cancelled").booleanValue());
  }

  @Test
  public void aMarkerIsForgottenAfterAnHourAndWithABackup()
      throws IOException, InterruptedException {
    standIn.backUp();
    String marker = get("/v2/meetings").path("marker").stringValue();
    clock.at = clock.at.plusSeconds(3500);
    assertEquals(send("GET", "/v2/meetings?after=" + marker, null, Map.of()).statusCode(), 200);
    clock.at = clock.at.plusSeconds(200);
    assertEquals(send("GET", "/v2/meetings?after=" + marker, null, Map.of()).statusCode(), 410);
    String fresh = get("/v2/meetings").path("marker").stringValue();
    String made = standIn.make("h@saltmarsh.example", TIDES);
    assertTrue(standIn.ids().contains(made));
    standIn.restore();
    assertEquals(standIn.ids().size(), 0);
    assertEquals(send("GET", "/v2/meetings?after=" + fresh, null, Map.of()).statusCode(), 410);
  }

  @Test
  public void whatItHoldsIsThereAgainAfterItWasKilled() throws IOException {
    String id = standIn.make("h@saltmarsh.example", TIDES);
    long revision = standIn.revision(id);
    // not closed: as after a signal 9, with the last line cut in the middle
    Files.writeString(
        file,
        Files.readString(file) + "{\"is\":\"meeting\",\"id\":\"half",
        java.nio.file.StandardOpenOption.TRUNCATE_EXISTING);
    standIn.close();
    standIn = standIn(Make.CURLEW);
    assertEquals(standIn.holds(id).path("title").stringValue(), "Tides");
    assertEquals(standIn.revision(id), revision);
    String next = standIn.make("h@saltmarsh.example", TIDES);
    assertTrue(standIn.revision(next) > revision);
    assertNotEquals(
        standIn.holds(next).path("number").stringValue(),
        standIn.holds(id).path("number").stringValue());
  }

  @Test
  public void whoAsksTooOftenIsToldWhenToAskAgain() throws IOException, InterruptedException {
    HttpResponse<String> answer = send("GET", "/v2/about", null, Map.of());
    for (int i = 0; i < 30 && answer.statusCode() == 200; i++) {
      answer = send("GET", "/v2/about", null, Map.of());
    }
    assertEquals(answer.statusCode(), 429);
    assertEquals(answer.headers().firstValue("Retry-After").orElse(""), "1");
  }

  @Test
  public void nobodyWithoutTheKey() throws IOException, InterruptedException {
    assertEquals(
        send("GET", "/v2/about", null, Map.of("Authorization", "Bearer another")).statusCode(),
        401);
    standIn.faults().keyWithdrawn = true;
    assertEquals(send("GET", "/v2/about", null, Map.of()).statusCode(), 401);
  }

  private static Map<String, Object> plan(String id) {
    Map<String, Object> plan = new LinkedHashMap<>();
    plan.put("id", id);
    plan.put("meeting", "c-1");
    plan.put("title", "Tides");
    plan.put("host", "h@saltmarsh.example");
    plan.put("start", "2027-01-04T09:05:00Z");
    plan.put("end", "2027-01-04T10:00:00Z");
    plan.put("from", "2027-01-04T09:00:00Z");
    plan.put("controls", Map.of("waiting-room", "on", "no-such-control", 1));
    plan.put("roster", List.of());
    plan.put("practice", Map.of("script", "usual", "speed", 1, "strangers", 0, "seed", 7));
    return plan;
  }

  private static Map<String, Object> order(String id, String act) {
    return Map.of("id", id, "by", "h@saltmarsh.example", "act", act, "people", List.of());
  }

  @Test
  public void aSessionIsOpenedOnceAndDoesWhatItIsToldOnce()
      throws IOException, InterruptedException {
    String path = "/v2/sessions/s-1";
    assertEquals(send("GET", path + "/events?after=0", null, Map.of()).statusCode(), 404);
    assertEquals(send("POST", path + "/orders", order("o-1", "lock"), Map.of()).statusCode(), 404);
    assertEquals(send("PUT", path, plan("another"), Map.of()).statusCode(), 422);
    assertEquals(send("PUT", path, plan("s-1"), Map.of()).statusCode(), 200);
    assertEquals(send("PUT", path, plan("s-1"), Map.of()).statusCode(), 200);
    for (int i = 0; i < 2; i++) {
      HttpResponse<String> answer = send("POST", path + "/orders", order("o-1", "lock"), Map.of());
      assertTrue(json.readTree(answer.body()).path("done").booleanValue(), answer.body());
    }
    JsonNode events = get(path + "/events?after=0").path("events");
    assertEquals(
        events.valueStream().map(each -> each.path("kind").stringValue()).toList(),
        List.of("opened", "locked"));
    assertEquals(events.get(1).path("with").path("cause").stringValue(), "o-1");
    assertEquals(send("POST", path + "/orders", order("o-2", "dance"), Map.of()).statusCode(), 400);
  }

  @Test
  public void whatIsNewIsToldWhereItWasToldAndByWhoCan() throws Exception {
    assertEquals(
        send("PUT", "/v2/hook", Map.of("address", "http://127.0.0.1:1/"), Map.of()).statusCode(),
        404,
        "a poor one has to be asked");
    standIn.close();
    BlockingQueue<String> told = new LinkedBlockingQueue<>();
    HttpServer receiver =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    receiver.createContext(
        "/told",
        exchange -> {
          byte[] body = exchange.getRequestBody().readAllBytes();
          String signature = exchange.getRequestHeaders().getFirst(Wire.SIGNATURE);
          told.add(
              Wire.isSigned("a key", clock.instant(), body, signature)
                  ? new String(body, StandardCharsets.UTF_8)
                  : "not signed");
          exchange.sendResponseHeaders(204, -1);
          exchange.close();
        });
    receiver.start();
    try {
      file = file.resolveSibling("redshank.jsonl");
      standIn = standIn(Make.REDSHANK);
      assertEquals(
          send("PUT", "/v2/hook", Map.of("address", "ftp://x"), Map.of()).statusCode(), 422);
      String here = "http://127.0.0.1:" + receiver.getAddress().getPort() + "/told";
      assertEquals(send("PUT", "/v2/hook", Map.of("address", here), Map.of()).statusCode(), 200);
      standIn.make("h@saltmarsh.example", TIDES);
      assertEquals(told.poll(20, TimeUnit.SECONDS), "{\"changed\":true,\"events\":[]}");
      send("PUT", "/v2/sessions/s-1", plan("s-1"), Map.of());
      String opened = told.poll(20, TimeUnit.SECONDS);
      assertTrue(opened != null && opened.contains("\"kind\":\"opened\""), opened);
      // it remembers where, after it was killed
      standIn.close();
      standIn = standIn(Make.REDSHANK);
      assertEquals(String.valueOf(standIn.hook()), here);
    } finally {
      receiver.stop(0);
    }
  }

  @Test
  public void ordersAreTakenFromItsOwnPagesOnly() throws IOException, InterruptedException {
    String id = standIn.make("h@saltmarsh.example", TIDES);
    String form = "meeting=" + id + "&by=x&control=waiting-room&value=on";
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(standIn.address() + "/change"))
            .POST(HttpRequest.BodyPublishers.ofString(form));
    assertEquals(status(request.copy()), 403);
    assertEquals(status(request.copy().header("Origin", "https://evil.example")), 403);
    assertEquals(status(request.copy().header("Origin", standIn.address().toString())), 303);
    assertEquals(standIn.holds(id).path("controls").path("waiting-room").stringValue(), "on");
    HttpResponse<String> page =
        http.send(
            HttpRequest.newBuilder(URI.create(standIn.address() + "/?meeting=" + id)).build(),
            HttpResponse.BodyHandlers.ofString());
    assertTrue(page.body().contains("Changed last by x at"), page.body());
  }

  private int status(HttpRequest.Builder request) throws IOException, InterruptedException {
    return http.send(request.build(), HttpResponse.BodyHandlers.discarding()).statusCode();
  }
}
