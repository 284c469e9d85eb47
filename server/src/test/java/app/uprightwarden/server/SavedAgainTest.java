package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeSet;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A new meeting is saved once, also by somebody who never got the answer and saves it again. */
public class SavedAgainTest extends ServerTest {
  private static final String GUEST = "j.sato@brownsand-survey.example";

  private static Map<String, Object> body(String title, String key, boolean send) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", WARDEN);
    form.put("start", LocalDate.now(ZoneOffset.UTC).plusDays(30) + "T10:00");
    form.put("zone", "Europe/Dublin");
    form.put("minutes", 30);
    form.put("invitees", List.of(Map.of("email", GUEST, "need", "required")));
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", send);
    body.put("key", key);
    return body;
  }

  private static String key(String of) {
    return "saved-once-and-again-" + of;
  }

  private int letters(String id) {
    return get(WARDEN, "/api/outbox?about=meeting:" + id).is(200).json().size();
  }

  private int found(String title) {
    return get(WARDEN, "/api/meetings?text=" + title).is(200).json().path("items").size();
  }

  @Test
  public void theSecondTryIsToldOfTheFirst() {
    JsonNode first =
        post(WARDEN, "/api/meetings", body("Breakwater", key("one"), true)).is(200).json();
    assertEquals(first.path("before").booleanValue(), false);
    // changed since: what is there is what was saved, and the page offers the rest beside it
    JsonNode second =
        post(WARDEN, "/api/meetings", body("Breakwater, later", key("one"), true)).is(200).json();
    assertEquals(second.path("id").stringValue(), first.path("id").stringValue());
    assertTrue(second.path("before").booleanValue());
    assertEquals(second.path("sent").intValue(), first.path("sent").intValue());
    assertEquals(found("Breakwater"), 1);
    String id = first.path("id").stringValue();
    assertEquals(letters(id), 1, "the guest is written to once");
    JsonNode meeting = get(WARDEN, "/api/meetings/" + id).is(200).json();
    assertEquals(meeting.path("title").stringValue(), "Breakwater");
  }

  @Test
  public void aKeyIsItsOwners() {
    JsonNode mine = post(WARDEN, "/api/meetings", body("Dolphin", key("ours"), false)).json();
    JsonNode hers =
        post(SECOND_WARDEN, "/api/meetings", body("Dolphin", key("ours"), false)).json();
    assertNotEquals(hers.path("id").stringValue(), mine.path("id").stringValue());
    JsonNode other = post(WARDEN, "/api/meetings", body("Dolphin", key("other"), false)).json();
    assertNotEquals(other.path("id").stringValue(), mine.path("id").stringValue());
    post(WARDEN, "/api/meetings", body("Dolphin", "short", false)).is(422);
  }

  @Test
  public void whatWasCancelledSinceDoesNotComeBack() {
    String id =
        post(WARDEN, "/api/meetings", body("Jetsam", key("gone"), false))
            .is(200)
            .json()
            .path("id")
            .stringValue();
    long version = get(WARDEN, "/api/meetings/" + id).json().path("version").longValue();
    String at = "/api/meetings/" + id + "?send=false&version=" + version;
    send(WARDEN, "DELETE", at, null).is(200);
    Answer again = post(WARDEN, "/api/meetings", body("Jetsam", key("gone"), false)).is(409);
    assertEquals(again.json().path("code").stringValue(), "cancelled-since");
    assertEquals(found("Jetsam"), 0);
  }

  @Test
  public void ofTriesAtTheSameTimeOneIsSaved() throws Exception {
    ExecutorService many = Executors.newFixedThreadPool(4);
    try {
      List<Future<Answer>> tries = new ArrayList<>();
      for (int i = 0; i < 4; i++) {
        tries.add(
            many.submit(() -> post(WARDEN, "/api/meetings", body("Flotsam", key("all"), true))));
      }
      TreeSet<String> ids = new TreeSet<>();
      for (Future<Answer> each : tries) {
        ids.add(each.get().is(200).json().path("id").stringValue());
      }
      assertEquals(ids.size(), 1, ids.toString());
      assertEquals(letters(ids.first()), 1);
    } finally {
      many.shutdownNow();
    }
  }
}
