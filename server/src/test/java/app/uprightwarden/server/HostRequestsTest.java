package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.net.URI;
import java.net.http.HttpRequest;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** What hosts are asked, what they say, and what becomes of it. */
public class HostRequestsTest extends AuditStationTest {
  private static final String MEETING = "m-0050";

  @BeforeMethod
  public void loosen() {
    setControl(MEETING, "waiting-room", "off");
    setControl(MEETING, "screen-share", "everyone");
    settle();
    jdbc.sql("update host_request_item set state = 'settled' where meeting = ?")
        .param(MEETING)
        .update();
  }

  @AfterMethod(alwaysRun = true)
  public void mend() {
    until(
        "remedies end",
        () -> count("select count(*) from remedy_item where state in ('waiting', 'sending')") == 0);
    setControl(MEETING, "waiting-room", "on");
    setControl(MEETING, "screen-share", "hosts");
    settle();
  }

  private JsonNode ask(String... subjects) {
    return post(
            WARDEN,
            "/api/host-requests",
            Map.of(
                "targets",
                java.util.Arrays.stream(subjects)
                    .map(
                        s ->
                            Map.of(
                                "meeting",
                                MEETING,
                                "occurrence",
                                "",
                                "check",
                                "beyond-limit",
                                "subject",
                                s))
                    .toList(),
                "note",
                "Before Thursday, please."))
        .is(200)
        .json();
  }

  private List<JsonNode> mine() {
    return get(HOST, "/api/host-requests/mine")
        .is(200)
        .json()
        .valueStream()
        .flatMap(r -> r.get("items").valueStream())
        .filter(i -> i.get("meeting").stringValue().equals(MEETING))
        .toList();
  }

  private long item(String subject) {
    return mine().stream()
        .filter(i -> i.get("subject").stringValue().equals(subject))
        .findFirst()
        .orElseThrow()
        .get("id")
        .longValue();
  }

  private Answer answer(String who, long item, Map<String, Object> answer) {
    return post(who, "/api/host-requests/items/" + item + "/answer", answer);
  }

  @Test
  public void manyFindingsAreOneMessageWithASentenceAndAProposalEach() {
    int before = count("select count(*) from outbox_message where recipient = ?", HOST);
    JsonNode asked = ask("waiting-room", "screen-share");
    assertEquals(asked.get("hosts").intValue(), 1);
    assertEquals(asked.get("findings").intValue(), 2);
    assertEquals(
        count("select count(*) from outbox_message where recipient = ?", HOST), before + 1);
    String body =
        jdbc.sql("select body from outbox_message where recipient = ? order by id desc limit 1")
            .param(HOST)
            .query(String.class)
            .single();
    for (String words :
        List.of(
            "Before Thursday, please.",
            "Nobody is held at the door",
            "Proposed: Waiting room: off becomes on",
            "Proposed: Screen share: everyone becomes ")) {
      assertTrue(body.contains(words), body);
    }
    assertEquals(ask("waiting-room").get("known").intValue(), 1, "asked once only");
  }

  @Test
  public void whatAHostIsAskedIsInTheirLanguageAndElsewhereInTheReaders() {
    jdbc.sql("update account set language = 'de' where email = ?").param(HOST).update();
    try {
      ask("waiting-room");
      String body =
          jdbc.sql("select body from outbox_message where recipient = ? order by id desc limit 1")
              .param(HOST)
              .query(String.class)
              .single();
      assertTrue(body.contains("die Regel "), body);
      assertFalse(body.contains("the rule "), body);
      assertTrue(saidTo("de").contains("die Regel "), saidTo("de"));
      assertTrue(saidTo("en").contains("the rule "), saidTo("en"));
      // whoever asked reads English, whatever language the host answers in
      long id = item("waiting-room");
      answer(HOST, id, Map.of("answer", "reason", "reason", "Ein Grund.")).is(200);
      String told =
          jdbc.sql("select body from outbox_message where recipient = ? order by id desc limit 1")
              .param(WARDEN)
              .query(String.class)
              .single();
      assertTrue(told.contains("the rule ") && told.contains("Ein Grund."), told);
    } finally {
      jdbc.sql("update account set language = null where email = ?").param(HOST).update();
    }
  }

  @Test
  public void aLongListIsInOnesLanguageToItsEnd() {
    ask("waiting-room");
    long asked = item("waiting-room");
    // what is not found any more stays as it was kept
    for (int i = 0; i < 250; i++) {
      jdbc.sql(
              "insert into host_request_item (id, request, meeting, title, occurrence, check_id,"
                  + " subject, severity, sentence, changes) select ?, request, meeting, title, '',"
                  + " check_id, ?, 3, 'kept', changes from host_request_item where id = ?")
          .params(-1 - i, "none-" + i, asked)
          .update();
    }
    try {
      String said = saidTo("de");
      assertEquals(said.lines().filter("kept"::equals).count(), 250);
      assertTrue(said.contains("die Regel "), said);
    } finally {
      jdbc.sql("delete from host_request_item where id < 0").update();
    }
  }

  private String saidTo(String language) {
    String body =
        exchange(
                HttpRequest.newBuilder(
                        URI.create("http://127.0.0.1:" + port + "/api/host-requests/mine"))
                    .header("Authorization", "Bearer " + tokenOf(HOST))
                    .header("Accept-Language", language)
                    .build())
            .is(200)
            .body();
    return json.readTree(body)
        .valueStream()
        .flatMap(r -> r.get("items").valueStream())
        .filter(i -> i.get("meeting").stringValue().equals(MEETING))
        .map(i -> i.get("sentence").stringValue())
        .collect(Collectors.joining("\n"));
  }

  @Test
  public void agreeingMendsItAndNothingElse() {
    ask("waiting-room", "screen-share");
    answer(AUDITOR, item("waiting-room"), Map.of("answer", "agree")).is(403);
    answer(HOST, item("waiting-room"), Map.of("answer", "agree")).is(200);
    until("it is mended", () -> "on".equals(control(MEETING, "waiting-room")));
    assertEquals(control(MEETING, "screen-share"), "everyone");
    until(
        "one is left",
        () ->
            mine().stream().filter(i -> i.get("state").stringValue().equals("open")).count() == 1);
  }

  @Test
  public void whatIsProposedInsteadIsToldAndAppliedWhenAccepted() {
    ask("screen-share");
    long id = item("screen-share");
    answer(HOST, id, Map.of("answer", "propose")).is(422);
    answer(HOST, id, Map.of("answer", "propose", "controls", Map.of("screen-share", "presenters")))
        .is(200);
    answer(HOST, id, Map.of("answer", "agree")).is(409);
    assertEquals(control(MEETING, "screen-share"), "everyone", "nothing yet");
    assertTrue(
        jdbc.sql("select body from outbox_message where recipient = ? order by id desc limit 1")
            .param(WARDEN)
            .query(String.class)
            .single()
            .contains("Screen share: presenters"));
    post(WARDEN, "/api/host-requests/items/" + id + "/accept", Map.of()).is(200);
    until("it is changed", () -> "presenters".equals(control(MEETING, "screen-share")));
  }

  @Test
  public void aReasonIsHeardAndClosed() {
    ask("screen-share");
    long id = item("screen-share");
    answer(HOST, id, Map.of("answer", "reason", "reason", " ")).is(422);
    answer(HOST, id, Map.of("answer", "reason", "reason", "We draw together")).is(200);
    JsonNode open = get(WARDEN, "/api/host-requests").json();
    assertTrue(open.toString().contains("We draw together"));
    post(WARDEN, "/api/host-requests/items/" + id + "/close", Map.of()).is(200);
    assertFalse(get(WARDEN, "/api/host-requests").json().toString().contains("We draw together"));
  }

  /** What a waiver covers may stand: it is asked for no longer, and no remedy touches it. */
  @Test
  public void whatIsWaivedIsNeitherAskedNorMended() {
    ask("waiting-room", "screen-share");
    Map<String, Object> waiver = new HashMap<>();
    waiver.put("scope", "finding");
    waiver.put("meeting", MEETING);
    waiver.put("occurrence", "");
    waiver.put("check", "beyond-limit");
    waiver.put("subject", "screen-share");
    waiver.put("reason", "They draw together.");
    waiver.put("until", java.time.Instant.now().plusSeconds(86_400).toString());
    JsonNode granted = post(WARDEN, "/api/waivers", waiver).is(201).json();
    try {
      Map<String, Object> target = Map.of("target", Map.of("meeting", MEETING));
      JsonNode plan = post(WARDEN, "/api/remedies/sketch", target).is(200).json().get("plan");
      assertFalse(plan.get("changes").has("screen-share"), plan.toString());
      assertTrue(plan.get("changes").has("waiting-room"), plan.toString());
      until(
          "one is asked for still",
          () ->
              mine().stream().filter(i -> i.get("state").stringValue().equals("open")).count()
                  == 1);
    } finally {
      post(WARDEN, "/api/waivers/" + granted.get("id").longValue() + "/end", Map.of()).is(200);
    }
  }

  /** Who undoes a remedy puts the question to the host back, too. */
  @Test
  public void whatWasUndoneIsAskedAgain() {
    ask("waiting-room");
    String known =
        "update finding f join audit_run r on r.id = f.audit set f.seen_at = '2026-01-05' where"
            + " r.state = 'standing' and f.meeting = ? and f.subject = 'waiting-room'";
    assertEquals(jdbc.sql(known).param(MEETING).update(), 1);
    Map<String, Object> body =
        Map.of("targets", List.of(Map.of("meeting", MEETING)), "evenIfAsked", true);
    long job = remedied(body).at("/job/id").longValue();
    until("nothing is asked", () -> mine().isEmpty());
    post(WARDEN, "/api/remedies/" + job + "/undo", Map.of()).is(202);
    until("it is asked again", () -> mine().size() == 1);
    settle();
    assertEquals(mine().size(), 1, "and stays asked once it was looked at");
    until(
        "it is found again",
        () ->
            count(
                    "select count(*) from finding f join audit_run r on r.id = f.audit where r.state"
                        + " = 'standing' and f.meeting = ? and f.subject = 'waiting-room'",
                    MEETING)
                == 1);
    assertEquals(
        count(
            "select count(*) from finding f join audit_run r on r.id = f.audit where r.state ="
                + " 'standing' and f.meeting = ? and f.seen_at = '2026-01-05'",
            MEETING),
        1,
        "known since when it was known before");
  }

  @Test
  public void whileAHostHasTimeTheAdministratorDoesNotApply() {
    ask("waiting-room");
    Map<String, Object> body =
        Map.of("targets", List.of(Map.of("meeting", MEETING)), "evenIfAsked", false);
    Answer refused = post(WARDEN, "/api/remedies", body).is(409);
    assertTrue(refused.body().contains("still have time"), refused.body());
    assertEquals(post(WARDEN, "/api/remedies/preview", body).json().get("asked").intValue(), 1);
    jdbc.sql("update host_request set apply_after = '2020-01-01' where host = ?")
        .param(HOST)
        .update();
    assertEquals(remedied(body).at("/job/states/done").intValue(), 1);
    until("nothing is asked any more", () -> mine().isEmpty());
  }

  @Test
  public void whoDoesNotAnswerIsReminded() {
    ask("waiting-room");
    jdbc.sql(
            "update host_request set remind_at = '2020-01-01' where host = ? and id = (select"
                + " max(id) from host_request)")
        .param(HOST)
        .update();
    until(
        "a reminder goes out",
        () ->
            count(
                    "select count(*) from outbox_message where recipient = ? and subject like 'A"
                        + " reminder%'",
                    HOST)
                > 0);
  }
}
