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
import java.sql.DriverManager;
import java.time.Duration;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.openqa.selenium.json.Json;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Sends every call the largest that it says it takes, made from the description of the interface:
 * each list and text filled to its limit, until the body has the size that is taken. Whatever it
 * answers, it is an answer, and the process lives. The times are printed; ./bench/run hostile has
 * them.
 */
public class LargestInputTest {
  private static final String SCHEMA = "warden_largest";
  private static final String TOKEN = "a token that fills everything";
  private static final int BODY = 240_000;
  private static final Duration PATIENCE = Duration.ofSeconds(60);
  private static final Json JSON = new Json();

  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private RunningWarden warden;
  private Map<?, ?> description;

  @BeforeClass
  public void start() throws Exception {
    warden = RunningWarden.start(SCHEMA);
    try (Connection connection =
        DriverManager.getConnection(
            RunningWarden.environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + SCHEMA),
            RunningWarden.environment("WARDEN_TEST_DB_USER"),
            RunningWarden.environment("WARDEN_TEST_DB_PASSWORD"))) {
      Tokens.issue(connection, TOKEN);
    }
    description = JSON.toType(Files.readString(Path.of("../web/openapi.json")), Map.class);
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    if (warden != null) {
      warden.close();
    }
  }

  private static Object at(Object map, String key) {
    return map instanceof Map<?, ?> m ? m.get(key) : null;
  }

  /** The largest value of a schema that has about so many characters. */
  private Object largest(Object schema, int budget, int depth) {
    Object reference = at(schema, "$ref");
    if (reference != null) {
      String name = String.valueOf(reference).replaceAll(".*/", "");
      return largest(at(at(at(description, "components"), "schemas"), name), budget, depth);
    }
    String type = String.valueOf(at(schema, "type"));
    if (at(schema, "enum") instanceof List<?> words && !words.isEmpty()) {
      return words.get(0);
    }
    if (type.contains("array")) {
      int each = Math.min(200, Math.max(1, budget / 4));
      Object one = largest(at(schema, "items"), each, depth + 1);
      int size = Math.max(1, JSON.toJson(one).length());
      Object most = at(schema, "maxItems");
      int limit = most instanceof Number n ? n.intValue() : 100_000;
      List<Object> list = new ArrayList<>();
      for (int i = 0; i < Math.min(limit, budget / (size + 1)); i++) {
        list.add(one);
      }
      return list;
    }
    if (at(schema, "properties") instanceof Map<?, ?> properties && depth < 6) {
      Map<String, Object> object = new LinkedHashMap<>();
      int left = budget;
      int parts = properties.size();
      for (Map.Entry<?, ?> part : properties.entrySet()) {
        Object value = largest(part.getValue(), left / Math.max(1, parts--), depth + 1);
        object.put(String.valueOf(part.getKey()), value);
        left -= Math.min(left, JSON.toJson(value).length());
      }
      return object;
    }
    if (type.contains("integer") || type.contains("number")) {
      return at(schema, "maximum") instanceof Number n ? n.longValue() : Integer.MAX_VALUE;
    }
    if (type.contains("boolean")) {
      return true;
    }
    if (type.contains("object") || at(schema, "additionalProperties") != null) {
      Map<String, Object> free = new TreeMap<>();
      for (int i = 0; i < Math.min(5000, budget / 20); i++) {
        free.put("key" + i, List.of(i, "v"));
      }
      return free;
    }
    String format = String.valueOf(at(schema, "format"));
    if (format.equals("date-time")) {
      return "2031-01-01T09:00:00Z";
    }
    int most = at(schema, "maxLength") instanceof Number n ? n.intValue() : 100_000;
    return "é@.".repeat(Math.max(1, Math.min(most, budget) / 4));
  }

  private HttpResponse<String> send(String method, String path, String body)
      throws IOException, InterruptedException {
    return http.send(
        HttpRequest.newBuilder(URI.create(warden.address() + path))
            .timeout(PATIENCE)
            .header("Content-Type", "application/json")
            .header("Authorization", "Bearer " + TOKEN)
            .method(method, HttpRequest.BodyPublishers.ofString(body))
            .build(),
        HttpResponse.BodyHandlers.ofString());
  }

  @Test
  public void everyCallAnswersTheLargestItTakes() throws Exception {
    Map<String, Long> times = new TreeMap<>();
    List<String> wrong = new ArrayList<>();
    Map<?, ?> paths = (Map<?, ?>) description.get("paths");
    for (Map.Entry<?, ?> path : paths.entrySet()) {
      for (String verb : List.of("post", "put", "patch")) {
        Object schema =
            at(
                at(at(at(at(path.getValue(), verb), "requestBody"), "content"), "application/json"),
                "schema");
        if (schema == null) {
          continue;
        }
        String address =
            String.valueOf(path.getKey())
                .replace("{email}", "x@x.example")
                .replace("{sort}", "lists")
                .replaceAll("\\{[^}]*}", "1");
        String body = JSON.toJson(largest(schema, BODY, 0));
        long start = System.nanoTime();
        int status = send(verb.toUpperCase(Locale.ROOT), address, body).statusCode();
        String call = verb + " " + address + " (" + body.length() / 1024 + " KB)";
        times.put(call, (System.nanoTime() - start) / 1_000_000);
        if (status >= 500) {
          wrong.add(call + " answered " + status);
        }
      }
    }
    times.entrySet().stream()
        .sorted(Map.Entry.<String, Long>comparingByValue().reversed())
        .limit(8)
        .forEach(e -> System.out.println(e.getValue() + " ms: " + e.getKey()));
    assertTrue(times.size() > 40, "they are found: " + times.size());
    assertEquals(String.join("\n", wrong), "");
    assertTrue(ProcessHandle.of(warden.pid()).isPresent());
  }

  /** As many invited, dates and exceptions as one meeting holds, with a letter to each. */
  @Test
  public void aMeetingAsFullAsItMayBeIsSavedAndShown() throws Exception {
    StringBuilder invitees = new StringBuilder();
    StringBuilder dates = new StringBuilder();
    for (int i = 0; i < 1000; i++) {
      invitees.append(i == 0 ? "" : ",").append("{\"email\":\"p" + i + "@elsewhere.example\"}");
      dates
          .append(i == 0 ? "" : ",")
          .append('"')
          .append(java.time.LocalDateTime.of(2031, 1, 1, 9, 0).plusHours(i * 5L))
          .append('"');
    }
    String meeting =
        """
        {"version": 0, "send": true, "reason": "as full as may be", "word": "", "meeting":
         {"title": "full", "host": "m.okafor@saltmarsh.example", "start": "2031-05-06T09:00",
         "zone": "UTC", "minutes": 30, "recurrence": "FREQ=DAILY", "description": "%s",
         "invitees": [%s], "rDates": [%s], "exDates": [%s]}}
        """
            .formatted("agenda ".repeat(2000), invitees, dates, dates);
    long start = System.nanoTime();
    HttpResponse<String> saved = send("POST", "/api/meetings", meeting);
    System.out.println(
        (System.nanoTime() - start) / 1_000_000 + " ms: a full meeting with 1,000 letters");
    assertEquals(saved.statusCode(), 200, saved.body());
    assertTrue(saved.body().contains("\"sent\":1000"), saved.body());
    String id = String.valueOf(JSON.<Map<?, ?>>toType(saved.body(), Map.class).get("id"));
    for (String page : List.of("/form", "/history", "/answers", "")) {
      start = System.nanoTime();
      int status =
          http.send(
                  HttpRequest.newBuilder(
                          URI.create(warden.address() + "/api/meetings/" + id + page))
                      .timeout(PATIENCE)
                      .header("Authorization", "Bearer " + TOKEN)
                      .build(),
                  HttpResponse.BodyHandlers.ofString())
              .statusCode();
      System.out.println((System.nanoTime() - start) / 1_000_000 + " ms: its page" + page);
      assertEquals(status, 200, page);
    }
  }
}
