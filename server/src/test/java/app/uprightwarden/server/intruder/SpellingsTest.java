package app.uprightwarden.server.intruder;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.Visitor;
import app.uprightwarden.server.access.WithoutFactor;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.beans.factory.annotation.Qualifier;
import org.springframework.core.annotation.AnnotatedElementUtils;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.springframework.web.bind.annotation.RequestMethod;
import org.springframework.web.method.HandlerMethod;
import org.springframework.web.servlet.mvc.method.annotation.RequestMappingHandlerMapping;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Every endpoint under a dozen spellings of its address (RFC 3986, sections 2.1, 3.3, 6.2.2): what
 * is closed under its own name is closed under each, to strangers, to hosts, and to a session that
 * owes a second factor.
 */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_spellings")
public class SpellingsTest extends ServerTest {
  private static final String GOOD = "barnacle Thursday 92 lantern";

  @Autowired
  @Qualifier("requestMappingHandlerMapping")
  private RequestMappingHandlerMapping mappings;

  @Autowired private org.springframework.jdbc.core.simple.JdbcClient jdbc;

  private final HttpClient http =
      HttpClient.newBuilder().followRedirects(HttpClient.Redirect.NEVER).build();
  private final Map<String, HandlerMethod> calls = new TreeMap<>();
  private Visitor owing;

  @BeforeClass
  public void find() {
    mappings
        .getHandlerMethods()
        .forEach(
            (info, method) -> {
              for (String path : info.getPatternValues()) {
                for (RequestMethod verb : info.getMethodsCondition().getMethods()) {
                  if (path.startsWith("/api/")) {
                    calls.put(verb + " " + path, method);
                  }
                }
              }
            });
    calls.put("GET /api/prometheus", calls.get("GET /api/ledger"));
    String email = "owing@saltmarsh.example";
    String token =
        post(WARDEN, "/api/accounts", Map.of("email", email, "name", "Owing", "role", "warden"))
            .is(201)
            .json()
            .get("token")
            .stringValue();
    Visitor guest = new Visitor(port);
    guest.get("/api/session");
    guest.send("POST", "/api/welcome", Map.of("token", token, "password", GOOD)).is(204);
    owing = new Visitor(port);
    owing.signIn(email, GOOD).is(200);
    jdbc.sql("update access_setting set factor_for = 'wardens'").update();
  }

  @AfterClass(alwaysRun = true)
  public void demandNothing() {
    jdbc.sql("update access_setting set factor_for = 'nobody'").update();
  }

  static Set<String> spellings(String path) {
    String rest = path.substring("/api/".length());
    Set<String> all = new LinkedHashSet<>();
    all.add(path);
    all.add("/%61pi/" + rest);
    all.add("/%61%70%69/" + rest);
    all.add("/ap%69/" + rest);
    all.add("//api/" + rest);
    all.add("/api//" + rest);
    all.add("/./api/./" + rest);
    all.add("/x/../api/" + rest);
    all.add("/assets/%2e%2e/api/" + rest);
    all.add("/api;v=1/" + rest);
    all.add("/api/" + rest + ";jsessionid=1");
    all.add("/api/" + rest + "/");
    all.add("/api/" + rest + ".json");
    all.add("/api%2f" + rest);
    all.add("/API/" + rest);
    all.add("/%2561pi/" + rest);
    all.add("/api/" + rest + "%20");
    all.add("/api/" + rest + "%00");
    all.add("/api/account/..;/" + rest);
    all.add("/api/session/%2e%2e/" + rest);
    return all;
  }

  private static String address(String pattern) {
    return pattern
        .replace("{email}", "x@x.example")
        .replace("{sort}", "lists")
        .replaceAll("\\{[^}]*}", "1");
  }

  private int status(String verb, String path, String bearer) {
    try {
      HttpRequest.Builder request =
          HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
              .header("Content-Type", "application/json")
              .method(verb, HttpRequest.BodyPublishers.ofString(verb.equals("GET") ? "" : "{}"));
      if (bearer != null) {
        request.header("Authorization", "Bearer " + bearer);
      }
      return http.send(request.build(), HttpResponse.BodyHandlers.discarding()).statusCode();
    } catch (java.io.IOException e) {
      return 400; // cut off
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
  }

  private static String rule(HandlerMethod method) {
    PreAuthorize rule =
        AnnotatedElementUtils.findMergedAnnotation(method.getMethod(), PreAuthorize.class);
    return rule == null ? "" : rule.value();
  }

  private static boolean isStream(String call) {
    return call.endsWith("/api/live");
  }

  @Test
  public void noSpellingLetsAStrangerIn() {
    Set<String> open = new TreeSet<>();
    calls.forEach(
        (call, method) -> {
          if (rule(method).contains("permitAll") || call.contains("/api/session")) {
            return;
          }
          String verb = call.substring(0, call.indexOf(' '));
          for (String path : spellings(address(call.substring(call.indexOf(' ') + 1)))) {
            int status = status(verb, path, null);
            if (status < 400) {
              open.add(status + " " + verb + " " + path);
            }
          }
        });
    assertEquals(String.join("\n", open), "");
    assertTrue(calls.size() > 120, "they are found: " + calls.size());
  }

  @Test
  public void noSpellingGivesAHostWhatHostsMayNot() {
    String bearer = tokenOf(HOST);
    Set<String> open = new TreeSet<>();
    calls.forEach(
        (call, method) -> {
          String rule = rule(method).toUpperCase(Locale.ROOT);
          boolean isForHosts =
              rule.contains("HOST") || rule.contains("ISAUTHENTICATED") || rule.contains("PERMIT");
          if (isForHosts || rule.isEmpty()) {
            return;
          }
          String verb = call.substring(0, call.indexOf(' '));
          for (String path : spellings(address(call.substring(call.indexOf(' ') + 1)))) {
            int status = status(verb, path, bearer);
            if (status < 400) {
              open.add(status + " " + verb + " " + path);
            }
          }
        });
    assertEquals(String.join("\n", open), "");
  }

  @Test
  public void noSpellingLeadsAroundASecondFactor() {
    Set<String> open = new TreeSet<>();
    calls.forEach(
        (call, method) -> {
          boolean isOpen =
              method.hasMethodAnnotation(WithoutFactor.class)
                  || method.getBeanType().isAnnotationPresent(WithoutFactor.class)
                  || rule(method).contains("permitAll");
          if (isOpen || isStream(call)) {
            return;
          }
          String verb = call.substring(0, call.indexOf(' '));
          for (String path : spellings(address(call.substring(call.indexOf(' ') + 1)))) {
            int status = owing.send(verb, path, verb.equals("GET") ? null : Map.of()).status();
            if (status < 400) {
              open.add(status + " " + verb + " " + path);
            }
          }
        });
    assertEquals(String.join("\n", open), "");
    owing.get("/api/account").is(200);
    List.of("/api/meetings", "/api/live", "/api/prometheus", "/api/openapi.json")
        .forEach(path -> owing.get(path).is(403));
  }
}
