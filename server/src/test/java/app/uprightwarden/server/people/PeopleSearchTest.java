package app.uprightwarden.server.people;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.util.ArrayList;
import java.util.HashMap;
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

  private List<String> members(String at) {
    List<String> members = new ArrayList<>();
    get(WARDEN, at).is(200).json().path("members").forEach(m -> members.add(m.stringValue()));
    return members;
  }

  private static Map<String, Object> change(String name, List<String> add, List<String> remove) {
    Map<String, Object> change = new HashMap<>();
    change.put("name", name);
    change.put("add", add);
    change.put("remove", remove);
    return change;
  }

  @Test
  public void whatTwoPeopleChangeInAListIsBothThere() {
    String at = "/api/people/groups/lists/l-shared";
    List<String> first = List.of("a@x.example", "b@x.example");
    send(WARDEN, "PUT", at, Map.of("name", "Shared", "members", first)).is(200);
    // both have looked at a and b
    send(WARDEN, "PATCH", at, change("Shared", List.of("c@x.example"), List.of("A@X.example")))
        .is(200);
    send(
            SECOND_WARDEN,
            "PATCH",
            at,
            change("All hands", List.of("C@x.example", "d@x.example"), List.of()))
        .is(200);
    assertEquals(members(at), List.of("b@x.example", "c@x.example", "d@x.example"));
    String many = "/api/people/groups/lists/l-many";
    List<String> most = new ArrayList<>();
    for (int i = 0; i < 20_000; i++) {
      most.add("p" + i + "@x.example");
    }
    send(WARDEN, "PUT", many, Map.of("name", "Many", "members", most)).is(200);
    Answer refused =
        send(WARDEN, "PATCH", many, change("Many", List.of("one@x.example"), List.of())).is(422);
    assertTrue(refused.body().contains("/add"), refused.body());
    send(WARDEN, "PATCH", many, change("Many", List.of("one@x.example"), List.of(most.get(7))))
        .is(200);
    assertEquals(members(many).size(), 20_000);
    send(WARDEN, "DELETE", at, null).is(204);
    send(WARDEN, "PATCH", at, change("Shared", List.of(), List.of())).is(404);
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
