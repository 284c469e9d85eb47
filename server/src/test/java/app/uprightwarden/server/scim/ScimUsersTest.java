package app.uprightwarden.server.scim;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertNull;
import static org.testng.Assert.assertTrue;

import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * Users, as RFC 7644 has them; the bodies are its own examples (sections 3.3, 3.5.1 and 3.5.2) with
 * addresses of the demo's house, since people are known by theirs.
 */
public class ScimUsersTest extends ScimCase {
  private static String encoded(String text) {
    return URLEncoder.encode(text, StandardCharsets.UTF_8);
  }

  private JsonNode found(String filter) {
    return scim("GET", "/Users?filter=" + encoded(filter), null).is(200).json();
  }

  @Test
  public void aUserIsMadeWithItsPlaceAndVersion() {
    // RFC 7644 section 3.3
    Told told =
        scim(
            "POST",
            "/Users",
            """
            {"schemas":["urn:ietf:params:scim:schemas:core:2.0:User"], "userName":"bjensen@saltmarsh.example",
             "externalId":"bjensen",
             "name":{"formatted":"Ms. Barbara J Jensen III", "familyName":"Jensen", "givenName":"Barbara"}}
            """);
    JsonNode user = told.is(201).json();
    assertEquals(user.path("userName").stringValue(), "bjensen@saltmarsh.example");
    assertEquals(user.path("externalId").stringValue(), "bjensen");
    assertEquals(user.at("/meta/resourceType").stringValue(), "User");
    assertEquals(user.at("/meta/location").stringValue(), told.location());
    assertEquals(user.at("/meta/version").stringValue(), told.etag());
    assertTrue(String.valueOf(told.location()).endsWith("/Users/" + id(user)));
    assertEquals(user.at("/name/familyName").stringValue(), "Jensen");
    JsonNode here = person("bjensen@saltmarsh.example");
    assertEquals(here.get("name").stringValue(), "Ms. Barbara J Jensen III");
    assertEquals(here.get("standing").stringValue(), "member", "by the house's own domain");
    assertTrue(here.get("active").booleanValue());
    // section 3.3: what exists already is a conflict
    scim(
            "POST",
            "/Users",
            "{\"schemas\":[\"" + USER + "\"],\"userName\":\"BJensen@saltmarsh.example\"}")
        .fails(409, "uniqueness");
  }

  @Test
  public void whoWasHereBeforeHasAnIdThatStays() {
    JsonNode list = found("userName eq \"" + HOST + "\"");
    assertEquals(list.get("totalResults").intValue(), 1);
    JsonNode host = list.at("/Resources/0");
    JsonNode again = scim("GET", "/Users/" + id(host), null).is(200).json();
    assertEquals(again, host);
    JsonNode patched =
        patch("/Users/" + id(host), "{\"op\":\"add\",\"path\":\"title\",\"value\":\"Pilot\"}")
            .is(200)
            .json();
    assertEquals(id(patched), id(host));
    assertEquals(patched.get("title").stringValue(), "Pilot");
    assertEquals(person(HOST).get("name").stringValue(), "Moira Okafor", "nothing else changed");
  }

  @DataProvider
  public Object[][] filters() {
    // RFC 7644 section 3.4.2.2, table 3 and its examples; how many of the three below are found
    return new Object[][] {
      {"userName eq \"f-one@saltmarsh.example\"", 1},
      {"userName Eq \"F-ONE@saltmarsh.example\"", 1},
      {"urn:ietf:params:scim:schemas:core:2.0:User:userName sw \"f-\"", 3},
      {"userName sw \"f-\" and name.familyName co \"Malley\"", 1},
      {"userName sw \"f-\" and title pr", 2},
      {"userName sw \"f-\" and title pr and userType eq \"Employee\"", 1},
      {"userName sw \"f-\" and (userType eq \"Intern\" or userType eq \"Employee\")", 2},
      {"userName sw \"f-\" and not (title pr)", 1},
      {"userName sw \"f-\" and emails[type eq \"work\" and value co \"@saltmarsh.example\"]", 1},
      {"userName sw \"f-\" and active eq false", 1},
      {"userName sw \"f-\" and userType ne \"Employee\"", 2},
      {"externalId eq \"f-3\"", 1},
      {"userName sw \"f-\" and userName ew \"two@saltmarsh.example\"", 1},
      {"userName sw \"f-\" and meta.lastModified gt \"2011-05-13T04:42:34Z\"", 3},
    };
  }

  @Test(dataProvider = "filters")
  public void filtersFindWhatTheySay(String filter, int many) {
    if (person("f-one@saltmarsh.example") == null) {
      made(
          "f-one@saltmarsh.example",
          ", \"title\": \"Mate\", \"userType\": \"Employee\", \"name\": {\"familyName\": \"O'Malley\"}");
      made(
          "f-two@saltmarsh.example",
          ", \"title\": \"Cook\", \"userType\": \"Intern\", \"emails\":"
              + " [{\"type\": \"work\", \"value\": \"f-two@saltmarsh.example\"}]");
      made("f-three@saltmarsh.example", ", \"active\": false, \"externalId\": \"f-3\"");
    }
    assertEquals(found(filter).get("totalResults").intValue(), many, filter);
  }

  @Test
  public void whatCannotBeReadIsSaidToBeSo() {
    // section 3.12, table 9
    scim("GET", "/Users?filter=" + encoded("userName qq \"x\""), null).fails(400, "invalidFilter");
    scim("POST", "/Users", "{\"schemas\": [").fails(400, "invalidSyntax");
    scim("POST", "/Users", "{\"schemas\":[\"" + USER + "\"]}").fails(400, "invalidValue");
    scim("POST", "/Users", "{\"userName\":\"x@saltmarsh.example\"}").fails(400, "invalidValue");
    scim("GET", "/Users/2819c223-7f76-453a-919d-413861904646", null).is(404);
    scim("GET", "/Printers", null).is(404);
    String id = id(made("wrong@saltmarsh.example", ""));
    patch("/Users/" + id, "{\"op\":\"add\",\"path\":\"emails[\",\"value\":1}")
        .fails(400, "invalidPath");
    patch("/Users/" + id, "{\"op\":\"replace\",\"path\":\"active\",\"value\":\"perhaps\"}")
        .fails(400, "invalidValue");
    patch("/Users/" + id, "{\"op\":\"replace\",\"path\":\"id\",\"value\":\"another\"}")
        .fails(400, "mutability");
    assertTrue(person("wrong@saltmarsh.example").get("active").booleanValue(), "nothing was done");
  }

  @Test
  public void aWholeDocumentChangesWhatItNamesAndLeavesTheRest() {
    // RFC 7644 section 3.5.1, and the house's own rule: who is not said to be gone is not gone
    JsonNode user =
        made(
            "put@saltmarsh.example",
            ", \"displayName\": \"Before\", \"active\": false, \"userType\": \"guest\"");
    JsonNode after =
        scim(
                "PUT",
                "/Users/" + id(user),
                """
                {"schemas": ["%s", "%s"], "id": "%s", "userName": "put@saltmarsh.example",
                 "displayName": "After", "%s": {"department": "Pilotage"}}
                """
                    .formatted(USER, ENTERPRISE, id(user), ENTERPRISE))
            .is(200)
            .json();
    assertFalse(after.get("active").booleanValue());
    JsonNode here = person("put@saltmarsh.example");
    assertEquals(here.get("name").stringValue(), "After");
    assertEquals(here.get("standing").stringValue(), "guest");
    assertEquals(here.get("unit").stringValue(), "pilotage");
    assertFalse(here.get("active").booleanValue());
  }

  @Test
  public void aPatchSetsAddsAndTakesAway() {
    String id =
        id(
            made(
                "patch@saltmarsh.example",
                ", \"emails\": [{\"type\":\"work\",\"value\":\"a@x.example\"},"
                    + "{\"type\":\"home\",\"value\":\"b@x.example\"}]"));
    // section 3.5.2.1: no path, an object of what to add
    patch("/Users/" + id, "{\"op\":\"add\",\"value\":{\"nickName\":\"Babs\"}}").is(200);
    // section 3.10: a name with its schema before it
    patch(
            "/Users/" + id,
            "{\"op\":\"add\",\"path\":\"" + USER + ":title\",\"value\":\"Tour Guide\"}")
        .is(200);
    // section 3.5.2.3: one value of several, by a filter
    JsonNode changed =
        patch(
                "/Users/" + id,
                "{\"op\":\"replace\",\"path\":\"emails[type eq \\\"work\\\"].value\","
                    + "\"value\":\"c@x.example\"}")
            .is(200)
            .json();
    assertEquals(changed.get("nickName").stringValue(), "Babs");
    assertEquals(changed.get("title").stringValue(), "Tour Guide");
    assertTrue(changed.get("emails").toString().contains("c@x.example"));
    assertTrue(changed.get("emails").toString().contains("b@x.example"));
    // section 3.5.2.2
    changed =
        patch(
                "/Users/" + id,
                "{\"op\":\"remove\",\"path\":\"emails[type eq \\\"work\\\"]\"},"
                    + "{\"op\":\"remove\",\"path\":\"nickName\"}")
            .is(200)
            .json();
    assertFalse(changed.has("nickName"));
    assertEquals(changed.get("emails").size(), 1);
    // as some directories write it: capitals, and truth as a text (common practice, no source)
    changed =
        patch("/Users/" + id, "{\"op\":\"Replace\",\"value\":{\"active\":\"False\"}}")
            .is(200)
            .json();
    assertFalse(changed.get("active").booleanValue());
    // a part of the name, and so the name that the house shows
    patch("/Users/" + id, "{\"op\":\"add\",\"path\":\"name.givenName\",\"value\":\"Ada\"}").is(200);
    assertEquals(person("patch@saltmarsh.example").get("name").stringValue(), "Ada");
    // one of several that cannot be done: none is
    patch(
            "/Users/" + id,
            "{\"op\":\"replace\",\"path\":\"displayName\",\"value\":\"Half\"},"
                + "{\"op\":\"replace\",\"path\":\"userName\",\"value\":\"\"}")
        .fails(400, "invalidValue");
    assertEquals(person("patch@saltmarsh.example").get("name").stringValue(), "Ada");
  }

  @Test
  public void versionsKeepOneFromWritingOverAnother() {
    // section 3.14
    JsonNode user = made("etag@saltmarsh.example", "");
    String path = "/Users/" + id(user);
    String first = user.at("/meta/version").stringValue();
    scim("GET", path, null, "If-None-Match", first).is(304);
    String title = "{\"op\":\"add\",\"path\":\"title\",\"value\":\"%s\"}";
    Told second = patch(path, title.formatted("One"), "If-Match", first).is(200);
    assertNotEquals(second.etag(), first);
    patch(path, title.formatted("Two"), "If-Match", first).is(412);
    scim("DELETE", path, null, "If-Match", first).is(412);
    assertEquals(
        scim("GET", path, null, "If-None-Match", first).is(200).json().get("title").stringValue(),
        "One");
    patch(path, title.formatted("Three"), "If-Match", "*").is(200);
  }

  @Test
  public void aPageBeginsWhereItIsAskedToAndSaysHowManyThereAre() {
    // section 3.4.2.4
    JsonNode all = scim("GET", "/Users?count=0", null).is(200).json();
    int total = all.get("totalResults").intValue();
    assertTrue(total > 20);
    assertEquals(all.get("Resources").size(), 0);
    JsonNode page = scim("GET", "/Users?startIndex=3&count=2", null).is(200).json();
    assertEquals(page.get("itemsPerPage").intValue(), 2);
    assertEquals(page.get("startIndex").intValue(), 3);
    JsonNode whole = scim("GET", "/Users?count=5", null).is(200).json();
    assertEquals(page.at("/Resources/0"), whole.at("/Resources/2"));
    assertEquals(
        scim("GET", "/Users?startIndex=-1&count=1", null)
            .is(200)
            .json()
            .get("startIndex")
            .intValue(),
        1,
        "less than one is one");
    assertEquals(
        scim("GET", "/Users?startIndex=" + (total + 1), null)
            .is(200)
            .json()
            .get("Resources")
            .size(),
        0);
    scim("GET", "/Users?count=many", null).fails(400, "invalidValue");
  }

  @Test
  public void onlyWhatIsAskedForComes() {
    // section 3.9
    String id = id(made("some@saltmarsh.example", ", \"title\": \"Mate\""));
    JsonNode some = scim("GET", "/Users/" + id + "?attributes=userName", null).is(200).json();
    assertEquals(
        some.propertyNames().stream().sorted().toList().toString(), "[id, schemas, userName]");
    JsonNode most =
        scim("GET", "/Users/" + id + "?excludedAttributes=title,name", null).is(200).json();
    assertFalse(most.has("title") || most.has("name"));
    assertTrue(most.has("userName"));
    // section 3.4.3: the same question in a body
    JsonNode searched =
        scim(
                "POST",
                "/Users/.search",
                """
                {"schemas": ["urn:ietf:params:scim:api:messages:2.0:SearchRequest"],
                 "attributes": ["displayName", "userName"], "filter": "userName eq \\"some@saltmarsh.example\\"",
                 "startIndex": 1, "count": 10}
                """)
            .is(200)
            .json();
    assertEquals(searched.get("totalResults").intValue(), 1);
    assertFalse(searched.at("/Resources/0").has("title"));
  }

  @Test
  public void anotherAddressIsTheSamePersonInTheListsToo() {
    JsonNode user = made("maiden@saltmarsh.example", ", \"displayName\": \"Nell Quay\"");
    group("Renamed", id(user));
    patch(
            "/Users/" + id(user),
            "{\"op\":\"replace\",\"path\":\"userName\",\"value\":\"married@saltmarsh.example\"}")
        .is(200);
    assertNull(person("maiden@saltmarsh.example"));
    assertEquals(person("married@saltmarsh.example").get("name").stringValue(), "Nell Quay");
    assertEquals(members("Renamed").toString(), "[married@saltmarsh.example]");
    assertEquals(
        scim("GET", "/Users/" + id(user), null).is(200).json().get("userName").stringValue(),
        "married@saltmarsh.example");
    JsonNode other = made("other@saltmarsh.example", "");
    patch(
            "/Users/" + id(other),
            "{\"op\":\"replace\",\"path\":\"userName\",\"value\":\"married@saltmarsh.example\"}")
        .fails(409, "uniqueness");
  }

  @Test
  public void whoIsDeletedThereHasLeftAndMayComeAgain() {
    // section 3.6: it is found no more
    JsonNode user = made("leaver@saltmarsh.example", ", \"displayName\": \"Una Leaver\"");
    scim("DELETE", "/Users/" + id(user), null).is(204);
    scim("GET", "/Users/" + id(user), null).is(404);
    scim("DELETE", "/Users/" + id(user), null).is(404);
    assertEquals(
        found("userName eq \"leaver@saltmarsh.example\"").get("totalResults").intValue(), 0);
    assertFalse(person("leaver@saltmarsh.example").get("active").booleanValue(), "known as gone");
    JsonNode again = made("leaver@saltmarsh.example", "");
    assertNotEquals(id(again), id(user));
    assertTrue(person("leaver@saltmarsh.example").get("active").booleanValue());
    assertEquals(person("leaver@saltmarsh.example").get("name").stringValue(), "Una Leaver");
  }

  @Test
  public void aLeaversMeetingsAreFound() {
    JsonNode user = made("tide.clerk@saltmarsh.example", ", \"displayName\": \"Tide Clerk\"");
    String meeting =
        post(
                WARDEN,
                "/api/meetings",
                Map.of(
                    "version",
                    0,
                    "send",
                    false,
                    "reason",
                    "a test",
                    "meeting",
                    Map.of(
                        "title",
                        "Tide tables",
                        "host",
                        "tide.clerk@saltmarsh.example",
                        "start",
                        java.time.LocalDate.now(java.time.ZoneOffset.UTC).plusDays(6) + "T10:00",
                        "zone",
                        "UTC",
                        "minutes",
                        30,
                        "controls",
                        Map.of())))
            .is(200)
            .json()
            .get("id")
            .stringValue();
    patch("/Users/" + id(user), "{\"op\":\"replace\",\"path\":\"active\",\"value\":false}").is(200);
    until(
        "it is found on the wall",
        () ->
            get(WARDEN, "/api/audits/0/findings?meeting=" + meeting)
                .json()
                .get("items")
                .valueStream()
                .anyMatch(i -> i.at("/finding/check").stringValue("").equals("host-gone")));
    assertTrue(
        get(WARDEN, "/api/ledger?text=tide.clerk").is(200).body().contains("tide.clerk"),
        "and the ledger has who left");
  }

  @Test
  public void aDirectorysTokenDoesNothingElseAndNobodyElseDoesThis() {
    assertEquals(exchangeWith(directoryToken(), "/api/meetings"), 403);
    assertEquals(exchangeWith(directoryToken(), "/api/catalogue"), 403);
    assertEquals(exchangeWith(tokenOf(WARDEN), "/scim/v2/Users"), 403);
    assertEquals(exchangeWith(tokenOf(HOST), "/scim/v2/Users"), 403);
    assertEquals(exchangeWith("no token of anybody", "/scim/v2/Users"), 401);
    assertTrue(
        exchange(
                java.net.http.HttpRequest.newBuilder(
                        java.net.URI.create("http://127.0.0.1:" + port + "/scim/v2/Users"))
                    .build())
            .body()
            .contains("urn:ietf:params:scim:api:messages:2.0:Error"),
        "RFC 7644 section 3.12: errors in its own words");
    assertEquals(exchangeWith(directoryToken(), "/scim/v2/Users?count=1"), 200);
  }

  private int exchangeWith(String token, String path) {
    return exchange(
            java.net.http.HttpRequest.newBuilder(
                    java.net.URI.create("http://127.0.0.1:" + port + path))
                .header("Authorization", "Bearer " + token)
                .build())
        .status();
  }

  @Test
  public void aPasswordIsNeitherKeptNorGiven() {
    JsonNode user = made("secret@saltmarsh.example", ", \"password\": \"kelp-and-tar-31\"");
    assertFalse(user.toString().contains("kelp-and-tar-31"));
    assertNotNull(person("secret@saltmarsh.example"));
    assertFalse(
        get(WARDEN, "/api/ledger?text=secret@saltmarsh").body().contains("kelp-and-tar-31"));
  }
}
