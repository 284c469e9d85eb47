package app.uprightwarden.server.floor;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Who is let in from the door: those who were seen there, and nobody who came since. */
public class DoorTest extends PractisedSessions {
  private static final int STRANGERS = 4;

  /**
   * A session in which all but the host wait, and nobody lets anybody in: of forty who come within
   * a minute of its clock four were not invited, and half of the others leave again.
   */
  private String session(String title) {
    Map<String, Object> controls = new LinkedHashMap<>();
    controls.put("passcode", "none");
    controls.put("waiting-room", "on");
    controls.put("sign-in", "none");
    controls.put("registration", "none");
    controls.put("early-entry", "any-time");
    controls.put("lobby-bypass", "hosts");
    return practise(meeting(title, 60, controls, AUDITOR, SECOND_WARDEN), "crowd", 20, 40);
  }

  private JsonNode page(String session, String text) {
    String query = "?most=500&text=" + text;
    return get(WARDEN, "/api/floor/sessions/" + session + query).is(200).json();
  }

  private Answer order(String session, String key, String act, Map<String, Object> more) {
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("key", session + "-" + key);
    body.put("act", act);
    body.put("people", List.of());
    body.putAll(more);
    return post(WARDEN, "/api/floor/sessions/" + session + "/orders", body);
  }

  private static long strangers(JsonNode page) {
    return page.get("door").valueStream().filter(p -> !p.get("expected").booleanValue()).count();
  }

  @Test
  public void whoWasNotInvitedIsCountedWhateverIsLookedFor() {
    String session = session("Counted at the door");
    until("all strangers wait", () -> page(session, "").get("uninvited").intValue() == STRANGERS);
    JsonNode narrowed = page(session, "nobody-is-called-so");
    assertEquals(narrowed.get("door").size(), 0);
    assertEquals(narrowed.get("uninvited").intValue(), STRANGERS);
    order(session, "end", "end", Map.of()).is(200);
  }

  @Test
  public void allAreLetInOnlyWithAsManyStrangersAsWereSeen() {
    String session = session("Seen at the door");
    until("all strangers wait", () -> strangers(page(session, "")) == STRANGERS);
    Map<String, Object> none = Map.of("whom", "everybody", "uninvited", 0);
    Answer refused = order(session, "all", "let-in-all", none).is(409);
    assertEquals(refused.json().get("code").stringValue(), "more-uninvited");
    assertEquals(strangers(page(session, "")), STRANGERS, "nobody was let in");
    until(
        "somebody invited waits",
        () ->
            page(session, "")
                .get("door")
                .valueStream()
                .anyMatch(p -> p.get("expected").booleanValue()));
    JsonNode invited =
        order(session, "invited", "let-in-all", Map.of("whom", "invited")).is(200).json();
    assertEquals(invited.get("act").stringValue(), "let-in", "by name");
    assertFalse(invited.get("people").isEmpty());
    until(
        "those named are in",
        () ->
            page(session, "")
                .get("door")
                .valueStream()
                .noneMatch(
                    p ->
                        invited
                            .get("people")
                            .valueStream()
                            .anyMatch(who -> who.equals(p.get("who")))));
    JsonNode after = page(session, "");
    assertEquals(strangers(after), STRANGERS, "the others wait on");
    // asked twice with one key it is one order, about those of the first time
    JsonNode again =
        order(session, "invited", "let-in-all", Map.of("whom", "invited")).is(200).json();
    assertEquals(again, invited);
    Map<String, Object> all =
        Map.of("whom", "everybody", "uninvited", after.get("uninvited").intValue());
    JsonNode letIn = order(session, "rest", "let-in-all", all).is(200).json();
    assertTrue(letIn.get("people").size() > 1, letIn.toString());
    order(session, "end", "end", Map.of()).is(200);
  }

  @Test
  public void whatWaitsForTheServiceIsVoidByALaterWord() {
    String session = session("Said last");
    until("it is open", () -> page(session, "").at("/line/state").stringValue().equals("open"));
    mood(60, false);
    String lock = order(session, "lock", "lock", Map.of()).is(200).json().get("id").stringValue();
    JsonNode unlock = order(session, "unlock", "unlock", Map.of()).is(200).json();
    assertEquals(unlock.get("state").stringValue(), "waiting");
    JsonNode earlier =
        page(session, "")
            .get("orders")
            .valueStream()
            .filter(each -> each.get("id").stringValue().equals(lock))
            .findFirst()
            .orElseThrow();
    assertEquals(earlier.get("state").stringValue(), "given-up");
    mood(0, false);
    until(
        "the later one is carried out",
        () ->
            page(session, "")
                .get("orders")
                .valueStream()
                .noneMatch(each -> each.get("state").stringValue().equals("waiting")));
    assertFalse(page(session, "").at("/line/locked").booleanValue());
    assertTrue(
        page(session, "")
            .get("moments")
            .valueStream()
            .noneMatch(m -> m.get("kind").stringValue().equals("locked")),
        "it was never locked");
    order(session, "end", "end", Map.of()).is(200);
  }
}
