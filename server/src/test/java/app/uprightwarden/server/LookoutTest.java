package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.live.Signals;
import java.io.BufferedReader;
import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.stream.Collectors;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** The first page: a warden's, a host's, and that it is alive. */
public class LookoutTest extends AuditStationTest {
  @Autowired private Signals signals;

  @Test
  public void anAdministratorSeesStormsTheTideAndWhoIsWaitedFor() {
    JsonNode lookout = get(WARDEN, "/api/lookout").is(200).json();
    assertEquals(lookout.get("bySeverity"), get(WARDEN, "/api/audits/0").json().get("bySeverity"));
    int grave = lookout.at("/bySeverity/5").intValue();
    int named =
        lookout.get("storms").valueStream().mapToInt(s -> 1 + s.get("more").intValue()).sum();
    assertTrue(named > 0 && named <= grave, lookout.get("storms").toString());
    JsonNode tide = lookout.get("tide");
    assertTrue(tide.get("marks").size() > 50);
    String last = "";
    for (JsonNode mark : tide.get("marks")) {
      String start = mark.get("start").stringValue();
      assertTrue(start.compareTo(last) >= 0, "by time");
      assertTrue(start.compareTo(tide.get("to").stringValue()) < 0, "within the strip");
      last = start;
    }
    assertTrue(lookout.get("moved").size() >= 7, "the demo's audits");
  }

  @Test
  public void whoeverAsksAMomentLaterInAnotherLanguageReadsTheirs() {
    for (int i = 0; i < 3; i++) {
      String english = gravest("en");
      assertFalse(english.isBlank());
      assertNotEquals(gravest("de"), english);
    }
  }

  /** What the gravest findings on the page say. */
  private String gravest(String language) {
    String body =
        exchange(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/lookout"))
                    .header("Authorization", "Bearer " + tokenOf(WARDEN))
                    .header("Accept-Language", language)
                    .build())
            .is(200)
            .body();
    return json.readTree(body)
        .get("storms")
        .valueStream()
        .map(storm -> storm.get("text").stringValue())
        .collect(Collectors.joining("\n"));
  }

  @Test
  public void aHostSeesTheirOwnAndNobodyElses() {
    JsonNode mine = get(HOST, "/api/lookout/mine").is(200).json();
    assertFalse(mine.get("findings").isEmpty());
    for (JsonNode finding : mine.get("findings")) {
      JsonNode meeting =
          get(WARDEN, "/api/meetings/" + finding.get("meeting").stringValue()).json();
      boolean hosts =
          meeting.get("host").stringValue().equals(HOST)
              || meeting.get("coHosts").toString().contains(HOST);
      assertTrue(hosts, finding.toString());
    }
    get(HOST, "/api/lookout").is(403);
  }

  /** Gathering takes its time, so that an answer may have been made before what a page was told. */
  @Test
  public void anAnswerThatIsOlderThanWhatWasToldSaysSo() {
    until(
        "an older answer",
        () -> {
          signals.send(Signals.Topic.STANDING);
          return get(WARDEN, "/api/lookout").json().get("again").booleanValue();
        });
    until("one made since", () -> !get(WARDEN, "/api/lookout").json().get("again").booleanValue());
    signals.send(Signals.Topic.FLOOR);
    assertFalse(get(WARDEN, "/api/lookout").json().get("again").booleanValue(), "not shown there");
  }

  /** Framed as in the HTML Standard, section 9.2.6. */
  private BufferedReader listen() throws Exception {
    HttpResponse<InputStream> answer =
        HttpClient.newHttpClient()
            .send(
                HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/live"))
                    .header("Authorization", "Bearer " + tokensForTests.tokenFor(HOST))
                    .build(),
                HttpResponse.BodyHandlers.ofInputStream());
    assertEquals(answer.statusCode(), 200);
    assertTrue(
        answer.headers().firstValue("Content-Type").orElse("").startsWith("text/event-stream"));
    BufferedReader lines =
        new BufferedReader(new InputStreamReader(answer.body(), StandardCharsets.UTF_8));
    assertEquals(lines.readLine(), "event:connected");
    return lines;
  }

  /** Whether a topic is heard of. */
  private static CompletableFuture<Boolean> heard(BufferedReader lines, Signals.Topic topic) {
    return CompletableFuture.supplyAsync(
        () -> {
          try {
            for (String line = lines.readLine(); line != null; line = lines.readLine()) {
              if (line.equals("event:" + topic.id())) {
                return true;
              }
            }
          } catch (IOException e) {
            return false;
          }
          return false;
        });
  }

  @Test
  public void aChangeIsHeardOfByWhoeverListens() throws Exception {
    BufferedReader lines = listen();
    CompletableFuture<Boolean> heard = heard(lines, Signals.Topic.STANDING);
    setControl("m-0099", "reactions", "off");
    assertTrue(heard.get(60, TimeUnit.SECONDS));
    lines.close();
    setControl("m-0099", "reactions", "on");
  }

  /** A page has read something a moment before it listens: what changed then it hears of, too. */
  @Test
  public void aChangeOfTheMomentBeforeIsHeardOfByWhoeverComes() throws Exception {
    BufferedReader others = listen();
    CompletableFuture<Boolean> heard = heard(others, Signals.Topic.WAIVERS);
    signals.send(Signals.Topic.WAIVERS);
    assertTrue(heard.get(60, TimeUnit.SECONDS));
    // it has been told to all who listened
    BufferedReader late = listen();
    assertTrue(heard(late, Signals.Topic.WAIVERS).get(60, TimeUnit.SECONDS));
    others.close();
    late.close();
  }
}
