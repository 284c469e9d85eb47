package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.Duration;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ObjectNode;

/** Drafting and publishing, by one, by two at once, and with a second one's consent. */
public class RulebookTest extends ServerTest {
  private static final String SECOND = SECOND_WARDEN;
  private static final String ORGANISATION = "organisation";

  private JsonNode begin(String who, String name, String from) {
    return post(who, "/api/rulebook/drafts", Map.of("name", name, "from", from)).is(201).json();
  }

  private static String draft(JsonNode draft) {
    return "/api/rulebook/drafts/" + draft.at("/line/id").longValue();
  }

  private static Map<String, Object> suggest(String control, String start) {
    return Map.of("control", control, "mode", "suggest", "start", start, "importance", 2);
  }

  /** An edit of a rule; null takes it away or finds nothing there. */
  private static Map<String, Object> edit(String control, Object before, Object after) {
    Map<String, Object> edit = new HashMap<>();
    edit.put("layer", ORGANISATION);
    edit.put("control", control);
    edit.put("before", before);
    edit.put("after", after);
    return edit;
  }

  private JsonNode edited(String who, JsonNode draft, List<Map<String, Object>> edits) {
    return post(who, draft(draft) + "/edits", Map.of("edits", edits)).is(200).json();
  }

  private static JsonNode rule(JsonNode document, String control) {
    for (JsonNode rule : document.at("/layers/0/rules")) {
      if (rule.get("control").stringValue().equals(control)) {
        return rule;
      }
    }
    return null;
  }

  private Answer publish(String who, JsonNode draft) {
    long version = get(who, draft(draft)).is(200).json().get("version").longValue();
    return post(
        who,
        draft(draft) + "/publish",
        Map.of("version", version, "reason", "a test", "tellHosts", false));
  }

  private int inForce() {
    return get(HOST, "/api/rulebook").is(200).json().get("number").intValue();
  }

  @Test
  public void twoAtOnceMergeByControlAndAreToldWhereTheyCollide() {
    JsonNode draft = begin(WARDEN, "Two at once", "in-force");
    edited(WARDEN, draft, List.of(edit("polls", null, suggest("polls", "on"))));
    JsonNode theirs =
        edited(
            SECOND,
            draft,
            List.of(
                edit(
                    "shared-notes",
                    rule(draft.get("document"), "shared-notes"),
                    suggest("shared-notes", "off"))));
    assertEquals(theirs.get("collisions").toString(), "[]", "different controls");
    JsonNode document = theirs.at("/draft/document");
    assertEquals(rule(document, "polls").get("start").stringValue(), "on", "mine is there too");
    assertEquals(rule(document, "shared-notes").get("start").stringValue(), "off");

    JsonNode collided =
        edited(
            SECOND,
            draft,
            List.of(
                edit("polls", null, suggest("polls", "off")),
                edit("hand-raising", null, suggest("hand-raising", "on"))));
    assertEquals(collided.get("collisions").size(), 1);
    assertEquals(collided.at("/collisions/0/control").stringValue(), "polls");
    assertEquals(collided.at("/collisions/0/theirs/start").stringValue(), "on");
    assertEquals(
        rule(collided.at("/draft/document"), "polls").get("start").stringValue(), "on", "kept");
    assertTrue(rule(collided.at("/draft/document"), "hand-raising") != null, "the rest went in");
    JsonNode entry =
        get(AUDITOR, "/api/ledger?object=draft&objectId=" + draft.at("/line/id"))
            .is(200)
            .json()
            .at("/items/0");
    assertEquals(
        entry.get("title").stringValue(), "Two at once", "whoever reads it knows it by name");
    assertEquals(entry.at("/details/asked/edits").size(), 2, "what was asked");
    JsonNode wentIn = entry.at("/details/changed/0/after/organisation");
    assertEquals(wentIn.at("/hand-raising/start").stringValue(), "on");
    assertFalse(wentIn.has("polls"), "what did not go in is not told as done");

    JsonNode settled =
        edited(
            SECOND, draft, List.of(edit("polls", suggest("polls", "on"), suggest("polls", "off"))));
    assertEquals(settled.get("collisions").size(), 0, "said again on what stands there");
    send(WARDEN, "DELETE", draft(draft), null).is(204);
  }

  @Test
  public void manyEditsAtOnceAllGoIn() {
    JsonNode draft = begin(WARDEN, "Many hands", "starter");
    List<String> neutral = List.of("questions", "polls", "hand-raising", "shared-notes");
    List<CompletableFuture<JsonNode>> work =
        neutral.stream()
            .map(
                control ->
                    CompletableFuture.supplyAsync(
                        () -> {
                          JsonNode before = rule(draft.get("document"), control);
                          return edited(
                              WARDEN,
                              draft,
                              List.of(edit(control, before, suggest(control, "on"))));
                        }))
            .toList();
    work.forEach(done -> assertEquals(done.join().get("collisions").size(), 0));
    JsonNode document = get(WARDEN, draft(draft)).is(200).json().get("document");
    neutral.forEach(c -> assertEquals(rule(document, c).get("start").stringValue(), "on"));
    send(WARDEN, "DELETE", draft(draft), null).is(204);
  }

  @Test
  public void whoHasADraftOpenIsSeenAndGetsWhatOthersChanged() {
    JsonNode draft = begin(WARDEN, "Seen", "in-force");
    long version = draft.get("version").longValue();
    send(SECOND, "PUT", draft(draft) + "/presence?version=" + version, null).is(200);
    JsonNode pulse =
        send(WARDEN, "PUT", draft(draft) + "/presence?version=" + version, null).is(200).json();
    assertEquals(pulse.get("present").size(), 2);
    assertTrue(pulse.get("changed").isNull());
    assertFalse(pulse.get("gone").booleanValue());
    edited(SECOND, draft, List.of(edit("polls", null, suggest("polls", "on"))));
    pulse = send(WARDEN, "PUT", draft(draft) + "/presence?version=" + version, null).json();
    assertTrue(rule(pulse.at("/changed/document"), "polls") != null);
    send(WARDEN, "DELETE", draft(draft), null).is(204);
    pulse = send(WARDEN, "PUT", draft(draft) + "/presence?version=" + version, null).is(200).json();
    assertTrue(pulse.get("gone").booleanValue(), "discarded meanwhile");
  }

  @Test
  public void anEditThatIsNoRuleChangesNothing() {
    JsonNode draft = begin(WARDEN, "Faulty", "in-force");
    for (Map<String, Object> faulty :
        List.of(
            edit("polls", null, suggest("polls", "sometimes")),
            edit("polls", null, suggest("captions", "on")),
            edit("gangway", null, suggest("polls", "on")),
            edit(
                "polls",
                null,
                Map.of("control", "polls", "mode", "bound", "start", "on", "limit", "on")))) {
      Answer answer =
          post(WARDEN, draft(draft) + "/edits", Map.of("edits", List.of(faulty))).is(422);
      assertTrue(answer.json().at("/faults/0/pointer").stringValue().startsWith("/edits/0"));
    }
    Map<String, Object> nowhere = edit("polls", null, suggest("polls", "on"));
    nowhere.put("layer", "unit:atlantis");
    post(WARDEN, draft(draft) + "/edits", Map.of("edits", List.of(nowhere))).is(422);
    assertEquals(
        get(WARDEN, draft(draft)).json().get("document"), draft.get("document"), "unchanged");
    send(WARDEN, "DELETE", draft(draft), null).is(204);
  }

  @Test
  public void theSecondOfTwoIsToldKeepsTheDraftAndBringsItUp() {
    JsonNode mine = begin(WARDEN, "Mine", "in-force");
    JsonNode theirs = begin(SECOND, "Theirs", "in-force");
    edited(WARDEN, mine, List.of(edit("interpretation", null, suggest("interpretation", "on"))));
    JsonNode before = rule(theirs.get("document"), "captions");
    edited(SECOND, theirs, List.of(edit("captions", before, suggest("captions", "off"))));
    publish(SECOND, theirs).is(200);
    get(SECOND, draft(theirs)).is(404);

    Answer told = publish(WARDEN, mine).is(409);
    assertEquals(told.json().get("code").stringValue(), "edition-overtaken");
    assertTrue(get(WARDEN, draft(mine)).json().at("/line/behind").booleanValue());
    JsonNode up = post(WARDEN, draft(mine) + "/bring-up", null).is(200).json();
    assertEquals(up.get("collisions").size(), 0);
    assertEquals(
        rule(up.at("/draft/document"), "captions").get("start").stringValue(),
        "off",
        "what they published has come in");
    assertEquals(rule(up.at("/draft/document"), "interpretation").get("start").stringValue(), "on");
    int number = inForce();
    assertEquals(publish(WARDEN, mine).is(200).json().get("edition").intValue(), number + 1);
    assertEquals(inForce(), number + 1);
  }

  @Test
  public void whatOthersAddToADraftIsLookedAtBeforeItIsPublished() {
    JsonNode draft = begin(WARDEN, "Looked at", "in-force");
    long version = draft.get("version").longValue();
    edited(SECOND, draft, List.of(edit("polls", null, suggest("polls", "off"))));
    Answer told =
        post(
                WARDEN,
                draft(draft) + "/publish",
                Map.of("version", version, "reason", "a test", "tellHosts", false))
            .is(409);
    assertEquals(told.json().get("code").stringValue(), "draft-changed");
    send(WARDEN, "DELETE", draft(draft), null).is(204);
  }

  @Test
  public void ofManyAtOnceOneWins() {
    List<JsonNode> drafts =
        List.of("A", "B", "C", "D").stream()
            .map(name -> begin(WARDEN, "At once " + name, "in-force"))
            .toList();
    List<Integer> statuses =
        drafts.stream()
            .map(d -> CompletableFuture.supplyAsync(() -> publish(WARDEN, d).status()))
            .toList()
            .stream()
            .map(CompletableFuture::join)
            .sorted()
            .toList();
    assertEquals(statuses, List.of(200, 409, 409, 409));
    for (JsonNode draft : drafts) {
      if (get(WARDEN, draft(draft)).status() == 200) {
        send(WARDEN, "DELETE", draft(draft), null).is(204);
      }
    }
  }

  @Test
  public void anEditionComesIntoForceAtItsTimeOrIsWithdrawn() {
    int before = inForce();
    JsonNode draft = begin(WARDEN, "Later", "in-force");
    String later = Instant.now().plus(Duration.ofDays(3)).toString();
    JsonNode published =
        post(
                WARDEN,
                draft(draft) + "/publish",
                Map.of(
                    "version", 0, "reason", "from then", "effectiveAt", later, "tellHosts", false))
            .is(200)
            .json();
    int number = published.get("edition").intValue();
    assertEquals(inForce(), before, "not yet");
    assertEquals(
        get(HOST, "/api/rulebook").json().at("/toCome/number").intValue(), number, "but announced");

    JsonNode sooner = begin(WARDEN, "Sooner", "in-force");
    Answer refused = publish(WARDEN, sooner).is(409);
    assertEquals(refused.json().get("code").stringValue(), "edition-to-come");

    post(WARDEN, "/api/rulebook/editions/" + number + "/withdraw", null).is(200);
    post(WARDEN, "/api/rulebook/editions/" + number + "/withdraw", null).is(409);
    post(WARDEN, draft(sooner) + "/bring-up", null).is(200);
    assertEquals(
        publish(WARDEN, sooner).is(200).json().get("edition").intValue(),
        number + 1,
        "a number is never used twice");
    post(WARDEN, "/api/rulebook/editions/" + (number + 1) + "/withdraw", null).is(409);
  }

  @Test
  public void steppingBackIsAnEarlierEditionPublishedAnew() {
    JsonNode first = get(WARDEN, "/api/rulebook/editions/1").is(200).json().get("document");
    int before = inForce();
    JsonNode draft = begin(WARDEN, "Step back", "edition:1");
    publish(WARDEN, draft).is(200);
    JsonNode now = get(WARDEN, "/api/rulebook").is(200).json();
    assertEquals(now.get("number").intValue(), before + 1);
    assertEquals(now.get("document"), first);
    publish(WARDEN, begin(WARDEN, "Forward again", "edition:" + before)).is(200);
  }

  @Test
  public void aSecondAdministratorConsentsOrDeclines() {
    send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=true", null).is(200);
    try {
      JsonNode draft = begin(WARDEN, "Needs consent", "in-force");
      int before = inForce();
      assertTrue(publish(WARDEN, draft).is(200).json().get("edition").isNull(), "proposed");
      assertEquals(inForce(), before);
      assertEquals(get(SECOND, draft(draft)).json().at("/line/proposal/by").stringValue(), WARDEN);
      post(WARDEN, draft(draft) + "/consent", null).is(403);
      post(
              WARDEN,
              draft(draft) + "/edits",
              Map.of("edits", List.of(edit("polls", null, suggest("polls", "on")))))
          .is(409);

      post(SECOND, draft(draft) + "/decline", Map.of("words", "Not before the review.")).is(200);
      assertEquals(
          get(WARDEN, draft(draft)).json().at("/line/refusal/words").stringValue(),
          "Not before the review.");
      publish(WARDEN, draft).is(200);
      post(SECOND, draft(draft) + "/withdraw", null).is(403);
      // what is consented to is what was looked at, and not what was put in its place since
      long seen = get(SECOND, draft(draft)).json().get("version").longValue();
      String consent = draft(draft) + "/consent?version=";
      post(WARDEN, draft(draft) + "/withdraw", null).is(200);
      edited(WARDEN, draft, List.of(edit("polls", null, suggest("polls", "on"))));
      edited(WARDEN, draft, List.of(edit("polls", suggest("polls", "on"), null)));
      publish(WARDEN, draft).is(200);
      Answer late = post(SECOND, consent + seen, null).is(409);
      assertEquals(late.json().get("code").stringValue(), "draft-changed");
      assertEquals(inForce(), before);
      long now = get(SECOND, draft(draft)).json().get("version").longValue();
      JsonNode published = post(SECOND, consent + now, null).is(200).json();
      assertEquals(published.get("edition").intValue(), before + 1);
      assertEquals(
          get(WARDEN, "/api/rulebook/editions").json().at("/0/consentBy").stringValue(), SECOND);

      Map<String, Object> bundle =
          Map.of("format", "upright-warden/1", "rulebook", Map.of("layers", List.of()));
      Answer around = post(WARDEN, "/api/exchange/bundle", bundle).is(409);
      assertEquals(around.json().get("code").stringValue(), "consent-needed", "no way around");
    } finally {
      JsonNode asked =
          send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=false", null).is(200).json();
      assertTrue(asked.get("needsConsent").booleanValue(), "one alone does not switch it off");
      send(WARDEN, "PUT", "/api/rulebook/drafts/consent?needed=false", null).is(200);
      JsonNode off =
          send(SECOND, "PUT", "/api/rulebook/drafts/consent?needed=false", null).is(200).json();
      assertFalse(off.get("needsConsent").booleanValue());
    }
  }

  @Test
  public void aTokenThatActsForAnotherAdministratorIsNotIssued() {
    Map<String, Object> wanted =
        Map.of("purpose", "x", "role", "warden", "actsAs", SECOND, "minutes", 5);
    post(WARDEN, "/api/tokens", wanted).is(422);
  }

  @Test
  public void theStarterRulebookIsValidAndNamesWhatItFollows() {
    JsonNode starter = get(WARDEN, "/api/rulebook/file?of=starter").is(200).json();
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
    JsonNode draft = begin(WARDEN, "Changes nothing", "in-force");
    JsonNode notes = rule(draft.get("document"), "shared-notes");
    edited(WARDEN, draft, List.of(edit("shared-notes", notes, suggest("shared-notes", "on"))));
    publish(WARDEN, draft).is(200);
    JsonNode after = get(WARDEN, "/api/meetings/m-0005").is(200).json();
    assertEquals(after.get("controls"), before.get("controls"));
    assertEquals(after.get("version"), before.get("version"));
  }

  @Test
  public void hostsAreToldWhatChangesForThem() {
    JsonNode draft = begin(WARDEN, "Told", "in-force");
    JsonNode before = rule(draft.get("document"), "waiting-room");
    ObjectNode fixed = json.createObjectNode();
    fixed.put("control", "waiting-room").put("mode", "fix").put("value", "on");
    fixed.put("sealed", true).put("importance", 4).put("reason", "After the storm call.");
    edited(
        WARDEN, draft, List.of(edit("waiting-room", before, json.convertValue(fixed, Map.class))));
    long version = get(WARDEN, draft(draft)).json().get("version").longValue();
    JsonNode published =
        post(
                WARDEN,
                draft(draft) + "/publish",
                Map.of("version", version, "reason", "After the storm call.", "tellHosts", true))
            .is(200)
            .json();
    int letters = published.get("letters").intValue();
    assertTrue(letters > 10, "every host of coming meetings, not " + letters);
    JsonNode written =
        get(WARDEN, "/api/outbox?about=edition:" + published.get("edition").intValue())
            .is(200)
            .json();
    assertEquals(written.size(), letters);
    String body = written.at("/0/body").stringValue();
    assertTrue(body.contains("Waiting room: fixed at “on”; it was yours to change"), body);
    String mail =
        get(WARDEN, "/api/outbox/" + written.at("/0/id").longValue() + "/mail").is(200).body();
    assertTrue(mail.contains("To: " + written.at("/0/to").stringValue()), mail);
    assertTrue(mail.contains("MIME-Version: 1.0"), mail);
  }
}
