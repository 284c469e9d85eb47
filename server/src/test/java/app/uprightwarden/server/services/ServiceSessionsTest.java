package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.standins.Make;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Sessions of meetings that linked services hold are held, told and governed there. */
public class ServiceSessionsTest extends ServicesCase {
  private String practise(String meeting, String script, int strangers) {
    return post(
            WARDEN,
            "/api/floor/sessions",
            Map.of("meeting", meeting, "script", script, "speed", 60, "strangers", strangers))
        .is(201)
        .json()
        .get("id")
        .stringValue();
  }

  private JsonNode session(String id) {
    return get(WARDEN, "/api/floor/sessions/" + id).is(200).json();
  }

  private String state(String id) {
    return session(id).at("/line/state").stringValue("");
  }

  private String order(String session, String key, String act) {
    return post(
            WARDEN,
            "/api/floor/sessions/" + session + "/orders",
            Map.of("key", key, "act", act, "people", List.of()))
        .is(200)
        .json()
        .path("state")
        .stringValue("");
  }

  private String running(Make make, String title) {
    String meeting = made(make, title, Map.of("waiting-room", "on"));
    String session = practise(meeting, "usual", 0);
    assertTrue(of(make).hasSession(session), "it is held there");
    until("its events are told, or asked for", () -> state(session).equals("open"));
    return session;
  }

  @Test(dataProvider = "makes")
  public void aSessionIsHeldThereAndDoesWhatItIsTold(Make make) {
    String session = running(make, "Held there");
    assertEquals(order(session, "lock-" + session, "lock"), "done");
    until("it is told", () -> session(session).at("/line/locked").booleanValue(false));
    assertEquals(order(session, "lock-" + session, "lock"), "done", "once: the first answer again");
    of(make).faults().refuses = true;
    assertEquals(order(session, "no-" + session, "unlock"), "refused");
    of(make).faults().refuses = false;
    assertEquals(order(session, "end-" + session, "end"), "done");
    until("it is over", () -> state(session).equals("ended"));
  }

  @Test(dataProvider = "makes")
  public void whatIsWantedWhileItIsAwayIsDoneWhenItIsBack(Make make) {
    String session = running(make, "Away");
    of(make).faults().away = true;
    assertEquals(order(session, "away-" + session, "lock"), "waiting");
    of(make).faults().clear();
    until("it was done", () -> session(session).at("/line/locked").booleanValue(false));
    assertEquals(order(session, "over-" + session, "end"), "done");
  }

  /** Where nothing is to be written, no session is opened and nothing ordered. */
  @Test(dataProvider = "makes")
  public void inOneThatIsOnlyReadNothingIsOpenedOrOrdered(Make make) {
    String session = running(make, "Only read soon");
    set(make, "read", false);
    assertEquals(order(session, "read-" + session, "lock"), "refused");
    String other = made(make, "Only read", Map.of("waiting-room", "on"));
    assertFalse(of(make).hasSession(practise(other, "usual", 0)), "it is played elsewhere");
    set(make, "write", false);
    assertEquals(order(session, "again-" + session, "lock"), "done");
    assertEquals(order(session, "end-" + session, "end"), "done");
  }

  /** Telling twice and failing now and then leave each event there once. */
  @Test(dataProvider = "makes")
  public void eachEventIsThereOnce(Make make) {
    of(make).faults().repeats = true;
    of(make).faults().failing = true;
    String meeting = made(make, "Told twice", Map.of("waiting-room", "off"));
    String session = practise(meeting, "crowd", 40);
    until("all have come", () -> session(session).at("/line/inside").intValue(0) > 15);
    of(make).faults().clear();
    assertEquals(order(session, "end-" + session, "end"), "done");
    until("it is over", () -> state(session).equals("ended"));
    JsonNode page = session(session);
    assertEquals(page.path("seq").intValue(), of(make).events(session), "as many as there are");
    int people =
        page.path("doorFound").intValue()
            + page.path("insideFound").intValue()
            + page.path("outFound").intValue();
    assertTrue(people >= 16, "each of those who came is one: " + people);
  }

  private int tell(Make as, String key, String body) throws IOException, InterruptedException {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    HttpRequest request =
        HttpRequest.newBuilder(
                URI.create(
                    "http://127.0.0.1:" + port + "/api/services/" + linked.get(as) + "/told"))
            .header("Content-Type", "application/json")
            .header(Wire.SIGNATURE, Wire.sign(key, Instant.now(), bytes))
            .POST(HttpRequest.BodyPublishers.ofByteArray(bytes))
            .build();
    return HttpClient.newHttpClient()
        .send(request, HttpResponse.BodyHandlers.discarding())
        .statusCode();
  }

  @Test
  public void aServiceTellsOfItsOwnSessionsAlone() throws IOException, InterruptedException {
    String session = running(Make.REDSHANK, "Its own");
    String end =
        "{\"events\":[{\"session\":\""
            + session
            + "\",\"seq\":%d,\"at\":\"2027-01-11T09:00:00Z\",\"happened\":\"2027-01-11T09:00:00Z\","
            + "\"kind\":\"ended\",\"who\":null,\"with\":{}}]}";
    assertEquals(tell(Make.REDSHANK, "another key", end.formatted(2)), 401);
    assertEquals(tell(Make.CURLEW, KEY, end.formatted(2)), 204, "heard, and of no session of its");
    for (int seq = 1; seq < 60; seq++) {
      assertEquals(tell(Make.CURLEW, KEY, end.formatted(seq)), 204);
    }
    assertEquals(state(session), "open");
    assertEquals(tell(Make.REDSHANK, KEY, "{\"changed\":true,\"events\":[]}"), 204);
    assertEquals(tell(Make.REDSHANK, KEY, "{\"changed\":true}"), 400);
    assertEquals(order(session, "own-" + session, "end"), "done");
  }

  @Test
  public void whatCanTellIsToldWhereTo() {
    until(
        "it knows where to tell",
        () ->
            String.valueOf(of(Make.REDSHANK).hook())
                .endsWith("/api/services/" + linked.get(Make.REDSHANK) + "/told"));
    assertEquals(of(Make.CURLEW).hook(), null, "which has none");
  }

  /** A meeting that is changed in session: its session follows, in the service that holds it. */
  @Test(dataProvider = "makes")
  public void theSessionFollowsItsMeeting(Make make) {
    Map<String, Object> soon = meetingOf("Follows", Map.of("screen-share", "everyone"));
    soon.put(
        "start",
        java.time.LocalDateTime.now(java.time.ZoneId.of("Europe/Dublin"))
            .plusMinutes(1)
            .truncatedTo(java.time.temporal.ChronoUnit.MINUTES)
            .toString());
    String id = of(make).make(HOST, soon);
    until("it is in the register", () -> get(WARDEN, "/api/meetings/" + id).status() == 200);
    String session =
        post(WARDEN, "/api/floor/meetings/" + id + "/start", null)
            .is(200)
            .json()
            .path("id")
            .stringValue();
    until("it is open", () -> state(session).equals("open"));
    assertTrue(of(make).hasSession(session), "it is held there");
    decide(id, "screen-share", "presenters");
    until(
        "the session follows",
        () -> session(session).at("/controls/screen-share").stringValue("").equals("presenters"));
    assertEquals(order(session, "end-" + session, "end"), "done");
  }
}
