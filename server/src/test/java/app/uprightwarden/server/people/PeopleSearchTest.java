package app.uprightwarden.server.people;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** People found as somebody types, and who sees whom in lists. */
public class PeopleSearchTest extends ServerTest {
  private List<String> names(String query) {
    List<String> names = new ArrayList<>();
    get(HOST, "/api/people?" + query)
        .is(200)
        .json()
        .path("items")
        .forEach(each -> names.add(each.path("name").stringValue()));
    return names;
  }

  private void put(String email, String name) {
    Map<String, Object> person = Map.of("name", name, "standing", "member", "active", true);
    send(WARDEN, "PUT", "/api/people/" + email, person).is(200);
  }

  @Test
  public void whoseNameBeginsSoComesFirst() {
    put("b.zqmaxon@saltmarsh.example", "Bela Zqmaxon");
    put("a.ozqma@saltmarsh.example", "Ada Ozqma");
    put("zqma.c@saltmarsh.example", "Cem Trout");
    assertEquals(names("text=zqma"), List.of("Ada Ozqma", "Bela Zqmaxon", "Cem Trout"), "by name");
    assertEquals(
        names("text=ZQMA&best=true"),
        List.of("Bela Zqmaxon", "Cem Trout", "Ada Ozqma"),
        "a word or the address begins so");
    assertEquals(names("text=zqma&best=true&size=1&page=2"), List.of("Ada Ozqma"));
    assertEquals(get(HOST, "/api/people?text=zqma&size=1").json().path("total").intValue(), 3);
    put("a.ozqma@saltmarsh.example", "Ada Renamed");
    assertEquals(names("text=Ada+Renamed"), List.of("Ada Renamed"), "at once");
  }

  @Test
  public void aHostSeesWhatListsAreCalledAndWhoIsInTheirOwn() {
    Map<String, Object> own = Map.of("name", "Own", "members", List.of(HOST, AUDITOR));
    Map<String, Object> other = Map.of("name", "Other", "members", List.of(AUDITOR));
    send(WARDEN, "PUT", "/api/people/groups/lists/l-own", own).is(200);
    send(WARDEN, "PUT", "/api/people/groups/spaces/s-other", other).is(200);
    JsonNode all = get(HOST, "/api/organisation").is(200).json();
    String lists = all.path("lists").toString();
    assertTrue(lists.contains("Own"), lists);
    assertFalse(lists.contains("@"), "nobody by name");
    assertEquals(
        get(HOST, "/api/people/groups/lists/l-own").is(200).json().path("members").size(), 2);
    get(HOST, "/api/people/groups/spaces/s-other").is(403);
    assertEquals(
        get(AUDITOR, "/api/people/groups/spaces/s-other")
            .is(200)
            .json()
            .at("/members/0")
            .stringValue(),
        AUDITOR);
    get(WARDEN, "/api/people/groups/lists/s-other").is(404);
    get(WARDEN, "/api/people/groups/rooms/x").is(422);
    send(WARDEN, "DELETE", "/api/people/groups/lists/l-own", null).is(204);
    send(WARDEN, "DELETE", "/api/people/groups/spaces/s-other", null).is(204);
  }
}
