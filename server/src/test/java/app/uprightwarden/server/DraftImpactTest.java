package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.net.URI;
import java.net.http.HttpRequest;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.apache.pdfbox.Loader;
import org.apache.pdfbox.text.PDFTextStripper;
import org.testng.annotations.Test;
import org.yaml.snakeyaml.Yaml;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** What the server says a draft would do, and rulebooks in and out as files. */
public class DraftImpactTest extends ServerTest {
  private ObjectNode inForce() {
    return (ObjectNode) get(WARDEN, "/api/rulebook").is(200).json().get("document");
  }

  private static void fix(ObjectNode document, String control, String value) {
    ArrayNode rules = (ArrayNode) document.at("/layers/0/rules");
    rules.removeIf(r -> r.get("control").stringValue().equals(control));
    rules.addObject().put("control", control).put("mode", "fix").put("value", value);
  }

  private JsonNode impact(JsonNode document) {
    return post(
            AUDITOR, "/api/rulebook/impact", Map.of("document", document, "from", 0, "size", 200))
        .is(200)
        .json();
  }

  /** The findings of a dry assessment of the whole register under a rulebook, by identity. */
  private Set<String> assessed(JsonNode document) {
    ObjectNode bundle = (ObjectNode) get(WARDEN, "/api/exchange/bundle").is(200).json();
    bundle.set("rulebook", document);
    JsonNode assessed =
        post(WARDEN, "/api/assess?fields=findings", bundle).is(200).json().get("meetings");
    Set<String> found = new HashSet<>();
    for (JsonNode meeting : assessed) {
      for (JsonNode finding : meeting.get("findings")) {
        String subject =
            finding.path("control").stringValue("") + finding.path("guarantee").stringValue("");
        if (!finding.path("layer").isMissingNode()) {
          found.add(
              meeting.get("id").stringValue()
                  + finding.path("occurrence").stringValue("")
                  + finding.get("check").stringValue()
                  + subject);
        }
      }
    }
    return found;
  }

  @Test
  public void theImpactIsWhatTwoAssessmentsDiffBy() {
    ObjectNode draft = inForce();
    fix(draft, "lobby-bypass", "hosts");
    fix(draft, "reactions", "off");
    Set<String> before = assessed(inForce());
    Set<String> after = assessed(draft);
    JsonNode impact = impact(draft);
    Set<String> appeared = new HashSet<>(after);
    appeared.removeAll(before);
    Set<String> gone = new HashSet<>(before);
    gone.removeAll(after);
    assertTrue(appeared.size() > 50, "a draft that is felt");
    assertEquals(impact.at("/total/appeared").intValue(), appeared.size());
    assertEquals(impact.at("/total/gone").intValue(), gone.size());
    assertEquals(impact.at("/total/before").intValue(), before.size());
    assertEquals(impact.at("/total/after").intValue(), after.size());
  }

  @Test
  public void aMeetingChangedMeanwhileCounts() {
    ObjectNode draft = inForce();
    fix(draft, "interpretation", "off");
    JsonNode before = impact(draft);
    JsonNode meeting = get(WARDEN, "/api/meetings/m-0007").is(200).json();
    assertEquals(meeting.at("/controls/interpretation").stringValue(), "off");
    JsonNode changed =
        send(
                WARDEN,
                "PATCH",
                "/api/meetings/m-0007/controls",
                Map.of(
                    "version", meeting.get("version"), "controls", Map.of("interpretation", "on")))
            .is(200)
            .json();
    JsonNode after = impact(draft);
    assertEquals(
        appeared(after, "beyond-limit"),
        appeared(before, "beyond-limit") + 1,
        "somebody switched it on");
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/m-0007/controls",
            Map.of("version", changed.get("version"), "controls", Map.of("interpretation", "off")))
        .is(200);
    assertEquals(impact(draft).get("total"), before.get("total"), "and back");
  }

  private static int appeared(JsonNode impact, String check) {
    for (JsonNode group : impact.get("checks")) {
      if (group.get("id").stringValue().equals(check)) {
        return group.at("/count/appeared").intValue();
      }
    }
    return 0;
  }

  @Test
  public void aDraftIsResolvedForSomebodyAndReadForSense() {
    ObjectNode draft = inForce();
    fix(draft, "passcode", "none");
    JsonNode appraisal =
        post(
                HOST,
                "/api/rulebook/appraisal",
                Map.of("document", draft, "person", HOST, "kind", "inquiry"))
            .is(200)
            .json();
    assertEquals(appraisal.get("unit").stringValue(), "pilotage");
    assertEquals(appraisal.at("/resolved/forwarding/limit").stringValue(), "blocked");
    JsonNode trace = appraisal.at("/resolved/early-entry/trace");
    assertTrue(trace.size() > 2, "organisation, unit and kind: " + trace);
    assertTrue(trace.get(1).get("words").stringValue().startsWith("Pilotage "), trace.toString());
    assertTrue(appraisal.get("remarks").size() > 0);
    post(
            WARDEN,
            "/api/rulebook/appraisal",
            Map.of("document", draft, "person", "nobody@saltmarsh.example"))
        .is(404);
  }

  @Test
  public void aGuaranteeSaysWhoBreaksItAndWhatCouldKeepIt() {
    ObjectNode draft = inForce();
    String layer = "organisation";
    String id = draft.at("/layers/0/guarantees/0/id").stringValue();
    JsonNode study =
        post(
                AUDITOR,
                "/api/rulebook/guarantee-study",
                Map.of("document", draft, "layer", layer, "guarantee", id))
            .is(200)
            .json();
    assertEquals(study.get("applies").intValue(), impact(draft).get("meetings").intValue());
    assertTrue(study.get("breaking").intValue() > 0);
    int listed = Math.min(50, study.get("breaking").intValue()); // the first fifty
    assertEquals(study.get("meetings").size(), listed);
    assertTrue(study.get("keepers").size() > 0);
  }

  @Test
  public void twoRulebooksComparedInWords() {
    JsonNode comparison =
        get(HOST, "/api/rulebook/comparison?from=edition:1&to=edition:3").is(200).json();
    assertEquals(comparison.get("toTitle").stringValue(), "Edition 3");
    boolean fresh = false;
    for (JsonNode line : comparison.get("rules")) {
      boolean renaming = line.get("control").stringValue().equals("rename-self");
      fresh = fresh || (renaming && line.at("/words/0").stringValue().equals("new"));
    }
    assertTrue(fresh, comparison.toString());
    JsonNode same = get(HOST, "/api/rulebook/comparison?from=edition:2&to=edition:2").json();
    assertEquals(same.get("rules").size() + same.get("guarantees").size(), 0);
    get(WARDEN, "/api/rulebook/comparison?from=edition:1&to=edition:99999").is(404);
    get(WARDEN, "/api/rulebook/comparison?from=edition:1&to=sideways").is(404);
  }

  private Answer take(String name, String format, String text) {
    return exchange(
        HttpRequest.newBuilder(
                URI.create(
                    "http://127.0.0.1:"
                        + port
                        + "/api/rulebook/file?name="
                        + name
                        + "&format="
                        + format))
            .timeout(Duration.ofSeconds(30))
            .header("Authorization", "Bearer " + tokensForTests.tokenFor(WARDEN))
            .header("Content-Type", format.equals("yaml") ? "application/yaml" : "application/json")
            .POST(HttpRequest.BodyPublishers.ofString(text))
            .build());
  }

  @Test
  public void aRulebookGoesOutAndComesInTheSameInBothFormats() {
    String asJson = get(WARDEN, "/api/rulebook/file?of=edition:3&format=json").is(200).body();
    String asYaml = get(WARDEN, "/api/rulebook/file?of=edition:3&format=yaml").is(200).body();
    for (String[] file : new String[][] {{"json", asJson}, {"yaml", asYaml}}) {
      long id = take("Came-in-" + file[0], file[0], file[1]).is(201).json().get("id").longValue();
      JsonNode comparison =
          get(WARDEN, "/api/rulebook/comparison?from=edition:3&to=draft:" + id).is(200).json();
      assertEquals(comparison.get("rules").size() + comparison.get("guarantees").size(), 0);
      assertEquals(
          get(WARDEN, "/api/rulebook/file?of=draft:" + id + "&format=" + file[0]).body(),
          file[1],
          "the same text, so that a version control sees no change");
      send(WARDEN, "DELETE", "/api/rulebook/drafts/" + id, null).is(204);
    }
  }

  /** SnakeYAML reads YAML 1.1, where a bare on is true; a reader of ours or theirs must agree. */
  @Test
  public void anotherYamlReaderReadsTheSame() {
    String asYaml = get(WARDEN, "/api/rulebook/file?of=edition:3&format=yaml").is(200).body();
    JsonNode theirs = json.valueToTree(new Yaml().<Map<String, Object>>load(asYaml));
    JsonNode ours = get(WARDEN, "/api/rulebook/file?of=edition:3&format=json").is(200).json();
    assertEquals(theirs, ours);
  }

  @Test
  public void aFaultyFileIsToldWhereAndBecomesNoDraft() {
    int before = get(WARDEN, "/api/rulebook/drafts").json().size();
    Answer broken = take("Broken", "yaml", "layers:\n  - scope: {level: organisation\n").is(400);
    assertTrue(broken.json().at("/faults/0/message").stringValue().contains("line"), broken.body());
    take("Empty", "yaml", "").is(400);
    take("Twice", "yaml", "layers: []\nlayers: []\n").is(400);
    Answer wrong =
        take(
                "Wrong",
                "yaml",
                """
                layers:
                - scope: {level: organisation}
                  rules:
                  - {control: chat, mode: fix, value: loud}
                """)
            .is(422);
    assertTrue(wrong.body().contains("/layers/0/rules/0/value"), wrong.body());
    take("Script", "json", "{\"layers\": [], \"x\": \"<script>\"}").is(422);
    String bomb =
        """
        a: &a [x,x,x,x,x,x,x,x,x]
        b: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a]
        c: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b]
        d: [*c,*c,*c,*c,*c,*c,*c,*c,*c]
        """;
    assertTrue(take("Bomb", "yaml", bomb).status() >= 400);
    assertEquals(get(WARDEN, "/api/rulebook/drafts").json().size(), before);
  }

  @Test
  public void aHostReadsWhatAppliesToThem() throws java.io.IOException {
    String page =
        get(HOST, "/api/rulebook/print?of=edition:3&kind=inquiry&person=" + HOST).is(200).body();
    assertTrue(page.contains("Fixed</span>: blocked"), page);
    assertTrue(page.contains("Stays at <b>on</b>"), page);
    assertTrue(page.contains("no looser than <b>by name</b>"), page);
    assertTrue(page.contains("An inquiry is for those called."));
    assertTrue(page.contains("Nobody who "));
    HttpRequest request =
        HttpRequest.newBuilder(
                URI.create(
                    "http://127.0.0.1:" + port + "/api/rulebook/print?of=edition:3&format=pdf"))
            .header("Authorization", "Bearer " + tokensForTests.tokenFor(HOST))
            .build();
    byte[] pdf = bytes(request);
    assertEquals(new String(pdf, 0, 5, StandardCharsets.US_ASCII), "%PDF-");
    try (var document = Loader.loadPDF(pdf)) {
      String text = new PDFTextStripper().getText(document);
      assertTrue(text.contains("Online meetings at Saltmarsh Harbour Trust"), text);
      assertTrue(text.contains("Waiting room"), text);
    }
  }

  @Test
  public void namesOnPaperAreText() {
    ObjectNode draft = inForce();
    ArrayNode rules = (ArrayNode) draft.at("/layers/0/rules");
    rules.removeIf(r -> r.get("control").stringValue().equals("chat"));
    rules
        .addObject()
        .put("control", "chat")
        .put("mode", "fix")
        .put("value", "off")
        .put("reason", "<script>alert(1)</script>");
    long id =
        take("Scripted", "json", json.writeValueAsString(draft))
            .is(201)
            .json()
            .get("id")
            .longValue();
    String page = get(WARDEN, "/api/rulebook/print?of=draft:" + id).is(200).body();
    assertTrue(page.contains("&lt;script&gt;alert(1)"), page);
    assertFalse(page.contains("<script>"));
    send(WARDEN, "DELETE", "/api/rulebook/drafts/" + id, null).is(204);
  }

  @Test
  public void theLaddersCountALayersMeetings() {
    JsonNode all = get(AUDITOR, "/api/meetings/distribution").is(200).json();
    JsonNode briefings = get(AUDITOR, "/api/meetings/distribution?layer=kind:briefing").json();
    JsonNode often =
        get(AUDITOR, "/api/meetings/distribution?layer=kind:briefing&by=occurrences").json();
    int series = briefings.get("series").intValue();
    assertTrue(series > 0 && series < all.get("series").intValue());
    assertEquals(sum(briefings.at("/controls/chat")), series);
    assertEquals(sum(often.at("/controls/chat")), briefings.get("occurrences").intValue());
    assertTrue(briefings.get("occurrences").intValue() > series);
    List<String> wrong = List.of("ship:x", "unit:", "nowhere");
    wrong.forEach(w -> get(AUDITOR, "/api/meetings/distribution?layer=" + w).is(422));
  }

  private static int sum(JsonNode counts) {
    int sum = 0;
    for (JsonNode count : counts) {
      sum += count.intValue();
    }
    return sum;
  }
}
