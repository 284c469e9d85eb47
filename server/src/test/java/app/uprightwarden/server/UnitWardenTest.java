package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A unit's warden drafts and audits that unit, and sees nothing of the others. */
public class UnitWardenTest extends ServerTest {
  private static final String UNIT = "pilotage"; // as the token of this test's person says

  @Autowired private JdbcClient jdbc;

  private Set<String> ours() {
    return new HashSet<>(
        jdbc.sql(
                "select m.public_id from meeting m join person p on p.folded = m.host_folded where"
                    + " p.unit = ?")
            .param(UNIT)
            .query(String.class)
            .list());
  }

  private String another() {
    return jdbc.sql(
            "select m.public_id from meeting m join person p on p.folded = m.host_folded where"
                + " p.unit = 'tariffs' order by m.id limit 1")
        .query(String.class)
        .single();
  }

  @Test
  public void theRegisterIsTheUnits() {
    Set<String> ours = ours();
    assertTrue(ours.size() > 3);
    JsonNode items = get(UNIT_WARDEN, "/api/meetings?size=500").is(200).json().get("items");
    Set<String> seen = new HashSet<>();
    items.forEach(i -> seen.add(i.get("id").stringValue()));
    assertEquals(seen, ours);
    String one = ours.iterator().next();
    get(UNIT_WARDEN, "/api/meetings/" + one).is(200);
    get(UNIT_WARDEN, "/api/meetings/" + one + "/history").is(200);
    String other = another();
    get(UNIT_WARDEN, "/api/meetings/" + other).is(404);
    get(UNIT_WARDEN, "/api/meetings/" + other + "/history").is(404);
    get(UNIT_WARDEN, "/api/waivers/of/" + other).is(404);
    get(UNIT_WARDEN, "/api/meetings/" + other + "/explain?persona=link-finder&right=listen")
        .is(404);
    get(UNIT_WARDEN, "/api/meetings/" + one + "/passcode").is(404);
  }

  @Test
  public void theWallAndItsCountsAreTheUnits() {
    Set<String> ours = ours();
    JsonNode rows = get(UNIT_WARDEN, "/api/audits/0/wall?show=all&size=1000").is(200).json();
    assertTrue(rows.get("items").size() > 0);
    rows.get("items").forEach(r -> assertTrue(ours.contains(r.get("meeting").stringValue())));
    JsonNode findings = get(UNIT_WARDEN, "/api/audits/0/findings?size=1000").is(200).json();
    findings
        .get("items")
        .forEach(f -> assertTrue(ours.contains(f.get("meeting").stringValue()), f.toString()));
    int open =
        get(UNIT_WARDEN, "/api/audits/0/findings?waived=false&size=1")
            .json()
            .get("total")
            .intValue();
    JsonNode counts = get(UNIT_WARDEN, "/api/audits/0").is(200).json().get("bySeverity");
    int sum = counts.valueStream().mapToInt(JsonNode::intValue).sum();
    assertEquals(sum, open);
    int byCheck =
        get(UNIT_WARDEN, "/api/audits/0/checks")
            .json()
            .valueStream()
            .mapToInt(c -> c.get("findings").intValue())
            .sum();
    assertEquals(byCheck, open);
    int everything =
        get(WARDEN, "/api/audits/0/findings?waived=false&size=1").json().get("total").intValue();
    assertTrue(open < everything);
  }

  @Test
  public void anAuditOfTheirsIsOfTheirUnit() {
    JsonNode run =
        post(UNIT_WARDEN, "/api/audits", Map.of("scope", Map.of("unit", "tariffs"))).is(202).json();
    assertEquals(run.at("/scope/unit").stringValue(), UNIT, "not another's, asked or not");
    long id = run.get("id").longValue();
    get(UNIT_WARDEN, "/api/audits/" + id).is(200);
    long others =
        get(WARDEN, "/api/audits?most=200")
            .json()
            .valueStream()
            .filter(r -> r.at("/scope/unit").isMissingNode() || r.at("/scope/unit").isNull())
            .findFirst()
            .orElseThrow()
            .get("id")
            .longValue();
    get(UNIT_WARDEN, "/api/audits/" + others).is(404);
    get(UNIT_WARDEN, "/api/audits/" + others + "/wall").is(404);
    post(UNIT_WARDEN, "/api/audits/" + others + "/cancel", null).is(404);
    get(UNIT_WARDEN, "/api/audits?most=200")
        .json()
        .forEach(r -> assertEquals(r.at("/scope/unit").stringValue(), UNIT));
  }

  private static Map<String, Object> edit(String layer) {
    Map<String, Object> edit = new HashMap<>();
    edit.put("layer", layer);
    edit.put("control", "polls");
    edit.put("before", null);
    edit.put("after", Map.of("control", "polls", "mode", "suggest", "start", "on"));
    return edit;
  }

  @Test
  public void aDraftOfTheirsChangesTheirLayersOnly() {
    post(UNIT_WARDEN, "/api/rulebook/drafts", Map.of("name", "no", "from", "starter")).is(403);
    JsonNode draft =
        post(UNIT_WARDEN, "/api/rulebook/drafts", Map.of("name", "Ours", "from", "in-force"))
            .is(201)
            .json();
    String path = "/api/rulebook/drafts/" + draft.at("/line/id").longValue();
    post(UNIT_WARDEN, path + "/edits", Map.of("edits", List.of(edit("unit:" + UNIT)))).is(200);
    Answer refused =
        post(UNIT_WARDEN, path + "/edits", Map.of("edits", List.of(edit("unit:tariffs")))).is(403);
    assertEquals(refused.json().at("/faults/0/pointer").stringValue(), "/edits/0/layer");
    post(UNIT_WARDEN, path + "/edits", Map.of("edits", List.of(edit("organisation")))).is(403);
    post(UNIT_WARDEN, path + "/publish", Map.of("version", 1, "reason", "x", "tellHosts", false))
        .is(403);
    JsonNode document = get(UNIT_WARDEN, path).is(200).json().get("document");
    JsonNode impact =
        post(
                UNIT_WARDEN,
                "/api/rulebook/impact",
                Map.of("document", document, "from", 0, "size", 5))
            .is(200)
            .json();
    impact.get("units").forEach(u -> assertEquals(u.get("id").stringValue(), UNIT));
    post(
            UNIT_WARDEN,
            "/api/rulebook/impact",
            Map.of("document", Map.of("layers", List.of()), "from", 0, "size", 5))
        .is(403);
    // others' drafts are not there for them, theirs is for a warden
    long others =
        post(WARDEN, "/api/rulebook/drafts", Map.of("name", "Not theirs", "from", "in-force"))
            .is(201)
            .json()
            .at("/line/id")
            .longValue();
    get(UNIT_WARDEN, "/api/rulebook/drafts/" + others).is(404);
    send(UNIT_WARDEN, "DELETE", "/api/rulebook/drafts/" + others, null).is(404);
    get(UNIT_WARDEN, "/api/rulebook/file?of=draft:" + others).is(404);
    assertFalse(get(UNIT_WARDEN, "/api/rulebook/drafts").is(200).body().contains("Not theirs"));
    get(WARDEN, path).is(200);
    send(WARDEN, "DELETE", path, null).is(204);
    send(WARDEN, "DELETE", "/api/rulebook/drafts/" + others, null).is(204);
  }
}
