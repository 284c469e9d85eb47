package app.uprightwarden.server.people;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;

import app.uprightwarden.server.ServerTest;
import java.net.URI;
import java.net.http.HttpRequest;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.CompletableFuture;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The organisation's own facts: two who change them at once both know of it. */
public class OrganisationTest extends ServerTest {
  @Autowired private OrganisationService organisation;

  private JsonNode now() {
    return get(WARDEN, "/api/organisation").is(200).json();
  }

  private static Map<String, Object> change(JsonNode seen, String name) {
    Map<String, Object> wanted = new LinkedHashMap<>();
    for (String same : List.of("domains", "partners", "units", "kinds", "facts")) {
      wanted.put(same, seen.get(same));
    }
    wanted.put("name", name);
    wanted.put("maxParticipants", seen.at("/plan/maxParticipants"));
    wanted.put("maxMinutes", seen.at("/plan/maxMinutes"));
    return wanted;
  }

  private Answer put(Map<String, Object> wanted) {
    return send(WARDEN, "PUT", "/api/people/house", wanted);
  }

  @Test
  public void whoHasNotSeenAChangeDoesNotOverwriteIt() {
    JsonNode seen = now();
    String name = seen.get("name").asString();
    try {
      put(change(seen, "Harbour One")).is(200);
      JsonNode said = put(change(seen, "Harbour Two")).is(409).json();
      assertEquals(said.get("code").asString(), "changed-meanwhile");
      assertEquals(now().get("name").asString(), "Harbour One");
      // whoever has looked again may
      put(change(now(), "Harbour Two")).is(200);
      assertEquals(now().get("name").asString(), "Harbour Two");
      // the same twice is no change that anybody could miss
      JsonNode again = now();
      put(change(again, "Harbour Two")).is(200);
      assertEquals(now().get("facts"), again.get("facts"));
    } finally {
      Map<String, Object> back = change(seen, name);
      back.remove("facts"); // a program that does not ask is not asked
      put(back).is(200);
    }
    assertEquals(now().get("facts"), seen.get("facts"), "as it was");
    assertNotEquals(now().get("name").asString(), "Harbour Two");
  }

  @Test
  public void peopleAndListsAreNoneOfTheFacts() {
    JsonNode seen = now();
    Map<String, Object> list = Map.of("name", "Facts", "members", List.of(HOST));
    send(WARDEN, "PUT", "/api/people/groups/lists/facts", list).is(200);
    try {
      assertEquals(now().get("facts"), seen.get("facts"));
    } finally {
      send(WARDEN, "DELETE", "/api/people/groups/lists/facts", null);
    }
  }

  @Test
  public void noUnitAndNoKindIsThereTwice() {
    JsonNode seen = now();
    Map<String, Object> twice = change(seen, seen.get("name").asString());
    List<Object> units = new ArrayList<>();
    seen.get("units").forEach(units::add);
    String id = seen.at("/units/0/id").asString();
    units.add(Map.of("id", id, "name", "Another of the name"));
    twice.put("units", units);
    JsonNode said = put(twice).is(422).json();
    assertEquals(said.at("/faults/0/pointer").asString(), "/units/" + (units.size() - 1) + "/id");
    assertEquals(
        said.at("/faults/0/message").asString(), "“" + id + "” is there already; give another id");
    assertEquals(now().get("units"), seen.get("units"));
    Map<String, Object> kinds = change(seen, seen.get("name").asString());
    Map<String, Object> kind = Map.of("id", "same", "name", "Same", "confidential", false);
    kinds.put("kinds", List.of(kind, kind));
    assertEquals(put(kinds).is(422).json().at("/faults/0/pointer").asString(), "/kinds/1/id");
  }

  private Answer putNew(String path, Object body) {
    return exchange(
        HttpRequest.newBuilder(URI.create("http://127.0.0.1:" + port + path))
            .header("Authorization", "Bearer " + tokenOf(WARDEN))
            .header("Content-Type", "application/json")
            .header("If-None-Match", "*")
            .PUT(HttpRequest.BodyPublishers.ofString(new JsonMapper().writeValueAsString(body)))
            .build());
  }

  @DataProvider
  Object[][] things() {
    String email = "n.new@saltmarsh.example";
    return new Object[][] {
      {"/api/people/" + email, Map.of("name", "N New", "standing", "member", "active", true)},
      {"/api/people/groups/lists/newest", Map.of("name", "Newest", "members", List.of(HOST))},
      {"/api/people/groups/spaces/newest", Map.of("name", "Newest", "members", List.of())},
      {
        "/api/people/groups/rooms/newest",
        Map.of("name", "Newest", "email", "room@saltmarsh.example", "seats", 3)
      },
    };
  }

  /** RFC 9110, 13.1.2: with {@code If-None-Match: *} only what is not there yet is put there. */
  @Test(dataProvider = "things")
  public void whatIsAddedTakesThePlaceOfNothing(String path, Map<String, Object> body) {
    try {
      CompletableFuture<Answer> first = CompletableFuture.supplyAsync(() -> putNew(path, body));
      Answer second = putNew(path, body);
      assertEquals(Set.of(first.join().status(), second.status()), Set.of(200, 412));
      Map<String, Object> other = new LinkedHashMap<>(body);
      other.put("name", "Another");
      assertEquals(putNew(path, other).is(412).json().get("code").asString(), "there-already");
      // whoever does not ask for that changes it, as before
      send(WARDEN, "PUT", path, other).is(200);
    } finally {
      if (path.contains("/groups/")) {
        send(WARDEN, "DELETE", path, null);
      } else {
        organisation.removeAll("people", List.of("n.new@saltmarsh.example"));
      }
    }
  }

  @Test
  public void anEntryThatSomebodyChangedMeanwhileIsLookedAtAgain() {
    String path = "/api/people/m.meanwhile@saltmarsh.example";
    Map<String, Object> first =
        Map.of("name", "M Mean", "standing", "member", "active", true, "zone", "Europe/Dublin");
    try {
      putNew(path, first).is(200);
      Map<String, Object> gone = new LinkedHashMap<>(first);
      gone.put("active", false);
      gone.put("seen", first);
      send(WARDEN, "PUT", path, gone).is(200);
      // a name mended by somebody who saw them as they were would make them active again
      Map<String, Object> mended = new LinkedHashMap<>(first);
      mended.put("name", "M Meanwhile");
      mended.put("seen", first);
      assertEquals(
          send(WARDEN, "PUT", path, mended).is(409).json().get("code").asString(),
          "changed-meanwhile");
      gone.remove("seen");
      mended.put("active", false);
      mended.put("seen", gone);
      JsonNode now = send(WARDEN, "PUT", path, mended).is(200).json();
      assertEquals(now.get("name").asString(), "M Meanwhile");
      assertFalse(now.get("active").asBoolean());
      assertEquals(now.get("zone").asString(), "Europe/Dublin");
    } finally {
      organisation.removeAll("people", List.of("m.meanwhile@saltmarsh.example"));
    }
  }

  @Test
  public void aRoomThatSomebodyChangedMeanwhileIsLookedAtAgain() {
    String path = "/api/people/groups/rooms/meanwhile";
    Map<String, Object> first = room("Chart room", 8);
    try {
      putNew(path, first).is(200);
      Map<String, Object> larger = room("Chart room", 20);
      larger.put("seen", first);
      send(WARDEN, "PUT", path, larger).is(200);
      // a name mended by somebody who saw it as it was would make it small again
      Map<String, Object> mended = room("Old chart room", 8);
      mended.put("seen", first);
      assertEquals(
          send(WARDEN, "PUT", path, mended).is(409).json().get("code").asString(),
          "changed-meanwhile");
      mended.put("seats", 20);
      mended.put("seen", room("Chart room", 20));
      assertEquals(send(WARDEN, "PUT", path, mended).is(200).json().get("seats").intValue(), 20);
    } finally {
      send(WARDEN, "DELETE", path, null);
    }
  }

  private static Map<String, Object> room(String name, int seats) {
    Map<String, Object> room = new LinkedHashMap<>();
    room.put("name", name);
    room.put("email", "chart@saltmarsh.example");
    room.put("seats", seats);
    return room;
  }

  @Test
  public void aListIsCalledAsItIsWhereOnlyWhoIsInItChanges() {
    String path = "/api/people/groups/lists/meanwhile";
    try {
      putNew(path, Map.of("name", "Crew", "members", List.of())).is(200);
      send(WARDEN, "PATCH", path, Map.of("name", "Day crew", "add", List.of(), "remove", List.of()))
          .is(200);
      JsonNode now =
          send(WARDEN, "PATCH", path, Map.of("add", List.of(HOST), "remove", List.of()))
              .is(200)
              .json();
      assertEquals(now.get("name").asString(), "Day crew");
      assertEquals(now.get("members").size(), 1);
      send(WARDEN, "PATCH", path, Map.of("name", " ", "add", List.of(), "remove", List.of()))
          .is(422);
    } finally {
      send(WARDEN, "DELETE", path, null);
    }
  }
}
