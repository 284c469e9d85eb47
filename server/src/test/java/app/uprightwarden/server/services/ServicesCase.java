package app.uprightwarden.server.services;

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
import tools.jackson.databind.JsonNode;

/** Both stand-ins linked for writing, and what tests of them share. */
@TestPropertySource(
    properties = {
      "test.schema=warden_services",
      "warden.services.local=true",
      "warden.services.confirmed-within=1s",
      "warden.services.look=500ms",
      "warden.services.pause=2s",
      "warden.reminders.look=500ms",
      "warden.jobs.poll=100ms",
      "warden.jobs.heartbeat=500ms"
    })
abstract class ServicesCase extends ServerTest {
  static final String KEY = "a key for tests";
  static final String SOMEBODY = "k.rosen@saltmarsh.example";

  final Map<Make, StandIn> standIns = new LinkedHashMap<>();
  final Map<Make, Long> linked = new LinkedHashMap<>();

  @BeforeClass
  public void link() throws IOException {
    for (Make make : Make.values()) {
      Path file = Files.createTempDirectory("services").resolve(make + ".jsonl");
      standIns.put(make, new StandIn(make, 0, KEY, file, Clock.systemUTC()));
      linked.put(make, link(make));
      set(make, "write", false);
    }
  }

  long link(Make make) {
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
    for (Make make : Make.values()) {
      if (!service(make).path("level").stringValue("").equals("write")) {
        set(make, "write", false);
      }
    }
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    linked.values().forEach(id -> send(WARDEN, "DELETE", "/api/services/" + id, null).is(200));
    standIns.values().forEach(StandIn::close);
  }

  @DataProvider
  public Object[][] makes() {
    return new Object[][] {{Make.REDSHANK}, {Make.CURLEW}};
  }

  StandIn of(Make make) {
    return standIns.get(make);
  }

  void set(Make make, String level, boolean paused) {
    send(
            WARDEN,
            "PUT",
            "/api/services/" + linked.get(make),
            Map.of("name", make.title(), "level", level, "paused", paused))
        .is(200);
  }

  JsonNode service(Make make) {
    for (JsonNode each : get(WARDEN, "/api/services").is(200).json()) {
      if (each.path("id").longValue() == linked.get(make)) {
        return each;
      }
    }
    throw new IllegalStateException("not linked");
  }

  static Map<String, Object> meetingOf(String title, Map<String, Object> controls) {
    Map<String, Object> meeting = new LinkedHashMap<>();
    meeting.put("title", title);
    meeting.put("description", "");
    meeting.put("host", HOST);
    meeting.put("start", "2027-01-11T09:00");
    meeting.put("zone", "Europe/Dublin");
    meeting.put("minutes", 60);
    meeting.put("controls", controls);
    return meeting;
  }

  /** A meeting made in a service, once it is in the register. */
  String made(Make make, String title, Map<String, Object> controls) {
    String id = of(make).make(HOST, meetingOf(title, controls));
    until("it is in the register", () -> get(WARDEN, "/api/meetings/" + id).status() == 200);
    return id;
  }

  JsonNode meeting(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json();
  }

  JsonNode held(String id) {
    return meeting(id).path("held");
  }

  void decide(String id, String control, Object value) {
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

  void untilWriting(String id, String state) {
    until("it is " + state, () -> held(id).path("writing").stringValue("").equals(state));
  }

  static Map<String, Object> control(String control, Object value) {
    return Map.of("controls", Map.of(control, value));
  }

  String there(Make make, String id, String control) {
    return of(make).holds(id).path("controls").path(control).stringValue("");
  }

  boolean isFound(String id, String check) {
    for (JsonNode each : meeting(id).path("assessment").path("findings")) {
      if (each.path("check").stringValue("").equals(check)) {
        return true;
      }
    }
    return false;
  }
}
