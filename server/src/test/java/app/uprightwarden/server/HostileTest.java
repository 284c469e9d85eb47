package app.uprightwarden.server;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import com.tngtech.archunit.core.domain.JavaClasses;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipOutputStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** What strangers send: it is answered with what is wrong, quickly, and the server stays well. */
public class HostileTest extends ServerTest {
  @DataProvider
  public Object[][] bombs() {
    return new Object[][] {
      {"deep arrays", "[".repeat(200_000)},
      {"deep objects", "{\"a\":".repeat(100_000)},
      {"a number of a million digits", "{\"minutes\":" + "9".repeat(1_000_000) + "}"},
      {"an exponent", "{\"minutes\":1e999999999}"},
      {"a long key", "{\"" + "k".repeat(2_000_000) + "\":1}"},
      {"the same key again and again", "{" + "\"a\":1,".repeat(50_000) + "\"a\":1}"},
      {"half a surrogate", "{\"purpose\":\"\\ud800\",\"role\":\"host\",\"minutes\":5}"},
      {"no JSON", "\0\0\0"},
    };
  }

  @Test(dataProvider = "bombs")
  public void aBombOfJsonIsRefused(String unusedName, String body) {
    for (String path :
        List.of(
            "/api/exchange/bundle", "/api/tokens", "/api/assess", "/api/rulebook/file?name=x")) {
      int status = post(WARDEN, path, body).status();
      assertTrue(status >= 400 && status < 500 || status == 201, path + " answered " + status);
    }
    get(WARDEN, "/api/meetings?size=1").is(200);
  }

  /** Texts that make a careless regular expression try for ever. */
  @DataProvider
  public Object[][] slow() {
    return new Object[][] {
      {"a".repeat(50_000) + "!"},
      {"@".repeat(20_000)},
      {("a" + "@").repeat(20_000)},
      {" ".repeat(100_000) + "x"},
      {"\\".repeat(30_000)},
      {"%".repeat(30_000)},
      {"((((((((((".repeat(2000)},
    };
  }

  @Test(dataProvider = "slow")
  public void noTextMakesItTryForEver(String text) {
    // each has a minute before the request itself is given up, which fails the test
    List<Answer> answers =
        List.of(
            post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", Map.of("title", text))),
            post(
                WARDEN,
                "/api/scheduling/foretaste",
                Map.of(
                    "meeting",
                    Map.of("passcode", text.substring(0, Math.min(200, text.length()))))),
            sendRaw(
                WARDEN,
                "/api/exchange/files?dryRun=true&name=x.csv",
                "title,host\n" + text + ",x\n"),
            sendRaw(
                WARDEN,
                "/api/exchange/files?dryRun=true&name=x.ics",
                "BEGIN:VCALENDAR\nBEGIN:VEVENT\nRRULE:" + text + "\nEND:VEVENT\nEND:VCALENDAR\n"));
    answers.forEach(a -> assertTrue(a.status() < 500, a.body()));
    get(WARDEN, "/api/meetings?size=1").is(200);
  }

  private static byte[] zip(String name, int kilobytes) throws IOException {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream out = new ZipOutputStream(bytes)) {
      out.putNextEntry(new ZipEntry(name));
      byte[] zeros = new byte[1024];
      for (int i = 0; i < kilobytes; i++) {
        out.write(zeros);
      }
    }
    return bytes.toByteArray();
  }

  @Test
  public void aZipIsNotUnpackedWhateverItsEntriesAreCalled() throws Exception {
    for (byte[] zip : List.of(zip("../../etc/passwd", 1), zip("bomb.csv", 200_000))) {
      HttpResponse<String> answer =
          HttpClient.newHttpClient()
              .send(
                  HttpRequest.newBuilder(
                          URI.create(
                              "http://127.0.0.1:"
                                  + port
                                  + "/api/exchange/files?dry=true&name=..%2F..%2Fx.zip"))
                      .header("Content-Type", "application/octet-stream")
                      .header("Authorization", "Bearer " + tokenOf(WARDEN))
                      .POST(HttpRequest.BodyPublishers.ofByteArray(zip))
                      .build(),
                  HttpResponse.BodyHandlers.ofString());
      assertTrue(answer.statusCode() >= 400 && answer.statusCode() < 500, answer.body());
    }
  }

  @Test
  public void noPathLeavesThePages() throws Exception {
    for (String path :
        List.of(
            "/assets/../application.yml",
            "/assets/..%2f..%2fapplication.yml",
            "/%2e%2e/application.yml",
            "/assets/%252e%252e/application.yml",
            "/application.yml",
            "/WEB-INF/web.xml",
            "/actuator/env",
            "/api/env",
            "/api/heapdump",
            "/api/loggers")) {
      HttpResponse<String> answer =
          HttpClient.newHttpClient()
              .send(
                  HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
                      .header("Authorization", "Bearer " + tokenOf(WARDEN))
                      .build(),
                  HttpResponse.BodyHandlers.ofString());
      assertTrue(answer.statusCode() >= 400, path + " answered " + answer.statusCode());
      assertFalse(answer.body().contains("spring:"), path);
    }
  }

  @Test
  public void aFormOfAnotherSiteDoesNothing() throws Exception {
    // as a browser sends it for a page elsewhere: with the cookie, without what only our page knows
    Visitor victim = new Visitor(port);
    victim.signIn(WARDEN, "low-water-0642").is(200);
    String cookie = victim.given("warden-session");
    assertTrue(cookie.contains("SameSite=Strict"), "browsers would not even send it: " + cookie);
    assertTrue(cookie.contains("HttpOnly"), "no script reads it: " + cookie);
    HttpResponse<String> forged =
        HttpClient.newHttpClient()
            .send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/audits"))
                    .header("Content-Type", "text/plain")
                    .header("Cookie", "warden-session=" + victim.cookie("warden-session"))
                    .header("Origin", "https://elsewhere.example")
                    .POST(HttpRequest.BodyPublishers.ofString("{}"))
                    .build(),
                HttpResponse.BodyHandlers.ofString());
    assertEquals(forged.statusCode(), 403);
    // and no other site reads an answer: there is no header that lets it
    HttpResponse<String> read =
        HttpClient.newHttpClient()
            .send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/session"))
                    .header("Origin", "https://elsewhere.example")
                    .build(),
                HttpResponse.BodyHandlers.ofString());
    assertTrue(read.headers().firstValue("Access-Control-Allow-Origin").isEmpty());
  }

  @Test
  public void whatIsTypedIntoAnAddressIsNoHeader() {
    for (String name : List.of("x%0d%0aSet-Cookie:%20a=b", "x%22;filename=%22y.exe")) {
      HttpRequest request =
          HttpRequest.newBuilder(
                  URI.create(
                      "http://127.0.0.1:" + port + "/api/exchange/table?of=lists&name=" + name))
              .header("Authorization", "Bearer " + tokenOf(WARDEN))
              .build();
      assertFalse(
          new String(bytes(request), StandardCharsets.UTF_8).contains("Set-Cookie"), "not split");
    }
  }

  /** Nobody makes the server call an address: only what is configured is called. */
  @Test
  public void onlyWhatIsConfiguredIsCalled() {
    JavaClasses server = WrittenByUs.in("app.uprightwarden");
    noClasses()
        .that()
        .resideOutsideOfPackages(
            "app.uprightwarden.server.bridge..", // its address is the operator's
            "app.uprightwarden.server.access..", // and so is the provider's
            "app.uprightwarden.server.outbox..",
            "app.uprightwarden.server.services..", // what a warden has linked
            "app.uprightwarden.server.sources..", // the calendars that one has added
            "app.uprightwarden.server.alerting..", // and the webhook that one has entered
            "app.uprightwarden.standins.sessions..") // a stand-in tells whom it was told to
        .should()
        .dependOnClassesThat()
        .haveFullyQualifiedName("java.net.http.HttpClient")
        .orShould()
        .dependOnClassesThat()
        .haveFullyQualifiedName("java.net.HttpURLConnection")
        .orShould()
        .callMethod(java.net.URL.class, "openStream")
        .orShould()
        .callMethod(java.net.URL.class, "openConnection")
        .orShould()
        .dependOnClassesThat()
        .haveFullyQualifiedName("java.net.Socket")
        .because(
            "only what is configured, or what a warden has entered as a service, a calendar or a"
                + " webhook, is called")
        .check(server);
  }
}
