package app.uprightwarden.server.people;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;

import app.uprightwarden.server.ServerTest;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** The organisation's own facts: two who change them at once both know of it. */
public class OrganisationTest extends ServerTest {
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
}
