package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** People named to contribute, to caption and to interpret; groups made of lists. */
public class TasksTest extends ServerTest {
  private static final String HEARD = "j.sato@brownsand-survey.example";
  private static final String WATCHES = "mayor@town.example";
  private static final String SPEAKS = "n.bright@cables.example";

  private Map<String, Object> form(String title, Map<String, Object> controls) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", WARDEN);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(41) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 45);
    form.put("controls", controls);
    form.put(
        "invitees",
        List.of(
            Map.of("email", HEARD, "need", "required", "task", "contributor"),
            Map.of("email", WATCHES, "need", "optional", "task", "captioner"),
            Map.of("email", SPEAKS, "need", "required", "task", "interpreter", "language", "ga")));
    return form;
  }

  private static Map<String, Object> save(long version, Map<String, Object> form) {
    return new LinkedHashMap<>(Map.of("version", version, "meeting", form, "send", true));
  }

  private String letterTo(String id, String to) {
    for (JsonNode message : get(WARDEN, "/api/outbox?about=meeting:" + id).is(200).json()) {
      if (message.path("to").stringValue("").equals(to)) {
        return message.path("body").stringValue();
      }
    }
    throw new AssertionError("no message to " + to);
  }

  /** What somebody is in a meeting once they are in, as the door rehearses it. */
  private String roleOf(String id, String who) {
    Map<String, Object> moment = Map.of("minutesFromStart", 1, "hostIn", true, "locked", false);
    Map<String, Object> pencil = Map.of("waiting-room", "off");
    Map<String, Object> asked =
        Map.of("meeting", id, "moment", moment, "pencil", pencil, "people", List.of(who));
    JsonNode view = post(WARDEN, "/api/door/rehearsal", asked).is(200).json();
    for (JsonNode comer : view.get("comers")) {
      if (comer.path("key").stringValue("").equals(who)) {
        return comer.at("/then/role").stringValue();
      }
    }
    throw new AssertionError(view.toString());
  }

  @Test
  public void whoIsNamedToTakePartIsHeardWhereTheOthersWatchAndIsToldSo() {
    Map<String, Object> form =
        form("Onlookers", Map.of("joiner-mode", "onlooker", "captions", "on"));
    String id =
        post(WARDEN, "/api/meetings", save(0, form)).is(200).json().path("id").stringValue();
    JsonNode meeting = get(WARDEN, "/api/meetings/" + id).is(200).json();
    assertEquals(meeting.at("/invitees/2/task").stringValue(), "interpreter");
    assertEquals(meeting.at("/invitees/2/language").stringValue(), "ga");
    assertTrue(letterTo(id, HEARD).contains("you take part"), letterTo(id, HEARD));
    assertTrue(letterTo(id, SPEAKS).contains("you interpret into Irish"), letterTo(id, SPEAKS));
    assertTrue(letterTo(id, WATCHES).contains("you write the captions"), letterTo(id, WATCHES));
    assertEquals(roleOf(id, HEARD), "attendee");
    assertEquals(roleOf(id, SPEAKS), "attendee");
    assertEquals(roleOf(id, WATCHES), "onlooker");
    String bundle = get(WARDEN, "/api/exchange/bundle").is(200).body();
    assertTrue(bundle.contains("\"task\":\"interpreter\""), "it is in the file too");
    String calendar = get(WARDEN, "/api/exchange/calendar?id=" + id).is(200).body();
    assertTrue(calendar.contains("X-WARDEN-TASK;NAME=interpreter;LANGUAGE=ga:"), calendar);
  }

  @Test
  public void whatWillNotGoAsItIsMeantIsSaidWhileItIsChosen() {
    Map<String, Object> form =
        form(
            "Hints", Map.of("joiner-mode", "attendee", "interpretation", "off", "captions", "off"));
    String hints =
        post(WARDEN, "/api/scheduling/foretaste", Map.of("meeting", form)).is(200).body();
    assertTrue(hints.contains("Contributors are named, and everybody takes part"), hints);
    assertTrue(hints.contains("A captioner is named, and captions are off"), hints);
    assertTrue(hints.contains("An interpreter is named, and interpretation is off"), hints);
    form.put("invitees", List.of(Map.of("email", HEARD, "task", "juggler")));
    post(WARDEN, "/api/meetings", save(0, form)).is(422);
  }

  @Test
  public void theOrganisationSaysHowManyPeopleAnnouncingDisturbs() {
    Map<String, Object> form = form("Announced", Map.of("arrival-notice", "announced"));
    String path = "/api/scheduling/foretaste";
    String few = post(WARDEN, path, Map.of("meeting", form)).is(200).body();
    assertFalse(few.contains("coming and going is announced"), few);
    String setting = "/api/scheduling/announcing";
    assertEquals(get(WARDEN, setting).is(200).json().path("people").intValue(), 20);
    send(WARDEN, "PUT", setting, Map.of("people", 1)).is(422);
    send(WARDEN, "PUT", setting, Map.of("people", 3)).is(200);
    try {
      String many = post(WARDEN, path, Map.of("meeting", form)).is(200).body();
      assertTrue(many.contains("Below 3 that helps"), many);
    } finally {
      send(WARDEN, "PUT", setting, Map.of("people", 20)).is(200);
    }
  }

  @Test
  public void aGroupOfAListHoldsWhoIsOnItThen() {
    JsonNode list = get(WARDEN, "/api/organisation").is(200).json().at("/lists/0");
    String at = "/api/people/groups/lists/" + list.path("id").stringValue();
    String member = get(WARDEN, at).is(200).json().at("/members/0").stringValue();
    Map<String, Object> form = form("Groups", Map.of("breakout-groups", "pre-assigned"));
    form.put("lists", List.of(list.path("id").stringValue()));
    form.put(
        "groups",
        List.of(
            Map.of("name", "North", "members", List.of(HEARD)),
            Map.of("name", "South", "list", list.path("id").stringValue())));
    String id =
        post(WARDEN, "/api/meetings", save(0, form)).is(200).json().path("id").stringValue();
    assertTrue(letterTo(id, HEARD).contains("North"), letterTo(id, HEARD));
    assertTrue(letterTo(id, member).contains("South"), letterTo(id, member));
    form.put("groups", List.of(Map.of("name", "None", "list", "no-such-list")));
    String refused = post(WARDEN, "/api/meetings", save(0, form)).is(422).body();
    assertTrue(refused.contains("/groups/0/list"), refused);
  }
}
