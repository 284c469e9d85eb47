package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.sql.DriverManager;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.TimeUnit;
import org.openqa.selenium.json.Json;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/**
 * Attacks on the packaged application from outside, by a stranger on the network and by one host
 * with an account: whatever they send, others are answered meanwhile and the process lives.
 */
public class IntruderTest {
  private static final String SCHEMA = "warden_intruder";
  private static final String TOKEN = "a token that only this intruder knows";
  private static final String WARDEN = "a token that only the watcher knows";
  private static final Duration PATIENCE = Duration.ofSeconds(60);
  private static final Json JSON = new Json();

  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private RunningWarden warden;

  @BeforeClass
  public void start() throws Exception {
    warden = RunningWarden.start(SCHEMA);
    try (Connection connection =
        DriverManager.getConnection(
            RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
            RunningWarden.environment("WARDEN_TEST_DB_USER"),
            RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"))) {
      Tokens.issue(connection, TOKEN, "host", "m.okafor@saltmarsh.example");
      Tokens.issue(connection, WARDEN);
    }
    while (send("GET", "/api/audits/standing", WARDEN, "").statusCode() >= 500) {
      TimeUnit.MILLISECONDS.sleep(200);
    }
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  private HttpResponse<String> send(String method, String path, String token, String body)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(warden.address() + path))
            .timeout(PATIENCE)
            .header("Content-Type", "application/json")
            .method(
                method,
                body.isEmpty()
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body));
    if (token != null) {
      request.header("Authorization", "Bearer " + token);
    }
    return http.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private Socket open() throws IOException {
    return new Socket(java.net.InetAddress.getLoopbackAddress(), warden.port());
  }

  private static void write(Socket socket, String text) throws IOException {
    OutputStream out = socket.getOutputStream();
    out.write(text.getBytes(StandardCharsets.US_ASCII));
    out.flush();
  }

  private String begin(String path, long length) {
    return "POST "
        + path
        + " HTTP/1.1\r\nHost: 127.0.0.1:"
        + warden.port()
        + "\r\nContent-Type: application/json\r\nContent-Length: "
        + length
        + "\r\n\r\n";
  }

  /** Milliseconds that others wait, who read and write meanwhile: the 95th of 100. */
  private long othersWait(int asks) throws Exception {
    List<Long> waits = new ArrayList<>();
    for (int i = 0; i < asks; i++) {
      long start = System.nanoTime();
      int status =
          i % 2 == 0
              ? send("GET", "/api/meetings?size=5", WARDEN, "").statusCode()
              : send(
                      "POST",
                      "/api/rehearse",
                      WARDEN,
                      """
                      {"controls": {"waiting-room": "on"}, "joiner": {"standing": "unknown",
                       "tie": "none", "route": "app", "holdsPasscode": false, "removed": false,
                       "listedPresenter": false},
                       "moment": {"minutesFromStart": 1, "hostIn": true, "locked": false}}
                      """)
                  .statusCode();
      assertEquals(status, 200, "others are answered");
      waits.add((System.nanoTime() - start) / 1_000_000);
    }
    Collections.sort(waits);
    return waits.get(waits.size() * 95 / 100);
  }

  private void assertWell() throws Exception {
    assertEquals(send("GET", "/api/health", null, "").statusCode(), 200);
    assertTrue(ProcessHandle.of(warden.pid()).isPresent(), "the process is the same");
    assertTrue(othersWait(20) < PATIENCE.toMillis());
  }

  /** What a stranger can send to, and what is there for others. */
  @DataProvider
  public Object[][] open4() {
    return new Object[][] {
      {"/api/session"},
      {"/api/bridge/events"},
      {"/api/services/1/told"},
      {"/api/welcome"},
      {"/api/meetings"},
      {"/nowhere"},
    };
  }

  @Test(dataProvider = "open4")
  public void slowBodiesStopNobodyElse(String path) throws Exception {
    List<Socket> slow = new ArrayList<>();
    try {
      for (int i = 0; i < 230; i++) {
        Socket socket = open();
        write(socket, begin(path, 1000) + "{");
        slow.add(socket);
      }
      long wait = othersWait(40);
      System.out.println("slow bodies to " + path + ": others' 95th " + wait + " ms");
      assertTrue(wait < 20_000, "nobody waits for those who are slow: " + wait);
    } finally {
      for (Socket socket : slow) {
        socket.close();
      }
    }
    assertWell();
  }

  @Test
  public void largeBodiesThatStallStopNobodyElse() throws Exception {
    List<Socket> slow = new ArrayList<>();
    try {
      for (int i = 0; i < 100; i++) {
        Socket socket = open();
        write(
            socket,
            begin("/api/assess", 1_900_000)
                .replace("Host:", "Authorization: Bearer " + TOKEN + "\r\nHost:"));
        slow.add(socket);
      }
      long wait = othersWait(40);
      System.out.println("large stalled bodies: others' 95th " + wait + " ms");
      assertTrue(wait < 20_000, String.valueOf(wait));
    } finally {
      for (Socket socket : slow) {
        socket.close();
      }
    }
    assertWell();
  }

  @Test
  public void strangersCannotFillTheMemory() throws Exception {
    String eight = "x".repeat(8 * 1024 * 1024);
    ExecutorService pool = Executors.newFixedThreadPool(60);
    try {
      List<Future<?>> all = new ArrayList<>();
      for (int i = 0; i < 60; i++) {
        String path = List.of("/api/bridge/events", "/api/session", "/api/welcome").get(i % 3);
        all.add(
            pool.submit(
                () -> {
                  try (Socket socket = open()) {
                    write(socket, begin(path, eight.length()));
                    write(socket, eight);
                  } catch (IOException e) {
                    // cut off, as it should be
                  }
                }));
      }
      long wait = othersWait(40);
      System.out.println("sixty times 8 MB: others' 95th " + wait + " ms");
      for (Future<?> each : all) {
        each.get();
      }
    } finally {
      pool.shutdownNow();
    }
    assertWell();
    String answer = send("POST", "/api/bridge/events", null, "x".repeat(70_000)).body();
    assertTrue(answer.contains("too-large"), answer);
  }

  @Test
  public void aStreamOfConnectionsLeavesSomeForOthers() throws Exception {
    List<Socket> all = new ArrayList<>();
    try {
      for (int i = 0; i < 450; i++) {
        all.add(open());
      }
      assertTrue(othersWait(20) < 20_000);
    } finally {
      for (Socket socket : all) {
        socket.close();
      }
    }
    assertWell();
  }

  @Test
  public void onePersonHasSoManyStreamsAndNoMore() throws Exception {
    List<CompletableFuture<HttpResponse<InputStream>>> streams = new ArrayList<>();
    int refused = 0;
    for (int i = 0; i < 40; i++) {
      HttpResponse<InputStream> answer =
          http.send(
              HttpRequest.newBuilder(URI.create(warden.address() + "/api/live"))
                  .header("Authorization", "Bearer " + TOKEN)
                  .timeout(PATIENCE)
                  .build(),
              HttpResponse.BodyHandlers.ofInputStream());
      refused += answer.statusCode() == 429 ? 1 : 0;
      streams.add(CompletableFuture.completedFuture(answer));
    }
    assertTrue(refused >= 20, "refused: " + refused);
    assertWell(); // somebody else still may
    for (var stream : streams) {
      stream.get().body().close();
    }
  }

  private String meeting(String more) {
    return """
        {"version": 0, "send": false, "reason": "", "word": "", "meeting": {"title": "x",
         "host": "m.okafor@saltmarsh.example", "start": "2031-05-06T09:00", "zone": "UTC",
         "minutes": 30%s}}
        """
        .formatted(more);
  }

  private static String times(int count) {
    StringBuilder list = new StringBuilder("[");
    for (int i = 0; i < count; i++) {
      list.append(i == 0 ? "" : ",")
          .append('"')
          .append(java.time.LocalDateTime.of(2031, 1, 1, 0, 0).plusMinutes(i * 37L))
          .append('"');
    }
    return list.append(']').toString();
  }

  /** What one host can send that once took minutes, or the heap, or broke others' pages. */
  @DataProvider
  public Object[][] heavy() {
    String sixty =
        String.join(
            ",", java.util.stream.IntStream.range(0, 60).mapToObj(String::valueOf).toList());
    String hours =
        String.join(
            ",", java.util.stream.IntStream.range(0, 24).mapToObj(String::valueOf).toList());
    StringBuilder invitees = new StringBuilder();
    for (int i = 0; i < 3000; i++) {
      invitees
          .append(i == 0 ? "" : ",")
          .append("{\"email\":\"p")
          .append(i)
          .append("@elsewhere.example\"}");
    }
    String recurrence =
        "\"FREQ=DAILY;BYHOUR=%s;BYMINUTE=%s;BYSECOND=%s;BYSETPOS=1\""
            .formatted(hours, sixty, sixty);
    return new Object[][] {
      {
        new Heavy(
            "/api/assess",
            "{\"format\":\"upright-warden/1\",\"meetings\":[{}" + ",{}".repeat(10_000_000) + "]}")
      },
      {
        new Heavy(
            "/api/assess",
            "{\"format\":\"upright-warden/1\",\"meetings\":[{}" + ",{}".repeat(600_000) + "]}")
      },
      {new Heavy("/api/assess", "[" + "{},".repeat(600_000) + "{}]")},
      {new Heavy("/api/meetings", meeting(",\"rDates\":" + times(20_500)))},
      {new Heavy("/api/meetings", meeting(",\"rDates\":" + times(9_000)))},
      {new Heavy("/api/meetings", meeting(",\"exDates\":" + times(300_000)))},
      {new Heavy("/api/meetings", meeting(",\"recurrence\":" + recurrence))},
      {new Heavy("/api/scheduling/foretaste", "{\"meeting\":{\"recurrence\":" + recurrence + "}}")},
      {
        new Heavy(
            "/api/meetings",
            meeting(",\"invitees\":[" + invitees + "]")
                .replace("\"send\": false", "\"send\": true"))
      },
      {
        new Heavy(
            "/api/rehearse",
            "{\"controls\":" + "{\"a\":".repeat(50_000) + "1" + "}".repeat(50_000) + "}")
      },
    };
  }

  /** A request that is heavy; its name in reports is not the whole of it. */
  private record Heavy(String path, String body) {
    @Override
    public String toString() {
      return path + " with " + body.length() / 1024 + " KB";
    }
  }

  @Test(dataProvider = "heavy")
  public void oneHostsHeaviestIsRefusedAndOthersAreAnswered(Heavy heavy) throws Exception {
    String path = heavy.path();
    CompletableFuture<Integer> answer =
        CompletableFuture.supplyAsync(
            () -> {
              try {
                return send("POST", path, TOKEN, heavy.body()).statusCode();
              } catch (IOException e) {
                return 413; // cut off while it was still sending
              } catch (InterruptedException e) {
                throw new IllegalStateException(e);
              }
            });
    long wait = othersWait(20);
    int status = answer.get(60, TimeUnit.SECONDS);
    System.out.println(heavy + ": " + status + ", others' 95th " + wait + " ms");
    boolean isPreview = path.endsWith("/foretaste"); // it says what is wrong in its answer
    assertTrue(status >= 400 && status < 500 || isPreview, path + " answered " + status);
    assertWell();
    assertEquals(
        send("GET", "/api/meetings?from=2031-01-01T00:00:00Z&size=10", WARDEN, "").statusCode(),
        200);
  }

  @Test
  public void aNullInAListBreaksNobodysScheduling() throws Exception {
    for (String body :
        List.of("{\"name\":\"x\",\"members\":[null]}", "{\"name\":\"x\",\"members\":null}")) {
      assertEquals(
          send("PUT", "/api/people/groups/lists/nulls", WARDEN, body).statusCode(), 422, body);
    }
    assertEquals(
        send("POST", "/api/scheduling/foretaste", TOKEN, "{\"meeting\":{\"title\":\"x\"}}")
            .statusCode(),
        200);
  }

  /** RFC 7230 section 3.3.3: whoever disagrees on where a request ends lets another one in. */
  @DataProvider
  public Object[][] smuggled() {
    return new Object[][] {
      {"Content-Length: 4\r\nTransfer-Encoding: chunked"},
      {"Content-Length: 4\r\nContent-Length: 6"},
      {"Transfer-Encoding: chunked\r\nTransfer-Encoding: identity"},
      {"Transfer-Encoding : chunked"},
      {"Content-Length: +4"},
      {"Content-Length: -1"},
      {"Content-Length: 99999999999999999999"},
    };
  }

  @Test(dataProvider = "smuggled")
  public void noSecondRequestHidesInTheFirst(String headers) throws Exception {
    try (Socket socket = open()) {
      socket.setSoTimeout(15_000);
      write(
          socket,
          "POST /api/session HTTP/1.1\r\nHost: x\r\n"
              + headers
              + "\r\n\r\n0\r\n\r\nGET /api/health HTTP/1.1\r\nHost: x\r\n\r\n");
      ByteArrayOutputStream all = new ByteArrayOutputStream();
      byte[] some = new byte[8192];
      try {
        int n = socket.getInputStream().read(some);
        while (n >= 0) {
          all.write(some, 0, n);
          n = socket.getInputStream().read(some);
        }
      } catch (IOException e) {
        // closed, or nothing more comes
      }
      String answers = all.toString(StandardCharsets.UTF_8);
      assertFalse(answers.contains("\"status\":\"UP\""), answers);
    }
    assertWell();
  }

  @Test
  public void nobodyIsBelievedOnWhereTheyComeFrom() throws Exception {
    // each failure from "another" address would be another's; the throttle sees one
    int slowed = 0;
    for (int i = 0; i < 60; i++) {
      HttpClient browser =
          HttpClient.newBuilder().cookieHandler(new java.net.CookieManager()).build();
      HttpRequest.Builder look =
          HttpRequest.newBuilder(URI.create(warden.address() + "/api/session"));
      String cookie =
          browser
              .send(look.build(), HttpResponse.BodyHandlers.discarding())
              .headers()
              .allValues("Set-Cookie")
              .stream()
              .filter(c -> c.startsWith("XSRF-TOKEN="))
              .map(c -> c.substring(11, c.indexOf(';')))
              .findFirst()
              .orElse("");
      int status =
          browser
              .send(
                  HttpRequest.newBuilder(URI.create(warden.address() + "/api/session"))
                      .header("Content-Type", "application/json")
                      .header("X-XSRF-TOKEN", cookie)
                      .header("X-Forwarded-For", "203.0.113." + i)
                      .header("Forwarded", "for=203.0.113." + i)
                      .header("X-Real-IP", "203.0.113." + i)
                      .POST(
                          HttpRequest.BodyPublishers.ofString(
                              "{\"email\":\"nobody" + i + "@x.example\",\"password\":\"wrong\"}"))
                      .build(),
                  HttpResponse.BodyHandlers.discarding())
              .statusCode();
      slowed += status == 429 ? 1 : 0;
    }
    assertTrue(slowed > 0, "one who claims to be everywhere is one");
  }

  @Test
  public void everyLineOfTheLogIsJson() throws Exception {
    // a report as PDF, whose libraries have their own ways of logging
    List<?> audits =
        (List<?>) JSON.toType(send("GET", "/api/audits", WARDEN, "").body(), List.class);
    Object id = ((java.util.Map<?, ?>) audits.get(0)).get("id");
    send("GET", "/api/audits/" + id + "/report?as=pdf", WARDEN, "");
    Path log = Path.of(RunningWarden.environment("WARDEN_TEST_DIR"), SCHEMA + ".log");
    List<String> odd =
        Arrays.stream(Files.readString(log).split("\n"))
            .filter(line -> !line.isBlank() && !line.startsWith("{"))
            .toList();
    assertEquals(odd, List.of());
  }
}
