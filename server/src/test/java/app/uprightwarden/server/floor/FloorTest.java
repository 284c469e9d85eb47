package app.uprightwarden.server.floor;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.BridgeAccess;
import app.uprightwarden.server.bridge.ConferenceBridge;
import app.uprightwarden.server.bridge.SessionEvents;
import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.StringReader;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVRecord;
import org.apache.poi.ss.usermodel.CellType;
import org.apache.poi.ss.usermodel.Sheet;
import org.apache.poi.xssf.usermodel.XSSFWorkbook;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Sessions through the bridge: what is seen of them, done in them and kept. */
public class FloorTest extends PractisedSessions {

  @Autowired private JdbcClient jdbc;
  @Autowired private ConferenceBridge bridge;
  @Autowired private FloorIntake intake;
  @Autowired private BridgeAccess access;

  /** A meeting that anybody with the link gets into; looser than the rules, so with a reason. */
  private String openMeeting(String title) {
    return openMeeting(title, 60);
  }

  private String openMeeting(String title, int minutes) {
    return openMeeting(title, minutes, Map.of());
  }

  private String openMeeting(String title, int minutes, Map<String, Object> more) {
    Map<String, Object> controls = new LinkedHashMap<>();
    controls.put("passcode", "none");
    controls.put("waiting-room", "off");
    controls.put("sign-in", "none");
    controls.put("registration", "none");
    controls.put("early-entry", "any-time");
    controls.put("screen-share", "everyone");
    controls.put("return-after-removal", "allowed");
    controls.putAll(more);
    return meeting(title, minutes, controls, AUDITOR);
  }

  private String practise(String meeting, String script, int speed) {
    return practise(meeting, script, speed, 3);
  }

  private JsonNode page(String session) {
    return get(WARDEN, "/api/floor/sessions/" + session + "?most=500").is(200).json();
  }

  private Answer order(String session, String key, String act, String... people) {
    return post(
        WARDEN,
        "/api/floor/sessions/" + session + "/orders",
        Map.of("key", key, "act", act, "people", List.of(people)));
  }

  private static List<String> kinds(JsonNode page) {
    List<String> kinds = new ArrayList<>();
    page.get("alerts").forEach(alert -> kinds.add(alert.get("kind").stringValue()));
    return kinds;
  }

  @Test
  public void aStrangerIsSeenRemovedComesBackAndIsBarred() {
    String session = practise(openMeeting("Open to all"), "strangers", 30);
    until(
        "the stranger before the host",
        () -> kinds(page(session)).contains("stranger-before-host"));
    until("the stranger shares", () -> kinds(page(session)).contains("share-not-allowed"));
    JsonNode alert = page(session).get("alerts").get(0);
    String at = "/api/floor/alerts/" + alert.get("id").longValue();
    post(WARDEN, at, Map.of("state", "closed")).is(422);
    post(WARDEN, at, Map.of("state", "handed-on")).is(422);
    post(WARDEN, at, Map.of("state", "acknowledged")).is(200);
    post(WARDEN, at, Map.of("state", "handed-on", "to", SECOND_WARDEN)).is(200);
    JsonNode closed =
        post(WARDEN, at, Map.of("state", "closed", "note", "They are out.")).is(200).json();
    assertEquals(closed.get("handedTo").stringValue(), SECOND_WARDEN);
    post(WARDEN, at, Map.of("state", "acknowledged")).is(409);

    order(session, key("stop"), "stop-share").is(200);
    JsonNode removed = order(session, key("rm"), "remove", "s-1").is(200).json();
    assertEquals(removed.get("state").stringValue(), "done", removed.toString());
    until("they are back", () -> kinds(page(session)).contains("removed-back"));
    assertEquals(
        order(session, key("bar"), "remove-and-bar", "s-1").json().get("state").stringValue(),
        "done");
    until(
        "they are refused",
        () -> {
          JsonNode out = page(session).get("out");
          for (JsonNode each : out) {
            if (each.get("who").stringValue().equals("s-1")) {
              return each.get("whyOut").stringValue().equals("refused")
                  && each.get("step").stringValue().equals("removed");
            }
          }
          return false;
        });

    for (JsonNode each : page(session).get("alerts")) {
      boolean isAbout = "s-1".equals(each.path("who").stringValue(""));
      assertTrue(
          !isAbout || List.of("ended", "closed").contains(each.get("state").stringValue()),
          "what is about somebody who is out has ended: " + each);
    }
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    JsonNode after = get(AUDITOR, "/api/floor/sessions/" + session + "/after").is(200).json();
    assertTrue(
        after.get("lessons").valueStream().anyMatch(l -> !l.get("ways").isEmpty()),
        "something would have prevented it");
    String incident =
        post(
                WARDEN,
                "/api/floor/sessions/" + session + "/incidents",
                Map.of("title", "A stranger came twice", "note", "Barred.\nPolice not called."))
            .is(201)
            .json()
            .get("id")
            .toString();
    String text = get(AUDITOR, "/api/floor/incidents/" + incident + "/text").is(200).body();
    assertTrue(text.contains("A stranger came twice") && text.contains("was removed"), text);
    long draft =
        post(
                WARDEN,
                "/api/floor/sessions/" + session + "/draft",
                Map.of("control", "return-after-removal", "value", "barred"))
            .is(201)
            .json()
            .get("id")
            .longValue();
    JsonNode rules = get(WARDEN, "/api/rulebook/drafts/" + draft).is(200).json().get("document");
    assertTrue(
        rules.toString().contains("After “Open to all”"), "the draft's rule says where from");
    send(WARDEN, "DELETE", "/api/rulebook/drafts/" + draft, null);
  }

  /** Out and in again before either was heard of: what was told of them before is over. */
  @Test
  public void whoIsOutAndBackInOneTellingIsAnAlertAnew() throws Exception {
    String session = practise(openMeeting("Out and back"), "strangers", 30);
    until("s-1 is told of", () -> !unsettled(session, "person/s-1").isEmpty());
    long first = unsettled(session, "person/s-1").get(0);
    List<SessionEvent> told = bridge.eventsAfter(session, 0);
    until(
        "it is over, and there is another",
        () -> {
          // the service goes on telling: where it was sooner, once more behind that
          long seq = page(session).get("seq").longValue();
          List<SessionEvents.Told> batch = new ArrayList<>();
          for (SessionEvent.Kind kind :
              List.of(
                  SessionEvent.Kind.REMOVED,
                  SessionEvent.Kind.ARRIVED,
                  SessionEvent.Kind.ENTERED)) {
            seq++;
            SessionEvent like =
                told.stream()
                    .filter(event -> "s-1".equals(event.who()))
                    .filter(event -> event.kind() == kind)
                    .findFirst()
                    .orElse(told.get(told.size() - 1));
            Map<String, String> with =
                kind == SessionEvent.Kind.REMOVED
                    ? Map.of(SessionEvent.BY, "host", SessionEvent.BARRED, "false")
                    : like.with();
            batch.add(
                new SessionEvents.Told(
                    session, new SessionEvent(seq, like.at(), like.happened(), kind, "s-1", with)));
          }
          intake.take(null, batch);
          List<Long> now = unsettled(session, "person/s-1");
          return !now.contains(first) && !now.isEmpty();
        });
    order(session, key("end"), "end");
  }

  private List<Long> unsettled(String session, String cause) {
    return jdbc.sql(
            "select id from floor_alert where session = ? and cause = ? and state not in ('closed',"
                + " 'ended') order by id")
        .params(session, cause)
        .query(Long.class)
        .list();
  }

  private static String key(String name) {
    return name + "-" + System.nanoTime();
  }

  @Test
  public void anOrderIsOneHoweverOftenAndByHowManyItIsSent() throws Exception {
    String session = practise(openMeeting("Clicked twice"), "usual", 10);
    until("it is open", () -> page(session).at("/line/state").stringValue().equals("open"));
    String key = key("lock");
    ExecutorService many = Executors.newFixedThreadPool(6);
    try {
      List<Future<Answer>> answers = new ArrayList<>();
      for (int i = 0; i < 6; i++) {
        answers.add(many.submit(() -> order(session, key, "lock")));
      }
      for (Future<Answer> answer : answers) {
        assertEquals(answer.get().is(200).json().get("state").stringValue(), "done");
      }
    } finally {
      many.shutdownNow();
    }
    until("it is locked", () -> page(session).at("/line/locked").booleanValue());
    long locks =
        page(session)
            .get("moments")
            .valueStream()
            .filter(m -> m.get("kind").stringValue().equals("locked"))
            .count();
    assertEquals(locks, 1);
    order(session, key, "unlock").is(409);
    order(session, key("no"), "dance").is(422);
    order(session, key("no"), "let-in").is(422);
    post(
            WARDEN,
            "/api/floor/sessions/" + session + "/orders",
            Map.of(
                "key",
                key("set"),
                "act",
                "set",
                "people",
                List.of(),
                "control",
                "waiting-room",
                "value",
                "ajar"))
        .is(422);
    JsonNode refused = order(session, key("x"), "let-in", "nobody").is(200).json();
    assertEquals(refused.get("state").stringValue(), "refused");
    assertFalse(refused.get("reason").stringValue().isEmpty());
    order(session, key("end"), "end").is(200);
  }

  @Test
  public void aServiceThatIsAwayIsToldAgain() {
    String session = practise(openMeeting("Away for a while"), "usual", 10);
    until("it is open", () -> page(session).at("/line/state").stringValue().equals("open"));
    mood(60, false);
    JsonNode waits = order(session, key("away"), "lock").is(200).json();
    assertEquals(waits.get("state").stringValue(), "waiting");
    assertEquals(page(session).get("orders").size(), 1);
    mood(0, false);
    until("it is locked after all", () -> page(session).at("/line/locked").booleanValue());
    until("nothing is unsettled", () -> page(session).get("orders").isEmpty());
    order(session, key("end"), "end").is(200);
  }

  @Test
  public void nothingIsLostOrDoubledWhenEventsComeTwiceAndInAnyOrder() throws Exception {
    mood(0, true);
    String session = practise(openMeeting("In disorder"), "storm", 30);
    until("a crowd came", () -> page(session).get("seq").longValue() > 80);
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    List<SessionEvent> told = bridge.eventsAfter(session, 0);
    assertEquals(page(session).get("seq").longValue(), told.size());
    int stored =
        jdbc.sql("select count(*) from floor_event where session = ?")
            .param(session)
            .query(Integer.class)
            .single();
    assertEquals(stored, told.size());
    long came = told.stream().filter(e -> e.kind() == SessionEvent.Kind.ENTERED).count();
    JsonNode after = get(WARDEN, "/api/floor/sessions/" + session + "/after").json();
    long times =
        after.get("attendance").valueStream().mapToLong(r -> r.get("times").longValue()).sum();
    assertEquals(times, came);

    // told all over again in another order: nothing changes
    long alerts = page(session).get("alerts").size();
    List<SessionEvents.Told> again = new ArrayList<>();
    told.forEach(event -> again.add(new SessionEvents.Told(session, event)));
    Collections.shuffle(again, new Random(1));
    intake.take(null, again);
    assertEquals(page(session).get("seq").longValue(), told.size());
    assertEquals(page(session).get("alerts").size(), alerts);
  }

  @Test
  public void whatTheServiceHasForgottenIsBrokenOffAndWhatWasHeardStays() {
    String session = practise(openMeeting("Forgotten"), "usual", 10);
    until("somebody is in", () -> !page(session).get("inside").isEmpty());
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    // under another name the service knows nothing of it
    String other = "s-forgotten-" + System.nanoTime();
    long heard = page(session).get("seq").longValue() - 1;
    jdbc.sql("update floor_event set session = ? where session = ? and seq <= ?")
        .params(other, session, heard)
        .update();
    jdbc.sql(
            "update floor_session set id = ?, state = 'open', ended_at = null, folded = ? where id"
                + " = ?")
        .params(other, heard, session)
        .update();
    until("it is broken off", () -> page(other).at("/line/state").stringValue().equals("lost"));
    assertEquals(page(other).get("seq").longValue(), heard);
    JsonNode after = get(WARDEN, "/api/floor/sessions/" + other + "/after").is(200).json();
    assertFalse(after.get("attendance").isEmpty());
  }

  @Test
  public void theClockAloneRaisesAnAlertOnce() {
    String session = practise(openMeeting("Open for ever", 5), "crowd", 120);
    until("it is past its end", () -> kinds(page(session)).contains("open-past-end"));
    JsonNode page = page(session);
    assertEquals(kinds(page).stream().filter("open-past-end"::equals).count(), 1, page.toString());
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
  }

  @Test
  public void eventsThatAreNotSignedAreNotTaken() {
    String told = "{\"events\":[]}";
    send(null, "POST", "/api/bridge/events", told).is(401);
    send(WARDEN, "POST", "/api/bridge/events", told).is(401);
    send(null, "POST", "/api/bridge/events", "x".repeat(70_000)).is(413);
  }

  @Test
  public void signedEventsThatCannotBeMeantAreSaidToBe() {
    for (String body :
        List.of("{", "{}", "{\"events\":[null]}", "{\"events\":[{\"session\":\"s\",\"seq\":1}]}")) {
      assertEquals(tellSigned(body), 400, body);
    }
    assertEquals(tellSigned("{\"events\":[]}"), 204);
  }

  private int tellSigned(String body) {
    byte[] bytes = body.getBytes(StandardCharsets.UTF_8);
    HttpRequest request =
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + "/api/bridge/events"))
            .header("Content-Type", "application/json")
            .header(Wire.SIGNATURE, Wire.sign(access.getSecret(), Instant.now(), bytes))
            .POST(HttpRequest.BodyPublishers.ofByteArray(bytes))
            .build();
    try {
      return HttpClient.newHttpClient()
          .send(request, HttpResponse.BodyHandlers.discarding())
          .statusCode();
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw new IllegalStateException(e);
    }
  }

  @Test
  public void aSessionWhoseMeetingWasCancelledBeforeItOpenedHoldsUpNoOther() {
    String meeting = openMeeting("Cancelled before");
    mood(60, false);
    String session = practise(meeting, "usual", 10);
    assertEquals(page(session).at("/line/state").stringValue(), "asked");
    jdbc.sql("update floor_session set meeting = 'm-gone' where id = ?").param(session).update();
    mood(0, false);
    until("it is given up", () -> page(session).at("/line/state").stringValue().equals("lost"));
  }

  @Test
  public void whoWasAskedAndDidNotComeIsOnTheRoll() {
    String session = practise(openMeeting("Ended before it began"), "usual", 1);
    until("it is open", () -> page(session).at("/line/state").stringValue().equals("open"));
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    JsonNode after = get(WARDEN, "/api/floor/sessions/" + session + "/after").is(200).json();
    List<String> in =
        after.get("attendance").valueStream().map(r -> r.get("address").stringValue("")).toList();
    List<String> absent =
        after.at("/roll/absent").valueStream().map(r -> r.get("address").stringValue()).toList();
    for (String asked : List.of(HOST, AUDITOR)) {
      assertTrue(in.contains(asked) != absent.contains(asked), asked + " in " + after);
    }
    assertTrue(absent.contains(AUDITOR), "five minutes before the start nobody has come");
    assertEquals(
        after
            .at("/roll/absent")
            .valueStream()
            .filter(r -> r.get("address").stringValue().equals(AUDITOR))
            .map(r -> r.get("tie").stringValue())
            .toList(),
        List.of("named"));
  }

  @Test
  public void aRecordingSaysWhoMadeItAndWhoAgreed() {
    String meeting =
        openMeeting("Recorded", 60, Map.of("recording-consent", "consent", "recording", "hosts"));
    String session = practise(meeting, "strangers", 120);
    String after = "/api/floor/sessions/" + session + "/after";
    until("it is recorded", () -> !get(WARDEN, after).json().get("recordings").isEmpty());
    until(
        "a stranger does not agree",
        () ->
            get(WARDEN, after)
                .json()
                .at("/recordings/0/recorded")
                .valueStream()
                .anyMatch(each -> each.get("answer").stringValue().equals("declined")));
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    JsonNode recording = get(WARDEN, after).json().at("/recordings/0");
    assertEquals(recording.get("end").stringValue(), "session-ended");
    assertEquals(recording.get("consent").stringValue(), "consent");
    assertTrue(recording.get("seconds").longValue() > 0);
    assertEquals(recording.get("people").intValue(), recording.get("recorded").size());
    recording
        .get("recorded")
        .forEach(
            each ->
                assertEquals(
                    each.get("at").isNull(),
                    each.get("answer").stringValue().equals("not-answered"),
                    each.toString()));
  }

  @Test
  public void attendanceIsReadByOthers() throws IOException {
    String session = practise(openMeeting("=1+1 Attendance"), "strangers", 60);
    until("some are in", () -> page(session).get("inside").size() >= 3);
    order(session, key("end"), "end").is(200);
    until("it is over", () -> page(session).at("/line/state").stringValue().equals("ended"));
    JsonNode rows =
        get(WARDEN, "/api/floor/sessions/" + session + "/after").json().get("attendance");
    String file = "/api/floor/sessions/" + session + "/attendance?as=";
    String csv = get(WARDEN, file + "csv").is(200).body();
    List<CSVRecord> read =
        CSVFormat.RFC4180
            .builder()
            .setHeader()
            .setSkipHeaderRecord(true)
            .get()
            .parse(new StringReader(csv))
            .getRecords();
    assertEquals(
        read.stream().filter(row -> row.get("presence").equals("present")).count(), rows.size());
    JsonNode absent =
        get(WARDEN, "/api/floor/sessions/" + session + "/after").json().at("/roll/absent");
    assertEquals(
        read.stream()
            .filter(row -> row.get("presence").equals("absent"))
            .map(row -> row.get("address"))
            .toList(),
        absent.valueStream().map(row -> row.get("address").stringValue()).toList());
    byte[] xlsx =
        bytes(
            HttpRequest.newBuilder(
                    URI.create("http://127.0.0.1:" + port + file + "xlsx&zone=Europe/Dublin"))
                .header("Authorization", "Bearer " + tokenOf(WARDEN))
                .build());
    // read by Apache POI, which has nothing to do with what wrote it
    try (XSSFWorkbook book = new XSSFWorkbook(new ByteArrayInputStream(xlsx))) {
      Sheet sheet = book.getSheet("Attendance");
      assertEquals(sheet.getRow(0).getCell(0).getStringCellValue(), "=1+1 Attendance");
      assertEquals(sheet.getRow(0).getCell(0).getCellType(), CellType.STRING, "no formula");
      for (int i = 0; i < rows.size(); i++) {
        assertEquals(
            sheet.getRow(i + 4).getCell(0).getStringCellValue(),
            rows.get(i).get("name").stringValue());
        assertEquals(
            (long) sheet.getRow(i + 4).getCell(9).getNumericCellValue(),
            rows.get(i).get("minutes").longValue());
        assertEquals(
            sheet
                .getRow(i + 4)
                .getCell(7)
                .getLocalDateTimeCellValue()
                .atZone(java.time.ZoneId.of("Europe/Dublin"))
                .toInstant()
                .getEpochSecond(),
            Instant.parse(rows.get(i).get("joined").stringValue()).getEpochSecond());
      }
    }
    get(WARDEN, file + "xlsx&zone=Nowhere/Here").is(422);
  }

  @Test
  public void hostsSeeAndRunTheirOwnAlone() {
    String own = practise(openMeeting("The host's own"), "usual", 10);
    assertTrue(holdsId(get(HOST, "/api/floor/sessions").is(200).json().get("running"), own));
    until("it is open", () -> page(own).at("/line/state").stringValue().equals("open"));
    post(
            HOST,
            "/api/floor/sessions/" + own + "/orders",
            Map.of("key", key("host"), "act", "end", "people", List.of()))
        .is(200);
    assertTrue(get(AUDITOR, "/api/floor/sessions/" + own).is(200).json().at("/line").isObject());
    String other = practise("m-0002", "usual", 60);
    assertFalse(holdsId(get(HOST, "/api/floor/sessions").json().get("running"), other));
    get(HOST, "/api/floor/sessions/" + other).is(404);
    order(other, key("end"), "end").is(200);
  }

  private static boolean holdsId(JsonNode lines, String id) {
    return lines.valueStream().anyMatch(line -> line.get("id").stringValue().equals(id));
  }
}
