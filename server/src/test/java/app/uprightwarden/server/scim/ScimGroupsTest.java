package app.uprightwarden.server.scim;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.List;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Groups, groups in groups, and many changes at once (RFC 7644 sections 3.5.2, 3.7 and 4). */
public class ScimGroupsTest extends ScimCase {
  private static String address(String name) {
    return name + "@saltmarsh.example";
  }

  private String user(String name) {
    return id(made(address(name), ""));
  }

  @Test
  public void aGroupIsAListThatMeetingsCanInvite() {
    String one = user("g-one");
    JsonNode group = group("Tour guides", one);
    assertEquals(members("Tour guides"), List.of(address("g-one")));
    // section 3.5.2.1, its example: a member is added
    String two = user("g-two");
    String path = "/Groups/" + id(group);
    patch(path, "{\"op\":\"add\",\"path\":\"members\",\"value\":[{\"value\":\"" + two + "\"}]}")
        .is(200);
    assertEquals(members("Tour guides"), List.of(address("g-one"), address("g-two")));
    // twice is once
    patch(path, "{\"op\":\"add\",\"path\":\"members\",\"value\":[{\"value\":\"" + two + "\"}]}")
        .is(200);
    assertEquals(scim("GET", path, null).json().get("members").size(), 2);
    // section 3.5.2.2, its examples: one member, then all
    patch(path, "{\"op\":\"remove\",\"path\":\"members[value eq \\\"" + one + "\\\"]\"}").is(200);
    assertEquals(members("Tour guides"), List.of(address("g-two")));
    patch(path, "{\"op\":\"remove\",\"path\":\"members\"}").is(200);
    assertEquals(members("Tour guides"), List.of());
    // section 3.5.2.3, its example: all members are replaced
    patch(
            path,
            "{\"op\":\"remove\",\"path\":\"members\"},{\"op\":\"add\",\"path\":\"members\","
                + "\"value\":[{\"value\":\""
                + one
                + "\"},{\"value\":\""
                + two
                + "\"}]}")
        .is(200);
    assertEquals(members("Tour guides").size(), 2);
    patch(path, "{\"op\":\"replace\",\"path\":\"displayName\",\"value\":\"Harbour guides\"}")
        .is(200);
    assertEquals(members("Harbour guides").size(), 2, "another name, the same list");
    scim("DELETE", path, null).is(204);
    scim("GET", path, null).is(404);
    assertEquals(members("Harbour guides"), List.of());
  }

  @Test
  public void groupsInGroupsReachEverybodyOnceAndCirclesEnd() {
    String a = user("n-a");
    String b = user("n-b");
    String c = user("n-c");
    JsonNode inner = group("Inner", a, b);
    JsonNode outer = group("Outer", id(inner), c, a);
    assertEquals(members("Outer"), List.of(address("n-a"), address("n-b"), address("n-c")));
    // what changes inside changes outside
    String d = user("n-d");
    patch(
            "/Groups/" + id(inner),
            "{\"op\":\"add\",\"path\":\"members\",\"value\":[{\"value\":\"" + d + "\"}]}")
        .is(200);
    assertTrue(members("Outer").contains(address("n-d")));
    // a circle: both reach the same people, and nothing goes round for ever
    patch(
            "/Groups/" + id(inner),
            "{\"op\":\"add\",\"path\":\"members\",\"value\":[{\"value\":\"" + id(outer) + "\"}]}")
        .is(200);
    assertEquals(members("Inner"), members("Outer"));
    JsonNode status = get(WARDEN, "/api/directory-link").is(200).json();
    assertTrue(status.get("circles").toString().contains("Inner"), status.toString());
    // without the inner one the outer keeps its own
    scim("DELETE", "/Groups/" + id(inner), null).is(204);
    assertEquals(members("Outer"), List.of(address("n-a"), address("n-c")));
  }

  @Test
  public void aListThatWasHereBeforeIsAGroupToo() {
    JsonNode list =
        scim("GET", "/Groups?excludedAttributes=members", null).is(200).json().at("/Resources/0");
    assertFalse(list.has("members"));
    JsonNode whole = scim("GET", "/Groups/" + id(list), null).is(200).json();
    String name = whole.get("displayName").stringValue();
    int before = members(name).size();
    assertEquals(whole.get("members").size(), before);
    String more = user("g-more");
    patch(
            "/Groups/" + id(list),
            "{\"op\":\"add\",\"path\":\"members\",\"value\":[{\"value\":\"" + more + "\"}]}")
        .is(200);
    assertEquals(members(name).size(), before + 1, "those who were in it still are");
  }

  @Test
  public void aMemberWhoIsNobodyIsRefused() {
    scim(
            "POST",
            "/Groups",
            "{\"schemas\":[\""
                + GROUP
                + "\"],\"displayName\":\"Ghosts\",\"members\":"
                + "[{\"value\":\"2819c223-7f76-453a-919d-413861904646\"}]}")
        .fails(400, "invalidValue");
    assertEquals(members("Ghosts"), List.of());
    group("Only once");
    scim("POST", "/Groups", "{\"schemas\":[\"" + GROUP + "\"],\"displayName\":\"only once\"}")
        .fails(409, "uniqueness");
  }

  private JsonNode bulk(int failOnErrors, String operations) {
    return scim(
            "POST",
            "/Bulk",
            """
            {"schemas": ["urn:ietf:params:scim:api:messages:2.0:BulkRequest"], "failOnErrors": %d,
             "Operations": [%s]}
            """
                .formatted(failOnErrors, operations))
        .is(200)
        .json()
        .get("Operations");
  }

  private static String makeUser(String bulkId, String address) {
    return """
    {"method": "POST", "path": "/Users", "bulkId": "%s",
     "data": {"schemas": ["%s"], "userName": "%s"}}
    """
        .formatted(bulkId, USER, address);
  }

  private static String makeGroup(String bulkId, String name, String member) {
    return """
    {"method": "POST", "path": "/Groups", "bulkId": "%s",
     "data": {"schemas": ["%s"], "displayName": "%s",
              "members": [{"type": "User", "value": "bulkId:%s"}]}}
    """
        .formatted(bulkId, GROUP, name, member);
  }

  @Test
  public void whatNamesAnotherByItsBulkIdWaitsForIt() {
    // section 3.7.2: the group comes before the user whom it names
    JsonNode done =
        bulk(
            0,
            makeGroup("ytrewq", "Bulk guides", "qwerty")
                + ","
                + makeUser("qwerty", address("b-alice")));
    assertEquals(done.size(), 2);
    assertEquals(done.at("/0/status").stringValue(), "201", done.toString());
    assertEquals(done.at("/0/bulkId").stringValue(), "ytrewq", "in the order of the request");
    assertTrue(done.at("/1/location").stringValue().contains("/Users/"));
    assertEquals(members("Bulk guides"), List.of(address("b-alice")));
  }

  @Test
  public void groupsThatNameEachOtherAreBothMade() {
    // section 3.7.1, circular references
    JsonNode done =
        bulk(0, makeGroup("ga", "Circle A", "gb") + "," + makeGroup("gb", "Circle B", "ga"));
    assertEquals(done.at("/0/status").stringValue(), "201", done.toString());
    assertEquals(done.at("/1/status").stringValue(), "201", done.toString());
    String last = done.at("/0/location").stringValue().replaceFirst(".*/", "");
    assertEquals(scim("GET", "/Groups/" + last, null).is(200).json().get("members").size(), 1);
  }

  @Test
  public void aGroupOfACircleThatDoesNotGetItsMembersIsNotSaidToBeDone() {
    String wrong =
        makeGroup("wa", "Wrong circle A", "wb")
            .replace(
                "\"members\": [",
                "\"members\": [{\"value\": \"2819c223-7f76-453a-919d-413861904646\"}, ");
    JsonNode done = bulk(0, wrong + "," + makeGroup("wb", "Wrong circle B", "wa"));
    assertEquals(done.at("/0/status").stringValue(), "400", done.toString());
    assertEquals(done.at("/0/response/scimType").stringValue(), "invalidValue");
    assertEquals(done.at("/1/status").stringValue(), "201", done.toString());
  }

  @Test
  public void oneThatFailsLeavesWhatWasDoneAndStopsWhereThatIsAsked() {
    // section 3.7.3
    String wrong = "{\"method\":\"DELETE\",\"path\":\"/Users/nobody\"}";
    JsonNode done =
        bulk(
            1,
            makeUser("x", address("b-first"))
                + ","
                + wrong
                + ","
                + makeUser("y", address("b-last")));
    assertEquals(done.size(), 2, "what comes after the first error is not done");
    assertEquals(done.at("/1/status").stringValue(), "404");
    assertEquals(
        done.at("/1/response/schemas/0").stringValue(),
        "urn:ietf:params:scim:api:messages:2.0:Error");
    assertTrue(person(address("b-first")) != null && person(address("b-last")) == null);
    JsonNode all = bulk(0, wrong + "," + makeUser("z", address("b-after")));
    assertEquals(all.at("/1/status").stringValue(), "201");
  }

  @Test
  public void whatItCanIsSaidInTheShapesOfTheStandard() {
    // RFC 7643 sections 5, 6 and 7; RFC 7644 section 4
    JsonNode config = scim("GET", "/ServiceProviderConfig", null).is(200).json();
    for (String what : List.of("patch", "bulk", "filter", "changePassword", "sort", "etag")) {
      assertTrue(config.at("/" + what + "/supported").isBoolean(), what);
    }
    assertEquals(config.at("/authenticationSchemes/0/type").stringValue(), "oauthbearertoken");
    JsonNode types = scim("GET", "/ResourceTypes", null).is(200).json();
    assertEquals(types.get("totalResults").intValue(), 2);
    JsonNode schemas = scim("GET", "/Schemas", null).is(200).json();
    for (JsonNode type : types.get("Resources")) {
      String schema = type.get("schema").stringValue();
      assertTrue(
          schemas
              .get("Resources")
              .valueStream()
              .anyMatch(s -> s.get("id").stringValue().equals(schema)));
      scim("GET", "/Schemas/" + schema, null).is(200);
      scim("GET", type.get("endpoint").stringValue() + "?count=0", null).is(200);
    }
    scim("GET", "/ResourceTypes/User", null).is(200);
    scim("GET", "/Schemas/urn:nothing", null).is(404);
  }
}
