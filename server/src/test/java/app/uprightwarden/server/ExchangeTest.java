package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.List;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Bundles in and out, and everything that must be refused. */
public class ExchangeTest extends ServerTest {
  private static final String MEETING =
      """
      {"id": "%s", "title": "Test", "host": "m.okafor@saltmarsh.example",
       "start": "2027-01-11T09:00", "zone": "Europe/Dublin", "minutes": 60 %s}""";

  private static String bundle(String... meetings) {
    return "{\"format\": \"upright-warden/1\", \"meetings\": [" + String.join(",", meetings) + "]}";
  }

  private static String rulebook(String rule) {
    return "{\"format\": \"upright-warden/1\", \"rulebook\": {\"layers\": [{\"scope\":"
        + " {\"level\": \"organisation\"}, \"rules\": ["
        + rule
        + "]}]}}";
  }

  @Test
  public void whatIsGivenOutComesBackAndChangesNothing() {
    JsonNode first = get(WARDEN, "/api/exchange/bundle").is(200).json();
    String window = "/api/assess?from=2026-12-01&to=2027-02-01";
    JsonNode judged = post(WARDEN, window, first).is(200).json();
    JsonNode tried = post(WARDEN, "/api/exchange/bundle?dryRun=true", first).is(200).json();
    assertEquals(tried.get("added").intValue(), 0);
    assertEquals(tried.get("changed").intValue(), 0);
    post(WARDEN, "/api/exchange/bundle?dryRun=false", first).is(200);
    JsonNode again = get(WARDEN, "/api/exchange/bundle").is(200).json();
    assertEquals(again, first);
    assertEquals(post(WARDEN, window, again).is(200).json(), judged, "judged the same");
  }

  @Test
  public void aDryRunStoresNothing() {
    String fresh = bundle(MEETING.formatted("t-dry", ""));
    JsonNode report = post(WARDEN, "/api/exchange/bundle?dryRun=true", fresh).is(200).json();
    assertEquals(report.get("added").intValue(), 1);
    get(WARDEN, "/api/meetings/t-dry").is(404);
  }

  @Test
  public void theSameBundleTwiceChangesNothing() {
    String controls =
        ", \"controls\": {\"waiting-room\": \"off\"}, \"passcode\": \"kelp-Rudder-41\"";
    String given = bundle(MEETING.formatted("t-twice", controls));
    assertEquals(
        post(WARDEN, "/api/exchange/bundle?dryRun=false", given)
            .is(200)
            .json()
            .get("added")
            .intValue(),
        1);
    JsonNode again = post(WARDEN, "/api/exchange/bundle?dryRun=false", given).is(200).json();
    assertEquals(again.get("unchanged").intValue(), 1);
    assertEquals(again.get("rows").size(), 0);
  }

  @Test
  public void aBundleWithoutPasscodesDoesNotWipeThem() {
    String with = ", \"passcode\": \"heron-Slipway-12\"";
    post(WARDEN, "/api/exchange/bundle", bundle(MEETING.formatted("t-keep", with))).is(200);
    String later = ", \"description\": \"changed\"";
    post(WARDEN, "/api/exchange/bundle", bundle(MEETING.formatted("t-keep", later))).is(200);
    assertEquals(
        get(WARDEN, "/api/meetings/t-keep/passcode").json().get("passcode").stringValue(),
        "heron-Slipway-12");
    String none = ", \"passcode\": null";
    post(WARDEN, "/api/exchange/bundle", bundle(MEETING.formatted("t-keep", none))).is(200);
    assertTrue(get(WARDEN, "/api/meetings/t-keep/passcode").json().get("passcode").isNull());
  }

  @DataProvider
  public Object[][] refused() {
    String bound = "{\"control\": \"%s\", \"mode\": \"%s\", %s}";
    return new Object[][] {
      {"not JSON", "{\"format\": ", 400, ""},
      {"two documents", "{} {}", 400, ""},
      {"a key twice", "{\"format\": \"upright-warden/1\", \"format\": \"x\"}", 400, ""},
      {"another shape", "[1, 2, 3]", 422, ""},
      {"another format", "{\"format\": \"other/9\"}", 422, "/format"},
      {"an unknown key", "{\"format\": \"upright-warden/1\", \"colour\": 1}", 422, "/colour"},
      {
        "a duplicate id",
        bundle(MEETING.formatted("x-1", ""), MEETING.formatted("x-1", "")),
        422,
        "/meetings/1/id"
      },
      {
        "a list nobody knows",
        bundle(MEETING.formatted("x-1", ", \"lists\": [\"gone\"]")),
        422,
        "/meetings/0/lists/0"
      },
      {
        "a space nobody knows",
        bundle(MEETING.formatted("x-1", ", \"space\": \"gone\"")),
        422,
        "/meetings/0/space"
      },
      {
        "a kind nobody knows",
        bundle(MEETING.formatted("x-1", ", \"kind\": \"gone\"")),
        422,
        "/meetings/0/kind"
      },
      {
        "a value the table does not have",
        bundle(MEETING.formatted("x-1", ", \"controls\": {\"waiting-room\": \"ajar\"}")),
        422,
        "/meetings/0/controls/waiting-room"
      },
      {
        "a control nobody knows",
        bundle(MEETING.formatted("x-1", ", \"controls\": {\"gangway\": \"up\"}")),
        422,
        "/meetings/0/controls/gangway"
      },
      {
        "a country that is none",
        bundle(MEETING.formatted("x-1", ", \"controls\": {\"regions\": [\"XX\"]}")),
        422,
        "/meetings/0/controls/regions/0"
      },
      {
        "a date that does not exist",
        bundle(MEETING.formatted("x-1", "").replace("2027-01-11", "2027-02-30")),
        422,
        "/meetings/0/start"
      },
      {
        "a zone that is none",
        bundle(MEETING.formatted("x-1", "").replace("Europe/Dublin", "Europe/Atlantis")),
        422,
        "/meetings/0/zone"
      },
      {
        "a recurrence that does not parse",
        bundle(MEETING.formatted("x-1", ", \"recurrence\": \"FREQ=SOMETIMES\"")),
        422,
        "/meetings/0/recurrence"
      },
      {
        "a sealed suggestion",
        rulebook(bound.formatted("passcode", "suggest", "\"start\": \"none\", \"sealed\": true")),
        422,
        "/rulebook/layers/0/rules/0/sealed"
      },
      {
        "a bound on a neutral control",
        rulebook(bound.formatted("polls", "bound", "\"start\": \"on\", \"limit\": \"on\"")),
        422,
        "/rulebook/layers/0/rules/0/mode"
      },
      {
        "a bound without a limit",
        rulebook(bound.formatted("passcode", "bound", "\"start\": \"none\"")),
        422,
        "/rulebook/layers/0/rules/0"
      },
      {
        "a layer of a unit that is none",
        rulebook("").replace("\"organisation\"", "\"unit\", \"id\": \"gone\""),
        422,
        "/rulebook/layers/0/scope/id"
      },
    };
  }

  @Test(dataProvider = "refused")
  public void badInputIsRefusedWithThePlace(
      String what, String document, int status, String pointer) {
    JsonNode before = get(WARDEN, "/api/exchange/bundle").json();
    Answer answer = post(WARDEN, "/api/exchange/bundle?dryRun=false", document).is(status);
    assertTrue(answer.json().get("detail").stringValue().length() > 10, what);
    if (!pointer.isEmpty()) {
      List<String> pointers =
          answer
              .json()
              .get("faults")
              .valueStream()
              .map(f -> f.get("pointer").stringValue())
              .toList();
      assertTrue(pointers.contains(pointer), what + ": " + answer.body());
    }
    assertEquals(get(WARDEN, "/api/exchange/bundle").json(), before, "nothing may be stored");
  }

  @Test
  public void aDeepDocumentIsRefused() {
    String deep = "{\"format\":".repeat(5000) + "1" + "}".repeat(5000);
    post(WARDEN, "/api/exchange/bundle?dryRun=true", deep).is(400);
  }

  @Test
  public void aHugeDocumentIsRefused() {
    String huge = "{\"format\": \"" + "x".repeat(50 * 1024 * 1024) + "\"}";
    Answer answer = post(WARDEN, "/api/exchange/bundle?dryRun=true", huge).is(413);
    assertTrue(answer.json().get("detail").stringValue().contains("MiB"));
  }

  @Test
  public void oneBadMeetingKeepsAllOut() {
    String mixed =
        bundle(MEETING.formatted("t-good", ""), MEETING.formatted("t-bad", ", \"kind\": \"gone\""));
    post(WARDEN, "/api/exchange/bundle?dryRun=false", mixed).is(422);
    get(WARDEN, "/api/meetings/t-good").is(404);
  }

  @Test
  public void theSchemaIsServedWithEveryControl() {
    JsonNode schema = get(HOST, "/api/exchange/bundle/schema").is(200).json();
    assertEquals(schema.at("/$defs/controls/properties").size(), 52);
    assertEquals(
        schema.at("/$defs/controls/properties/waiting-room/enum").toString(), "[\"off\",\"on\"]");
    assertFalse(schema.at("/$defs/guarantee/properties/who/items/enum").isEmpty());
  }

  @Test
  public void assessJudgesWithoutStoring() {
    ObjectNode whole = (ObjectNode) get(WARDEN, "/api/exchange/bundle").is(200).json();
    JsonNode narrowed =
        post(HOST, "/api/assess?fields=exposure,findings", whole).is(200).json().get("meetings");
    assertEquals(narrowed.size(), whole.get("meetings").size());
    assertTrue(narrowed.get(0).has("exposure"));
    assertFalse(narrowed.get(0).has("matrix"));
    post(HOST, "/api/assess?fields=everything", whole).is(422);
    post(HOST, "/api/assess?from=2027-02-01&to=2027-01-01", whole).is(422);
  }
}
