package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.HashMap;
import java.util.Map;
import java.util.concurrent.locks.LockSupport;
import java.util.function.BooleanSupplier;
import java.util.function.IntSupplier;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.boot.test.context.SpringBootTest;
import org.springframework.boot.test.web.server.LocalServerPort;
import org.springframework.test.context.ContextConfiguration;
import org.springframework.test.context.DynamicPropertyRegistry;
import org.springframework.test.context.DynamicPropertySource;
import org.springframework.test.context.testng.AbstractTestNGSpringContextTests;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * A test against the whole server on a real port with a real database, which {@code ./warden test}
 * starts. All such tests share one server with the demo organisation in it.
 */
@SpringBootTest(webEnvironment = SpringBootTest.WebEnvironment.RANDOM_PORT)
@ContextConfiguration(initializers = FilledSchema.class)
public abstract class ServerTest extends AbstractTestNGSpringContextTests {
  /** Tests run in several processes at once; each has schemas and files of its own. */
  protected static final String FORK = System.getProperty("test.fork", "1");

  private static final long PATIENCE = 90_000_000_000L;

  protected static final String WARDEN = "m.sachs@saltmarsh.example";
  protected static final String AUDITOR = "o.treharne@saltmarsh.example";
  protected static final String SECOND_WARDEN = "second.warden@saltmarsh.example";

  /** Looks after the unit of pilots. */
  protected static final String UNIT_WARDEN = "unit.warden@saltmarsh.example";

  protected static final String HOST = "m.okafor@saltmarsh.example";

  protected final JsonMapper json = JsonMapper.builder().build();
  private final HttpClient http = HttpClient.newHttpClient();
  private final Map<String, String> tokens = new HashMap<>();

  @LocalServerPort protected int port;
  @Autowired protected TokensForTests tokensForTests;

  /**
   * A test that others must not feel says {@code @TestPropertySource(properties =
   * "test.schema=warden_…")} and has a server of its own on a schema of its own. If no other test
   * shares it, it says {@code @DirtiesContext} too: a server that nobody asks any more would go on
   * working beside all that come after. Such a schema begins as {@link FilledSchema} says; one that
   * must be loaded by its own start says {@code "test.filled=false"}.
   */
  @DynamicPropertySource
  static void database(DynamicPropertyRegistry registry) {
    registry.add("spring.datasource.url", () -> url("\\${test.schema:warden}_" + FORK));
    registry.add("spring.datasource.username", () -> environment("WARDEN_TEST_DB_USER"));
    registry.add("spring.datasource.password", () -> environment("WARDEN_TEST_DB_PASSWORD"));
    registry.add(
        "warden.secret-file",
        () -> environment("WARDEN_TEST_DIR") + "/${test.schema:warden}_" + FORK + ".key");
    registry.add("warden.demo", () -> "true");
    // several pages of the demo's meetings
    registry.add("warden.audit.page", () -> "${test.audit-page:25}");
  }

  /** Where a schema of the tests' database is, made when it is first connected to. */
  static String url(String schema) {
    return environment("WARDEN_TEST_DB_URL").replaceAll("/warden$", "/" + schema)
        + "?createDatabaseIfNotExist=true";
  }

  static String environment(String name) {
    String value = System.getenv(name);
    if (value == null) {
      throw new IllegalStateException(name + " is not set: run the tests by ./warden test");
    }
    return value;
  }

  /** An answer's status and body. */
  protected record Answer(int status, String body, JsonNode json) {
    public Answer is(int expected) {
      assertEquals(status, expected, body);
      return this;
    }
  }

  protected Answer get(String who, String path) {
    return send(who, "GET", path, null);
  }

  protected Answer post(String who, String path, Object body) {
    return send(who, "POST", path, body);
  }

  /** Sends as somebody by an access token; {@code who} null sends none. A text goes as it is. */
  protected Answer send(String who, String method, String path, Object body) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .timeout(Duration.ofMinutes(3))
            .header("Content-Type", "application/json");
    if (who != null) {
      request.header("Authorization", "Bearer " + tokenOf(who));
    }
    String text = body == null ? "" : body instanceof String s ? s : json.writeValueAsString(body);
    request.method(method, HttpRequest.BodyPublishers.ofString(text));
    return exchange(request.build());
  }

  protected String tokenOf(String who) {
    return tokens.computeIfAbsent(who, tokensForTests::tokenFor);
  }

  /** Posts a file as it is. */
  protected Answer sendRaw(String who, String path, String text) {
    return exchange(
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .timeout(Duration.ofMinutes(10))
            .header("Content-Type", "application/octet-stream")
            .header("Authorization", "Bearer " + tokenOf(who))
            .POST(HttpRequest.BodyPublishers.ofString(text))
            .build());
  }

  protected byte[] bytes(HttpRequest request) {
    try {
      return http.send(request, HttpResponse.BodyHandlers.ofByteArray()).body();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  protected Answer exchange(HttpRequest request) {
    HttpResponse<String> response = response(request);
    boolean isJson =
        response.headers().firstValue("Content-Type").orElse("").matches(".*json(;.*)?")
            && !response.body().isEmpty();
    return new Answer(
        response.statusCode(),
        response.body(),
        isJson ? json.readTree(response.body()) : json.createObjectNode());
  }

  /** The answer with its headers. */
  protected HttpResponse<String> response(HttpRequest request) {
    try {
      return http.send(request, HttpResponse.BodyHandlers.ofString());
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /**
   * Waits until something holds. It is asked less and less often: to answer takes the processor
   * from what is waited for.
   */
  protected static void until(String what, BooleanSupplier holds) {
    long end = System.nanoTime() + PATIENCE;
    long pause = 40_000_000;
    while (!holds.getAsBoolean()) {
      assertTrue(System.nanoTime() < end, "in vain: " + what);
      LockSupport.parkNanos(pause);
      pause = Math.min(200_000_000, pause * 5 / 4);
    }
  }

  /** Waits until a number is nought: as long as it falls, on however slow a machine. */
  protected static void untilNone(String what, IntSupplier left) {
    int least = left.getAsInt();
    long end = System.nanoTime() + PATIENCE;
    while (least > 0) {
      assertTrue(System.nanoTime() < end, "in vain: " + what + ", " + least + " are left");
      LockSupport.parkNanos(200_000_000);
      int now = left.getAsInt();
      if (now < least) {
        least = now;
        end = System.nanoTime() + PATIENCE;
      }
    }
  }
}
