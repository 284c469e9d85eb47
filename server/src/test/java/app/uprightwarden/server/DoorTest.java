package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Rehearsing a meeting's door over HTTP; the door itself is the core's and tested there. */
public class DoorTest extends ServerTest {
  private static final String CALLER = "j.sato@brownsand-survey.example";

  private static Map<String, Object> rehearsal(String meeting, Map<String, Object> pencil) {
    Map<String, Object> asked = new LinkedHashMap<>();
    asked.put("meeting", meeting);
    asked.put("moment", Map.of("minutesFromStart", 1, "hostIn", true, "locked", false));
    asked.put("pencil", pencil);
    asked.put("people", List.of(CALLER, HOST));
    return asked;
  }

  private String meeting(Map<String, Object> controls) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", "Rehearsed");
    form.put("host", HOST);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(30) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 45);
    form.put("controls", controls);
    form.put("invitees", List.of(Map.of("email", CALLER, "need", "required")));
    Map<String, Object> body = new HashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "for a rehearsal");
    return post(WARDEN, "/api/meetings", body).is(200).json().get("id").stringValue();
  }

  private static JsonNode comer(JsonNode view, String key) {
    for (JsonNode comer : view.get("comers")) {
      if (comer.get("key").stringValue().equals(key)) {
        return comer;
      }
    }
    throw new AssertionError("no " + key + " in " + view);
  }

  @Test
  public void eachIsAnsweredAsTheDoorAnswersAndPencilChangesNothing() {
    String id = meeting(Map.of("waiting-room", "on", "lobby-bypass", "hosts"));
    JsonNode view =
        post(WARDEN, "/api/door/rehearsal", rehearsal(id, Map.of("waiting-room", "off")))
            .is(200)
            .json();
    JsonNode invited = comer(view, CALLER);
    assertEquals(invited.at("/now/outcome").stringValue(), "held");
    assertEquals(invited.at("/now/step").stringValue(), "waiting-room");
    assertEquals(invited.at("/then/outcome").stringValue(), "in");
    assertEquals(invited.get("tie").stringValue(), "named");
    assertTrue(invited.get("holdsPasscode").booleanValue());
    assertEquals(comer(view, HOST).at("/now/role").stringValue(), "host");
    assertEquals(view.get("beyond").size(), 1, "the rule binds the waiting room");
    assertTrue(
        view.at("/exposureThen/score").doubleValue() > view.at("/exposure/score").doubleValue());
    JsonNode stored = get(WARDEN, "/api/meetings/" + id).is(200).json();
    assertEquals(stored.at("/controls/waiting-room").stringValue(), "on");

    // the stateless rehearsal, which has tests of its own, answers the same of the same persona
    JsonNode finder = comer(view, "link-finder");
    Map<String, Object> joiner = new HashMap<>();
    joiner.put("standing", finder.get("standing").stringValue());
    joiner.put("tie", finder.get("tie").stringValue());
    joiner.put("route", finder.get("route").stringValue());
    joiner.put("holdsPasscode", finder.get("holdsPasscode").booleanValue());
    joiner.put("removed", false);
    joiner.put("listedPresenter", false);
    JsonNode other =
        post(
                WARDEN,
                "/api/rehearse",
                Map.of(
                    "controls",
                    view.get("values"),
                    "joiner",
                    joiner,
                    "moment",
                    Map.of("minutesFromStart", 1, "hostIn", true, "locked", false)))
            .is(200)
            .json();
    assertEquals(finder.at("/now/outcome"), other.get("outcome"));
    assertEquals(finder.at("/now/trail"), other.get("trail"));
  }

  @Test
  public void whatItTakesIsToldWithWhatTheRuleSaysOfIt() {
    String id = meeting(Map.of("waiting-room", "on", "lobby-bypass", "hosts"));
    Map<String, Object> asked = new HashMap<>();
    asked.put("rehearsal", rehearsal(id, Map.of()));
    asked.put("who", CALLER);
    asked.put("goal", "in");
    JsonNode answer = post(WARDEN, "/api/door/admission", asked).is(200).json();
    assertFalse(answer.get("already").booleanValue());
    JsonNode way = answer.get("ways").get(0);
    Map<String, Object> pencil = new HashMap<>();
    way.get("changes")
        .forEach(
            change ->
                pencil.put(change.get("control").stringValue(), change.get("to").stringValue()));
    JsonNode then = post(WARDEN, "/api/door/rehearsal", rehearsal(id, pencil)).is(200).json();
    assertEquals(comer(then, CALLER).at("/then/outcome").stringValue(), "in");
    assertEquals(then.at("/exposureThen/score"), way.get("exposure"));
    assertEquals(then.get("beyond").size(), way.get("beyond").size());

    asked.put("goal", "not-in");
    answer = post(WARDEN, "/api/door/admission", asked).is(200).json();
    assertTrue(answer.get("already").booleanValue());

    asked.put("goal", "refused");
    answer = post(WARDEN, "/api/door/admission", asked).is(200).json();
    assertTrue(answer.get("acts").toString().contains("lock"), answer.toString());
  }

  @Test
  public void oneThatIsNotSavedBeginsWithTheStarts() {
    Map<String, Object> asked = rehearsal("x", Map.of());
    asked.put("meeting", null);
    asked.put("kind", "hearing");
    JsonNode view = post(WARDEN, "/api/door/rehearsal", asked).is(200).json();
    assertTrue(view.get("meeting").isNull());
    assertTrue(view.get("values").size() > 5);
    assertEquals(comer(view, CALLER).get("tie").stringValue(), "none");
    asked.remove("kind");
    JsonNode plain = post(WARDEN, "/api/door/rehearsal", asked).is(200).json();
    assertNotEquals(plain.get("allowed"), view.get("allowed"), "the kind's layer counts");
  }

  @Test
  public void whatIsWrongIsSaidAndWhereItIs() {
    String id = meeting(Map.of());
    JsonNode problem =
        post(WARDEN, "/api/door/rehearsal", rehearsal(id, Map.of("waiting-room", "ajar")))
            .is(422)
            .json();
    assertEquals(problem.at("/faults/0/pointer").stringValue(), "/pencil/waiting-room");
    Map<String, Object> late = rehearsal(id, Map.of());
    late.put("moment", Map.of("minutesFromStart", 61, "hostIn", true, "locked", false));
    post(WARDEN, "/api/door/rehearsal", late).is(422);
    Map<String, Object> none = rehearsal("no-such", Map.of());
    post(WARDEN, "/api/door/rehearsal", none).is(404);
    Map<String, Object> occurrence = rehearsal(id, Map.of());
    occurrence.put("occurrence", "2020-01-01T10:00");
    post(WARDEN, "/api/door/rehearsal", occurrence).is(404);
  }

  @Test
  public void aHostRehearsesTheirOwnOnly() {
    String own = meeting(Map.of());
    post(HOST, "/api/door/rehearsal", rehearsal(own, Map.of())).is(200);
    String other =
        get(WARDEN, "/api/meetings?size=1&host=" + WARDEN)
            .is(200)
            .json()
            .at("/items/0/id")
            .stringValue("m-0002");
    post(HOST, "/api/door/rehearsal", rehearsal(other, Map.of())).is(404);
  }
}
