package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.CookieManager;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Who may do what, each denial tried. */
public class AccessTest extends ServerTest {
  private static final String PASSWORD = "low-water-0642";

  @DataProvider
  public Object[][] denials() {
    // method, path, and the status for: nobody, host, auditor
    return new Object[][] {
      {"GET", "/api/organisation", 401, 200, 200},
      {"GET", "/api/catalogue", 401, 200, 200},
      {"GET", "/api/openapi.json", 401, 200, 200},
      {"GET", "/api/rulebook", 401, 200, 200},
      {"GET", "/api/rulebook/editions", 401, 200, 200},
      {"GET", "/api/rulebook/editions/1", 401, 200, 200},
      {"POST", "/api/rulebook/editions/1/withdraw", 401, 403, 403},
      {"GET", "/api/rulebook/drafts", 401, 403, 403},
      {"POST", "/api/rulebook/drafts", 401, 403, 403},
      {"GET", "/api/rulebook/drafts/1", 401, 403, 403},
      {"PATCH", "/api/rulebook/drafts/1", 401, 403, 403},
      {"DELETE", "/api/rulebook/drafts/1", 401, 403, 403},
      {"PUT", "/api/rulebook/drafts/1/presence?version=0", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/edits", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/bring-up", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/publish", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/consent", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/decline", 401, 403, 403},
      {"POST", "/api/rulebook/drafts/1/withdraw", 401, 403, 403},
      {"GET", "/api/rulebook/drafts/consent", 401, 403, 403},
      {"PUT", "/api/rulebook/drafts/consent?needed=true", 401, 403, 403},
      {"POST", "/api/rulebook/impact", 401, 403, 200},
      {"POST", "/api/rulebook/appraisal", 401, 200, 200},
      {"POST", "/api/rulebook/guarantee-study", 401, 403, 404},
      {"GET", "/api/rulebook/comparison?from=edition:1&to=edition:2", 401, 200, 200},
      {"GET", "/api/rulebook/comparison?from=edition:1&to=draft:1", 401, 403, 200},
      {"GET", "/api/rulebook/file?of=in-force", 401, 200, 200},
      {"GET", "/api/rulebook/file?of=draft:1", 401, 403, 200},
      {"POST", "/api/rulebook/file?name=x", 401, 403, 403},
      {"GET", "/api/rulebook/print?of=in-force", 401, 200, 200},
      {"GET", "/api/rulebook/print?of=in-force&person=" + WARDEN, 401, 403, 200},
      {"GET", "/api/rulebook/print?of=in-force&person=" + HOST, 401, 200, 200},
      {"GET", "/api/outbox", 401, 403, 200},
      {"GET", "/api/outbox/1/mail", 401, 403, 404},
      {"GET", "/api/meetings/m-0001/explain?persona=link-finder&right=listen", 401, 200, 200},
      {"GET", "/api/meetings/m-0002/explain?persona=link-finder&right=listen", 401, 404, 200},
      {"GET", "/api/meetings", 401, 200, 200},
      {"GET", "/api/meetings/distribution", 401, 403, 200},
      {"GET", "/api/meetings/m-0001", 401, 200, 200},
      {"GET", "/api/meetings/m-0002", 401, 404, 200},
      {"GET", "/api/meetings/m-0001/passcode", 401, 200, 403},
      {"GET", "/api/meetings/m-0002/passcode", 401, 404, 403},
      {"PATCH", "/api/meetings/m-0002/controls", 401, 404, 403},
      {"GET", "/api/audits", 401, 403, 200},
      {"POST", "/api/audits", 401, 403, 403},
      {"GET", "/api/audits/1", 401, 403, 200},
      {"GET", "/api/audits/1/findings", 401, 403, 200},
      {"GET", "/api/audits/1/wall", 401, 403, 200},
      {"GET", "/api/exchange/bundle", 401, 403, 200},
      {"POST", "/api/exchange/bundle", 401, 403, 403},
      {"GET", "/api/exchange/bundle/schema", 401, 200, 200},
      {"POST", "/api/tokens", 401, 403, 403},
    };
  }

  /** A body that passes validation where there is one, so that a denial is a denial. */
  private static Object body(String path) {
    if (path.endsWith("/controls")) {
      return Map.of("version", 0, "controls", Map.of("reactions", "off"));
    }
    if (path.endsWith("/tokens")) {
      return Map.of("purpose", "x", "role", "warden", "minutes", 5);
    }
    if (path.endsWith("/edits")) {
      return Map.of("edits", List.of(Map.of("layer", "organisation", "control", "chat")));
    }
    if (path.endsWith("/decline")) {
      return Map.of("words", "x");
    }
    if (path.endsWith("/publish")) {
      return Map.of("version", 0, "reason", "x", "tellHosts", false);
    }
    Map<String, Object> document = Map.of("layers", List.of());
    if (path.endsWith("/impact")) {
      return Map.of("document", document, "from", 0, "size", 1);
    }
    if (path.endsWith("/guarantee-study")) {
      return Map.of("document", document, "layer", "organisation", "guarantee", "none");
    }
    if (path.endsWith("/appraisal") || path.contains("/file")) {
      return path.contains("/file") ? document : Map.of("document", document);
    }
    if (path.contains("/drafts/1")) {
      return Map.of("name", "x");
    }
    if (path.endsWith("/drafts")) {
      return Map.of("name", "x", "from", "in-force");
    }
    return Map.of();
  }

  @Test(dataProvider = "denials")
  public void everyEndpointAnswersByRole(
      String method, String path, int nobody, int host, int auditor) {
    Object body = method.equals("GET") ? null : body(path);
    send(null, method, path, body).is(nobody);
    send(HOST, method, path, body).is(host);
    send(AUDITOR, method, path, body).is(auditor);
  }

  @Test
  public void stateless() {
    Map<String, Object> rehearsal =
        Map.of(
            "controls",
            Map.of("waiting-room", "on", "lobby-bypass", "hosts"),
            "joiner",
            Map.of("standing", "unknown", "tie", "none", "route", "app"),
            "moment",
            Map.of("minutesFromStart", 1, "hostIn", true));
    post(null, "/api/rehearse", rehearsal).is(401);
    assertEquals(
        post(HOST, "/api/rehearse", rehearsal).is(200).json().get("outcome").stringValue(), "held");
    post(null, "/api/assess", Map.of("format", "upright-warden/1")).is(401);
  }

  @Test
  public void aHostSeesTheirOwnMeetingsOnly() {
    var items = get(HOST, "/api/meetings?size=500").is(200).json().get("items");
    assertTrue(items.size() > 0);
    items.forEach(i -> assertEquals(i.get("host").stringValue(), HOST));
  }

  @Test
  public void passcodesAreInNoListAndInNoAuditorsExport() {
    String passcode =
        get(WARDEN, "/api/meetings/m-0001/passcode").is(200).json().get("passcode").stringValue();
    assertFalse(get(WARDEN, "/api/meetings?size=500").is(200).body().contains(passcode));
    assertFalse(get(WARDEN, "/api/meetings/m-0001").is(200).body().contains(passcode));
    assertFalse(get(AUDITOR, "/api/exchange/bundle").is(200).body().contains(passcode));
    assertTrue(get(WARDEN, "/api/exchange/bundle").is(200).body().contains(passcode));
  }

  private HttpResponse<String> call(
      HttpClient client, String method, String path, String body, String... headers)
      throws IOException, InterruptedException {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header("Content-Type", "application/json")
            .method(method, HttpRequest.BodyPublishers.ofString(body));
    for (int i = 0; i < headers.length; i += 2) {
      request.header(headers[i], headers[i + 1]);
    }
    return client.send(request.build(), HttpResponse.BodyHandlers.ofString());
  }

  private String csrf(CookieManager cookies) {
    return cookies.getCookieStore().getCookies().stream()
        .filter(c -> c.getName().equals("XSRF-TOKEN"))
        .map(java.net.HttpCookie::getValue)
        .findFirst()
        .orElse("");
  }

  @Test
  public void aSessionNeedsTheTokenAgainstForgery() throws Exception {
    CookieManager cookies = new CookieManager();
    HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
    String signIn = json.writeValueAsString(Map.of("email", WARDEN, "password", PASSWORD));
    call(client, "GET", "/api/session", "");
    assertEquals(call(client, "POST", "/api/session", signIn).statusCode(), 403);
    String token = csrf(cookies);
    assertEquals(
        call(client, "POST", "/api/session", signIn, "X-XSRF-TOKEN", token).statusCode(), 200);
    assertEquals(call(client, "GET", "/api/audits", "").statusCode(), 200);
    assertEquals(call(client, "POST", "/api/audits", "{}").statusCode(), 403);
    call(client, "DELETE", "/api/session", "", "X-XSRF-TOKEN", csrf(cookies));
    assertEquals(call(client, "GET", "/api/audits", "").statusCode(), 401);
  }

  @Test
  public void wrongPasswordsAreSlowedDown() throws Exception {
    CookieManager cookies = new CookieManager();
    HttpClient client = HttpClient.newBuilder().cookieHandler(cookies).build();
    call(client, "GET", "/api/session", "");
    String wrong =
        json.writeValueAsString(Map.of("email", "nobody@saltmarsh.example", "password", "x"));
    List<Integer> statuses = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      statuses.add(
          call(client, "POST", "/api/session", wrong, "X-XSRF-TOKEN", csrf(cookies)).statusCode());
    }
    assertEquals(statuses, List.of(401, 401, 401, 401, 401, 429));
  }

  @Test
  public void everyAnswerCarriesTheHeadersThatKeepStrangersOut() throws Exception {
    HttpResponse<String> page = call(HttpClient.newHttpClient(), "GET", "/rulebook", "");
    assertEquals(page.statusCode(), 200);
    String policy = page.headers().firstValue("Content-Security-Policy").orElse("");
    assertTrue(policy.contains("default-src 'none'"), policy);
    assertFalse(policy.contains("unsafe"), policy);
    assertEquals(page.headers().firstValue("X-Frame-Options").orElse(""), "DENY");
    assertEquals(page.headers().firstValue("X-Content-Type-Options").orElse(""), "nosniff");
    assertFalse(page.body().contains("<script>"), "no inline code");
  }
}
