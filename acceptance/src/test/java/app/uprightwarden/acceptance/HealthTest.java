package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.sql.Connection;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import org.openqa.selenium.json.Json;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * A database that answers nothing, and one that is gone: the server lives and says that it is not
 * ready, whoever asks is told so instead of waiting for ever, and once it is back all goes on.
 */
public class HealthTest {
  private static final String SCHEMA = "warden_health";
  private static final String TOKEN = "a token that only this health knows";
  private static final Duration FOR_EVER = Duration.ofSeconds(60);
  private static final int MORE_THAN_THE_POOL = 25;

  private final HttpClient http = HttpClient.newHttpClient();
  private OwnDatabase database;
  private RunningWarden warden;

  @BeforeClass
  public void start() throws Exception {
    database = OwnDatabase.start("health-db");
    try (Connection connection = database.connect("")) {
      connection.createStatement().execute("create database " + SCHEMA);
    }
    warden = RunningWarden.start(SCHEMA, true, 0, database.url(SCHEMA));
    try (Connection connection = database.connect(SCHEMA)) {
      Tokens.issue(connection, TOKEN);
    }
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
    if (database != null) {
      database.close();
    }
  }

  private HttpRequest request(String path, boolean withToken) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(warden.address() + path)).timeout(FOR_EVER);
    if (withToken) {
      request.header("Authorization", "Bearer " + TOKEN);
    }
    return request.build();
  }

  /** A probe has no token. */
  private int probe(String which) throws IOException, InterruptedException {
    return http.send(request("/api/health/" + which, false), HttpResponse.BodyHandlers.discarding())
        .statusCode();
  }

  private void untilReady() throws IOException, InterruptedException {
    for (int i = 0; i < 300 && probe("readiness") != 200; i++) {
      TimeUnit.MILLISECONDS.sleep(200);
    }
    assertEquals(probe("readiness"), 200);
  }

  private List<HttpResponse<String>> many(String path) {
    List<CompletableFuture<HttpResponse<String>>> asked = new ArrayList<>();
    for (int i = 0; i < MORE_THAN_THE_POOL; i++) {
      asked.add(http.sendAsync(request(path, true), HttpResponse.BodyHandlers.ofString()));
    }
    return asked.stream().map(CompletableFuture::join).toList();
  }

  private void allIsWell() throws IOException, InterruptedException {
    untilReady();
    assertEquals(probe("liveness"), 200);
    for (HttpResponse<String> answer : many("/api/meetings?size=5")) {
      assertEquals(answer.statusCode(), 200, answer.body());
    }
  }

  private void saysThatItIsAway() throws IOException, InterruptedException {
    assertEquals(probe("readiness"), 503);
    assertEquals(probe("liveness"), 200, "to start it anew would help nobody");
    for (HttpResponse<String> answer : many("/api/meetings?size=5")) {
      assertEquals(answer.statusCode(), 503, answer.body());
      assertTrue(answer.body().contains("\"code\":\"store-away\""), answer.body());
    }
    HttpResponse<String> page =
        http.send(request("/", false), HttpResponse.BodyHandlers.ofString());
    assertEquals(page.statusCode(), 200, "the page itself needs no database");
  }

  @Test
  public void aDatabaseThatAnswersNothingIsSaidSo() throws IOException, InterruptedException {
    allIsWell();
    database.freeze();
    try {
      saysThatItIsAway();
    } finally {
      database.thaw();
    }
    allIsWell();
  }

  @Test
  public void aDatabaseThatIsGoneIsSaidSo() throws IOException, InterruptedException {
    allIsWell();
    database.kill();
    saysThatItIsAway();
    database.start();
    allIsWell();
    everyLineOfTheLogIsOneObject();
  }

  /** Spring says so; without it a start takes half as long again, and nothing else would tell. */
  @Test
  public void itRunsAsItWasWiredWhileItWasPacked() throws IOException {
    assertTrue(
        log().stream()
            .anyMatch(
                line -> String.valueOf(line.get("message")).startsWith("Starting AOT-processed")));
  }

  private static List<Map<String, Object>> log() throws IOException {
    List<Map<String, Object>> told = new ArrayList<>();
    for (String line :
        Files.readAllLines(
            Path.of(RunningWarden.environment("WARDEN_TEST_DIR")).resolve(SCHEMA + ".log"))) {
      told.add(new Json().toType(line, Json.MAP_TYPE));
    }
    return told;
  }

  /** Failures carry texts of several lines, and traces; none of them makes a line of its own. */
  private static void everyLineOfTheLogIsOneObject() throws IOException {
    List<Map<String, Object>> told = log();
    assertTrue(told.size() > 20, "the log tells of what happened");
    assertTrue(
        told.stream()
            .anyMatch(entry -> String.valueOf(entry.get("stack_trace")).contains("\n\tat ")),
        "a trace is in a line");
    for (Map<String, Object> entry : told) {
      assertTrue(entry.keySet().containsAll(List.of("@timestamp", "level", "message")), "" + entry);
    }
  }
}
