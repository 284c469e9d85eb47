package app.uprightwarden.server.register;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What one date of a series has of its own: set, judged, taken back. */
public class DateControlsTest extends ServerTest {
  private final LocalDate first = LocalDate.now(ZoneOffset.UTC).plusDays(9);

  private String series(String title) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", HOST);
    form.put("start", first + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 60);
    form.put("recurrence", "FREQ=DAILY;COUNT=5");
    form.put("controls", Map.of("waiting-room", "on", "screen-share", "presenters"));
    form.put("invitees", List.of(Map.of("email", AUDITOR)));
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "a test of dates");
    return post(WARDEN, "/api/meetings", body).is(200).json().get("id").stringValue();
  }

  private JsonNode meeting(String id) {
    return get(WARDEN, "/api/meetings/" + id).is(200).json();
  }

  private Answer change(
      String who, String id, @Nullable String date, String control, @Nullable Object value) {
    Map<String, Object> controls = new HashMap<>();
    controls.put(control, value);
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", meeting(id).get("version").longValue());
    body.put("occurrence", date);
    body.put("controls", controls);
    return send(who, "PATCH", "/api/meetings/" + id + "/controls", body);
  }

  private String date(int day) {
    return first.plusDays(day) + "T10:00";
  }

  @Test
  public void oneDateIsLooserAndIsFoundSoAlone() {
    String id = series("One date alone");
    JsonNode now = change(WARDEN, id, date(2), "waiting-room", "off").is(200).json();
    assertEquals(now.at("/controls/waiting-room").stringValue(), "on", "the series stays");
    JsonNode third = now.at("/coming/2");
    assertEquals(third.get("at").stringValue(), date(2));
    assertEquals(third.at("/controls/waiting-room").stringValue(), "off");
    assertTrue(now.at("/coming/1/controls").isEmpty());
    assertTrue(
        now.at("/assessment/findings")
            .valueStream()
            .anyMatch(
                f ->
                    f.path("check").stringValue("").equals("beyond-limit")
                        && f.path("occurrence").stringValue("").equals(date(2))),
        now.at("/assessment/findings").toString());
    // as the series again, and nothing is left of it
    JsonNode back = change(WARDEN, id, date(2), "waiting-room", null).is(200).json();
    assertTrue(back.at("/coming/2/controls").isEmpty());
    assertEquals(back.at("/coming/2/changed").booleanValue(), false);
    assertTrue(
        back.at("/assessment/findings")
            .valueStream()
            .noneMatch(f -> f.path("occurrence").stringValue("").equals(date(2))));
  }

  @Test
  public void aHostStaysWithinTheRulesOnEveryDate() {
    String id = series("Within on every date");
    String answer = change(HOST, id, date(1), "waiting-room", "off").is(422).body();
    assertTrue(answer.contains("goes beyond what the rulebook allows"), answer);
    change(HOST, id, date(1), "screen-share", "hosts").is(200);
    assertEquals(meeting(id).at("/coming/1/controls/screen-share").stringValue(), "hosts");
    change(AUDITOR, id, date(1), "screen-share", "presenters").is(403);
  }

  @Test
  public void aDateThatIsNoneAndAnOldVersionAreRefused() {
    String id = series("No such date");
    for (String none : List.of(date(5), first + "T11:00", "tomorrow")) {
      JsonNode problem = change(WARDEN, id, none, "waiting-room", "off").is(422).json();
      assertEquals(
          problem.at("/faults/0/pointer").stringValue(), "/occurrence", problem.toString());
    }
    Map<String, Object> old = new LinkedHashMap<>();
    old.put("version", 41);
    old.put("occurrence", date(1));
    old.put("controls", Map.of("waiting-room", "off"));
    send(WARDEN, "PATCH", "/api/meetings/" + id + "/controls", old).is(409);
    assertTrue(meeting(id).at("/coming/1/controls").isEmpty());
  }

  @Test
  public void whatTheDateHadIsPutBackFromItsHistory() {
    String id = series("Back from history");
    change(WARDEN, id, date(3), "chat", "off").is(200);
    change(WARDEN, id, date(3), "chat", "hosts-post").is(200);
    JsonNode history = get(WARDEN, "/api/meetings/" + id + "/history").is(200).json();
    assertTrue(history.size() >= 2 || history.path("items").size() >= 2, history.toString());
    assertEquals(meeting(id).at("/coming/3/controls/chat").stringValue(), "hosts-post");
  }
}
