package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.standins.Make;
import app.uprightwarden.standins.StandIn;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Clock;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterClass;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What is decided here becomes true in both stand-ins, or it is seen that it is not. */
@TestPropertySource(
    properties = {
      "test.schema=warden_services",
      "warden.services.local=true",
      "warden.services.confirmed-within=1s",
      "warden.services.look=500ms",
      "warden.services.pause=2s",
      "warden.jobs.poll=100ms"
    })
public class ServicesTest extends ServerTest {
  private static final String KEY = "a key for tests";
  private static final String SOMEBODY = "k.rosen@saltmarsh.example";

  private final Map<Make, StandIn> standIns = new LinkedHashMap<>();
  private final Map<Make, Long> linked = new LinkedHashMap<>();

  @BeforeClass
  public void link() throws IOException {
    for (Make make : Make.values()) {
      Path file = Files.createTempDirectory("services").resolve(make + ".jsonl");
      standIns.put(make, new StandIn(make, 0, KEY, file, Clock.systemUTC()));
      linked.put(make, link(make));
      set(make, "write", false);
    }
  }

  private long link(Make make) {
    Answer answer =
        post(
                WARDEN,
                "/api/services",
                Map.of("name", make.title(), "address", of(make).address().toString(), "key", KEY))
            .is(201);
    for (JsonNode each : answer.json()) {
      if (each.path("name").stringValue("").equals(make.title())) {
        return each.path("id").longValue();
      }
    }
    throw new IllegalStateException(answer.body());
  }

  @AfterMethod
  public void mend() {
    standIns.values().forEach(each -> each.faults().clear());
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    standIns.values().forEach(StandIn::close);
  }

  @DataProvider
  public Object[][] makes() {
    return new Object[][] {{Make.REDSHANK}, {Make.CURLEW}};
  }

  private StandIn of(Make make) {
    return standIns.get(make);
  }

  private void set(Make make, String level, boolean paused) {
    send(
            WARDEN,
            "PUT",
            "/api/services/" + linked.get(make),
            Map.of("name", make.title(), "level", level, "paused", paused))
        .is(200);
  }

  private JsonNode service(Make make) {
    for (JsonNode each : get(WARDEN, "/api/services").is(200).json()) {
      if (each.path("id").longValue() == linked.get(make)) {
        return each;
      }
    }
    throw new IllegalStateException("not linked");
  }

  /** A meeting made in a service, once it is in the register. */
  private String made(Make make, String title, Map<String, Object> controls) {
    Map<String, Object> meeting = new LinkedHashMap<>();
    meeting.put("title", title);
    meeting.put("description", "");
    meeting.put("host", HOST);
    meeting.put("start", "2027-01-11T09:00");
    meeting.put("zone", "Europe/Dublin");
    meeting.put("minutes", 60);
    meeting.put("controls", controls);
    String id = of(make).make(HOST, meeting);
    until("it is in the register", () -> get(WARDEN, "/api/meetings/" + id).status() == 200);
    return id;
  }

  private JsonNode meeting(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json();
  }

  private JsonNode held(String id) {
    return meeting(id).path("held");
  }

  private void decide(String id, String control, Object value) {
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + id + "/controls",
            Map.of(
                "version",
                meeting(id).path("version").longValue(),
                "controls",
                Map.of(control, value)))
        .is(200);
  }

  private void untilWriting(String id, String state) {
    until("it is " + state, () -> held(id).path("writing").stringValue("").equals(state));
  }

  private static Map<String, Object> control(String control, Object value) {
    return Map.of("controls", Map.of(control, value));
  }

  private String there(Make make, String id, String control) {
    return of(make).holds(id).path("controls").path(control).stringValue("");
  }

  private boolean isFound(String id, String check) {
    for (JsonNode each : meeting(id).path("assessment").path("findings")) {
      if (each.path("check").stringValue("").equals(check)) {
        return true;
      }
    }
    return false;
  }

  @Test(dataProvider = "makes")
  public void whatIsMadeThereAppearsWithItsFindings(Make make) {
    String id = made(make, "Made there", Map.of("waiting-room", "off"));
    JsonNode held = held(id);
    assertEquals(held.path("name").stringValue(), make.title());
    assertEquals(held.path("writing").stringValue(), "none");
    assertEquals(held.path("differences").size(), 0);
    assertTrue(
        held.path("link")
            .stringValue()
            .contains(make.title().toLowerCase(java.util.Locale.ROOT) + ".example"));
    assertFalse(meeting(id).path("number").isNull());
    of(make).cancelBehindOurBack(id, SOMEBODY);
    until("it is cancelled here", () -> get(WARDEN, "/api/meetings/" + id).status() == 404);
  }

  @Test(dataProvider = "makes")
  public void whatIsDecidedIsDoneOnceItWasReadBack(Make make) {
    String id = made(make, "Decided", Map.of("waiting-room", "off"));
    of(make).faults().away = true;
    decide(id, "waiting-room", "on");
    JsonNode waits = held(id);
    assertEquals(waits.path("writing").stringValue(), "waiting");
    assertEquals(waits.path("differences").path(0).path("decided").stringValue(), "on");
    assertEquals(waits.path("differences").path(0).path("held").stringValue(), "off");
    assertEquals(
        meeting(id).path("controls").path("waiting-room").stringValue(),
        "off",
        "what is judged is what is held");
    assertEquals(there(make, id, "waiting-room"), "off");
    until("it is late", () -> held(id).path("late").booleanValue());
    assertTrue(isFound(id, "not-taken"));
    until(
        "the page says that it is away",
        () -> service(make).path("state").stringValue("").equals("away"));
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    assertEquals(meeting(id).path("controls").path("waiting-room").stringValue(), "on");
    assertEquals(held(id).path("differences").size(), 0);
    assertFalse(isFound(id, "not-taken"));
    until(
        "and that it is in touch",
        () -> service(make).path("state").stringValue("").equals("in-touch"));
  }

  @Test(dataProvider = "makes")
  public void whatSomebodyLoosensThereIsFoundAndSetBack(Make make) {
    String id = made(make, "Behind our back", Map.of("waiting-room", "off"));
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    of(make).behindOurBack(id, SOMEBODY, control("waiting-room", "off"));
    until("it is found", () -> isFound(id, "changed-there"));
    JsonNode difference = held(id).path("differences").path(0);
    assertEquals(difference.path("cause").stringValue(), "changed-there");
    assertEquals(difference.path("by").stringValue(), SOMEBODY);
    assertEquals(there(make, id, "waiting-room"), "off", "nothing is written over unseen");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    until("it is as decided", () -> !isFound(id, "changed-there"));
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(409);
  }

  @Test(dataProvider = "makes")
  public void itMayBeDecidedThatItStaysAsItIsThere(Make make) {
    String id = made(make, "Let it be", Map.of("chat", "off"));
    decide(id, "chat", "always");
    untilWriting(id, "confirmed");
    of(make).behindOurBack(id, SOMEBODY, control("chat", "off"));
    until("it differs", () -> held(id).path("differences").size() == 1);
    post(WARDEN, "/api/meetings/" + id + "/service/held", null).is(204);
    assertEquals(held(id).path("differences").size(), 0);
    assertEquals(there(make, id, "chat"), "off");
    of(make).behindOurBack(id, SOMEBODY, control("chat", "always"));
    until("what was accepted is what was decided", () -> isFound(id, "changed-there"));
  }

  @Test(dataProvider = "makes")
  public void whatSaysDoneAndIsNotDoneIsSeen(Make make) {
    String id = made(make, "Says done", Map.of("waiting-room", "off"));
    of(make).faults().lies = true;
    decide(id, "waiting-room", "on");
    untilWriting(id, "other");
    assertTrue(isFound(id, "not-taken"));
    assertEquals(meeting(id).path("controls").path("waiting-room").stringValue(), "off");
    of(make).faults().clear();
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void whatIsRefusedSaysWhy(Make make) {
    String id = made(make, "Refused", Map.of("waiting-room", "off"));
    of(make).faults().refuses = true;
    decide(id, "waiting-room", "on");
    untilWriting(id, "refused");
    assertTrue(held(id).path("why").stringValue().contains("does not let that be changed"));
    assertTrue(isFound(id, "not-taken"));
  }

  @Test(dataProvider = "makes")
  public void whatWasDoneUnheardIsDoneOnce(Make make) {
    String id = made(make, "Unheard", Map.of("waiting-room", "off"));
    long before = of(make).revision(id);
    of(make).faults().deaf = true;
    decide(id, "waiting-room", "on");
    until("it was done there", () -> there(make, id, "waiting-room").equals("on"));
    long done = of(make).revision(id);
    assertTrue(done > before);
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(of(make).revision(id), done, "once");
  }

  @Test(dataProvider = "makes")
  public void aLaterDecisionStands(Make make) {
    String id = made(make, "Twice", Map.of("waiting-room", "off"));
    of(make).faults().away = true;
    decide(id, "waiting-room", "on");
    decide(id, "waiting-room", "off");
    decide(id, "mute-on-entry", "on");
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "off");
    assertEquals(there(make, id, "mute-on-entry"), "on");
  }

  @Test(dataProvider = "makes")
  public void whatWasChangedHereAndThereAtOnceIsShownAndNotWrittenOver(Make make) {
    String id = made(make, "Both at once", Map.of("screen-share", "everyone"));
    set(make, "write", true); // paused, so that both come before either is told
    decide(id, "screen-share", "hosts");
    of(make).behindOurBack(id, SOMEBODY, control("screen-share", "presenters"));
    set(make, "write", false);
    until("it differs", () -> isFound(id, "changed-there"));
    assertEquals(there(make, id, "screen-share"), "presenters", "not written over unseen");
    assertEquals(held(id).path("differences").path(0).path("by").stringValue(), SOMEBODY);
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "screen-share"), "hosts");
  }

  @Test(dataProvider = "makes")
  public void aChangeOfSomethingElseThereIsNoConflict(Make make) {
    String id = made(make, "Beside", Map.of("screen-share", "everyone"));
    set(make, "write", true);
    decide(id, "screen-share", "hosts");
    of(make).behindOurBack(id, SOMEBODY, Map.of("title", "Beside the quay"));
    set(make, "write", false);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "screen-share"), "hosts");
    assertEquals(meeting(id).path("title").stringValue(), "Beside the quay");
  }

  @Test(dataProvider = "makes")
  public void aForgottenMarkerLosesNothing(Make make) {
    String stays = made(make, "Stays", Map.of("waiting-room", "off"));
    decide(stays, "waiting-room", "on");
    untilWriting(stays, "confirmed");
    of(make).forgetMarkers();
    String fresh = made(make, "After it forgot", Map.of());
    assertNotNull(fresh);
    until("everything was read", () -> !service(make).path("reading").booleanValue());
    assertEquals(held(stays).path("writing").stringValue(), "confirmed");
    of(make).behindOurBack(stays, SOMEBODY, control("waiting-room", "off"));
    until("what was decided is still known", () -> isFound(stays, "changed-there"));
  }

  @Test(dataProvider = "makes")
  public void aServiceThatWasRestoredIsFoundOut(Make make) {
    String id = made(make, "Restored", Map.of("waiting-room", "off"));
    of(make).backUp();
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    String lost = made(make, "Made after the copy", Map.of());
    of(make).restore();
    until("what went back is found", () -> isFound(id, "changed-there"));
    until(
        "what is gone there is gone here",
        () -> get(WARDEN, "/api/meetings/" + lost).status() == 404);
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void aKeyThatIsWithdrawnIsSaidAndCanBeGivenAnew(Make make) {
    of(make).faults().keyWithdrawn = true;
    until(
        "the page says so",
        () -> service(make).path("state").stringValue("").equals("key-refused"));
    Map<String, String> key = Map.of("key", KEY);
    String path = "/api/services/" + linked.get(make) + "/key";
    send(WARDEN, "PUT", path, key).is(422);
    of(make).faults().clear();
    send(WARDEN, "PUT", path, key).is(200);
    until("it is in touch", () -> service(make).path("state").stringValue("").equals("in-touch"));
  }

  @Test
  public void oneServicesTroubleIsNotFeltInAnothers() {
    String there = made(Make.REDSHANK, "In trouble", Map.of("waiting-room", "off"));
    String beside = made(Make.CURLEW, "Not in trouble", Map.of("waiting-room", "off"));
    of(Make.REDSHANK).faults().slowMillis = 5_000;
    decide(there, "waiting-room", "on");
    decide(beside, "waiting-room", "on");
    untilWriting(beside, "confirmed");
    assertFalse(held(there).path("writing").stringValue().equals("confirmed"));
    of(Make.REDSHANK).faults().clear();
    untilWriting(there, "confirmed");
  }

  @Test(dataProvider = "makes")
  public void failuresAndRepetitionsLoseAndDoubleNothing(Make make) {
    of(make).faults().failing = true;
    of(make).faults().repeats = true;
    String id = made(make, "Now and then", Map.of("waiting-room", "off"));
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    assertEquals(held(id).path("differences").size(), 0);
  }

  @Test
  public void aPoorServiceIsNeverAskedMoreThanItTakes() {
    int before = of(Make.CURLEW).tooMany();
    for (int i = 0; i < 12; i++) {
      String id = made(Make.CURLEW, "Many " + i, Map.of("waiting-room", "off"));
      decide(id, "waiting-room", "on");
      untilWriting(id, "confirmed");
    }
    assertEquals(of(Make.CURLEW).tooMany(), before);
  }

  @Test
  public void whatAServiceCannotHoldIsSaid() {
    String id = made(Make.CURLEW, "Cannot", Map.of());
    decide(id, "phone-bypass", "waits");
    until("it is found", () -> isFound(id, "not-taken"));
    assertTrue(held(id).path("differences").path(0).path("why").stringValue().contains("no such"));
    // what stands for a value that it has not is as good as the value
    decide(id, "lobby-bypass", "named");
    until("it is stricter there", () -> there(Make.CURLEW, id, "lobby-bypass").equals("hosts"));
    untilWriting(id, "confirmed");
  }

  @Test(dataProvider = "makes")
  public void nothingIsSentToAServiceThatIsLinkedForReading(Make make) {
    String id = made(make, "Only read", Map.of("waiting-room", "off"));
    set(make, "read", false);
    long before = of(make).revision(id);
    decide(id, "waiting-room", "on");
    assertEquals(held(id).path("writing").stringValue(), "kept");
    assertTrue(isFound(id, "not-taken"));
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(409);
    assertEquals(of(make).revision(id), before);
    set(make, "suggest", false);
    assertEquals(held(id).path("writing").stringValue(), "kept");
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    set(make, "write", false);
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void aMeetingFromHereIsMadeThereWithANumberOfItsOwn(Make make) {
    String id = "m-0001";
    if (make == Make.CURLEW) {
      id = "m-0002";
    }
    String meeting = id;
    String path = "/api/meetings/" + meeting + "/service";
    send(WARDEN, "PUT", path, Map.of("service", linked.get(make))).is(204);
    untilWriting(meeting, "confirmed");
    send(WARDEN, "PUT", path, Map.of("service", linked.get(make))).is(409);
    assertEquals(
        of(make).ids().stream()
            .filter(
                each ->
                    of(make)
                        .holds(each)
                        .path("number")
                        .stringValue()
                        .equals(meeting(meeting).path("number").stringValue()))
            .count(),
        1);
    int held = of(make).ids().size();
    send(
            WARDEN,
            "DELETE",
            "/api/meetings/"
                + meeting
                + "?version="
                + meeting(meeting).path("version").longValue()
                + "&send=false",
            null)
        .is(200);
    until("it is cancelled there", () -> of(make).ids().size() == held - 1);
  }

  @Test
  public void onlyWardensLinkAndOnlyWhatAnswers() {
    Map<String, String> wanted =
        Map.of("name", "Third", "address", of(Make.CURLEW).address().toString(), "key", KEY);
    post(AUDITOR, "/api/services", wanted).is(403);
    post(HOST, "/api/services/attempt", Map.of("address", "a", "key", "b")).is(403);
    get(HOST, "/api/services").is(403);
    post(WARDEN, "/api/services", wanted).is(409); // it is linked already
    Map<String, String> wrong = new LinkedHashMap<>(wanted);
    wrong.put("key", "another");
    wrong.remove("name");
    Answer refused = post(WARDEN, "/api/services/attempt", wrong).is(422);
    assertEquals(refused.json().path("faults").path(0).path("pointer").stringValue(""), "/key");
    wrong.put("address", "ftp://curlew.example");
    post(WARDEN, "/api/services/attempt", wrong).is(400);
    assertFalse(get(WARDEN, "/api/services").body().contains(KEY), "the key is never told");
  }
}
