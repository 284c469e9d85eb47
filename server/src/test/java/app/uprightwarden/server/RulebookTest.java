package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Drafting and publishing, by one and by two at once. */
public class RulebookTest extends ServerTest {
  private static final String SECOND = "second.warden@saltmarsh.example";

  private ObjectNode withRule(JsonNode edition, String control, String start) {
    ObjectNode document = (ObjectNode) edition.get("document").deepCopy();
    ArrayNode rules = (ArrayNode) document.at("/layers/0/rules");
    rules.removeIf(r -> r.get("control").stringValue().equals(control));
    rules.addObject().put("control", control).put("mode", "suggest").put("start", start);
    return document;
  }

  private Map<String, Object> publication(int base, JsonNode document) {
    return Map.of("baseEdition", base, "reason", "a test", "document", document);
  }

  @Test
  public void theSecondOfTwoIsToldAndKeepsTheDraft() {
    JsonNode edition = get(WARDEN, "/api/rulebook").is(200).json();
    int base = edition.get("number").intValue();
    ObjectNode mine = withRule(edition, "polls", "on");
    send(WARDEN, "PUT", "/api/rulebook/draft", Map.of("baseEdition", base, "document", mine))
        .is(200);

    String other = tokensForTests.wardenToken(SECOND);
    ObjectNode theirs = withRule(edition, "polls", "off");
    publishAs(other, publication(base, theirs)).is(201);

    Answer told = post(WARDEN, "/api/rulebook/editions", publication(base, mine)).is(409);
    assertEquals(told.json().get("code").stringValue(), "edition-overtaken");
    assertEquals(get(WARDEN, "/api/rulebook/draft").is(200).json().get("document"), mine);

    post(WARDEN, "/api/rulebook/editions", publication(base + 1, mine)).is(201);
    get(WARDEN, "/api/rulebook/draft").is(204);
    assertEquals(get(HOST, "/api/rulebook").json().get("number").intValue(), base + 2);
  }

  private Answer publishAs(String token, Object body) {
    return exchange(
        java.net.http.HttpRequest.newBuilder(
                java.net.URI.create("http://127.0.0.1:" + port + "/api/rulebook/editions"))
            .header("Authorization", "Bearer " + token)
            .header("Content-Type", "application/json")
            .POST(java.net.http.HttpRequest.BodyPublishers.ofString(json.writeValueAsString(body)))
            .build());
  }

  @Test(dependsOnMethods = "theSecondOfTwoIsToldAndKeepsTheDraft")
  public void ofManyAtOnceOneWins() {
    JsonNode edition = get(WARDEN, "/api/rulebook").is(200).json();
    int base = edition.get("number").intValue();
    List<CompletableFuture<Integer>> attempts =
        List.of("on", "off", "on", "off").stream()
            .map(value -> publication(base, withRule(edition, "captions", value)))
            .map(
                body ->
                    CompletableFuture.supplyAsync(
                        () -> post(WARDEN, "/api/rulebook/editions", body).status()))
            .toList();
    List<Integer> statuses = attempts.stream().map(CompletableFuture::join).sorted().toList();
    assertEquals(statuses, List.of(201, 409, 409, 409));
  }

  @Test
  public void aFaultyRulebookIsNotPublished() {
    JsonNode edition = get(WARDEN, "/api/rulebook").is(200).json();
    ObjectNode document = withRule(edition, "polls", "sometimes");
    Answer answer =
        post(
                WARDEN,
                "/api/rulebook/editions",
                publication(edition.get("number").intValue(), document))
            .is(422);
    assertTrue(answer.body().contains("sometimes"), answer.body());
    post(WARDEN, "/api/rulebook/editions", Map.of("baseEdition", 0, "document", document)).is(422);
  }

  @Test
  public void theStarterRulebookIsValidAndNamesWhatItFollows() {
    JsonNode starter = get(WARDEN, "/api/rulebook/starter").is(200).json();
    Map<String, Object> tried = Map.of("format", "upright-warden/1", "rulebook", starter);
    post(WARDEN, "/api/exchange/bundle?dryRun=true", tried).is(200);
    for (JsonNode rule : starter.at("/layers/0/rules")) {
      String reason = rule.get("reason").stringValue();
      assertTrue(
          reason.contains("from memory") || reason.contains("Our own choice"),
          rule.get("control") + ": " + reason);
    }
  }

  @Test
  public void publishingChangesNoScheduledMeeting() {
    JsonNode before = get(WARDEN, "/api/meetings/m-0005").is(200).json();
    JsonNode edition = get(WARDEN, "/api/rulebook").is(200).json();
    post(
            WARDEN,
            "/api/rulebook/editions",
            publication(edition.get("number").intValue(), withRule(edition, "shared-notes", "on")))
        .is(201);
    JsonNode after = get(WARDEN, "/api/meetings/m-0005").is(200).json();
    assertEquals(after.get("controls"), before.get("controls"));
    assertEquals(after.get("version"), before.get("version"));
  }
}
