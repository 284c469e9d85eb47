package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;

import java.io.IOException;
import java.net.CookieManager;
import java.net.HttpCookie;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Duration;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** Somebody at a browser: cookies are kept and the token against forgery is sent. */
public final class Visitor {
  private final CookieManager cookies = new CookieManager();
  private final HttpClient http =
      HttpClient.newBuilder()
          .cookieHandler(cookies)
          .followRedirects(HttpClient.Redirect.NEVER)
          .build();
  private final JsonMapper json = JsonMapper.builder().build();
  private final String base;
  private List<String> given = List.of();

  public Visitor(int port) {
    base = "http://127.0.0.1:" + port;
  }

  public record Seen(int status, JsonNode body, String text) {
    public Seen is(int expected) {
      assertEquals(status, expected, text);
      return this;
    }
  }

  public Seen get(String path) {
    return send("GET", path, null);
  }

  public Seen signIn(String email, String password) {
    return signIn(email, password, null);
  }

  public Seen signIn(String email, String password, String code) {
    get("/api/session");
    Map<String, Object> body = new HashMap<>(Map.of("email", email, "password", password));
    if (code != null) {
      body.put("code", code);
    }
    return send("POST", "/api/session", body);
  }

  public Seen send(String method, String path, Object body) {
    return sendText(method, path, body == null ? null : json.writeValueAsString(body));
  }

  /** Sends a text as it is. */
  public Seen sendText(String method, String path, String body) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(base + path))
            .timeout(Duration.ofSeconds(60))
            .header("Content-Type", "application/json")
            .header("X-XSRF-TOKEN", cookie("XSRF-TOKEN"))
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body));
    HttpResponse<String> response = send(request.build());
    boolean isJson =
        response.headers().firstValue("Content-Type").orElse("").matches(".*json(;.*)?")
            && !response.body().isEmpty();
    return new Seen(
        response.statusCode(),
        isJson ? json.readTree(response.body()) : json.createObjectNode(),
        response.body());
  }

  /** Goes to an address anywhere and says where that leads to. */
  public HttpResponse<String> visit(URI address) {
    return send(HttpRequest.newBuilder(address).timeout(Duration.ofSeconds(60)).build());
  }

  /** Asks for something here, whatever it is. */
  public HttpResponse<String> visit(String path) {
    return visit(URI.create(base + path));
  }

  private HttpResponse<String> send(HttpRequest request) {
    try {
      HttpResponse<String> answer = http.send(request, HttpResponse.BodyHandlers.ofString());
      given = answer.headers().allValues("Set-Cookie");
      return answer;
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  /** A cookie as the last answer gave it, with all that was said of it. */
  public String given(String name) {
    return given.stream().filter(c -> c.startsWith(name + "=")).findFirst().orElse("");
  }

  public String cookie(String name) {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals(name))
        .map(HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }
}
