package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Remedies through the stand-in for the conference service, which refuses, and goes away. */
public class RemediesTest extends AuditStationTest {

  @AfterMethod(alwaysRun = true)
  public void bridgeAsItWas() {
    bridge(0, "");
  }

  private void bridge(int away, String refuses) {
    send(WARDEN, "PUT", "/api/bridge", Map.of("awaySeconds", away, "refuses", refuses)).is(200);
  }

  private static Map<String, Object> of(String meeting, String... more) {
    Map<String, Object> target = new HashMap<>(Map.of("meeting", meeting));
    for (int i = 0; i < more.length; i += 2) {
      target.put(more[i], more[i + 1]);
    }
    return Map.of("targets", List.of(target), "evenIfAsked", true);
  }

  @Test
  public void aSketchIsWhatApplyingThenDoes() {
    setControl("m-0082", "waiting-room", "off");
    setControl("m-0082", "lobby-bypass", "anyone");
    settle();
    JsonNode sketch =
        post(WARDEN, "/api/remedies/sketch", Map.of("target", Map.of("meeting", "m-0082")))
            .is(200)
            .json();
    JsonNode changes = sketch.at("/plan/changes");
    assertTrue(changes.has("waiting-room") && changes.has("lobby-bypass"), changes.toString());
    JsonNode job = remedied(of("m-0082"));
    assertEquals(job.at("/job/states/done").intValue(), 1, job.toString());
    JsonNode after = get(WARDEN, "/api/meetings/m-0082").json();
    assertEquals(after.at("/assessment/exposure/score"), sketch.at("/after/exposure/score"));
    assertEquals(after.at("/assessment/matrix"), sketch.at("/after/matrix"));
    settle();
    assertTrue(findings(0, "&meeting=m-0082&check=beyond-limit").isEmpty());
    JsonNode history = get(WARDEN, "/api/meetings/m-0082/history").json();
    assertTrue(history.toString().contains("remedied"), history.toString());
  }

  @Test
  public void anotherChoiceInPencilIsAppliedAsChosenAndUndone() {
    setControl("m-0084", "chat", "in-session");
    Object before = control("m-0084", "chat");
    Map<String, Object> body = new HashMap<>(of("m-0084"));
    body.put("controls", Map.of("chat", "off"));
    JsonNode sketch =
        post(
                WARDEN,
                "/api/remedies/sketch",
                Map.of("target", Map.of("meeting", "m-0084"), "controls", Map.of("chat", "off")))
            .is(200)
            .json();
    assertEquals(sketch.at("/plan/changes/chat/to").stringValue(), "off");
    long job = remedied(body).at("/job/id").longValue();
    assertEquals(control("m-0084", "chat"), "off");
    long undo =
        post(WARDEN, "/api/remedies/" + job + "/undo", Map.of())
            .is(202)
            .json()
            .get("id")
            .longValue();
    ended(undo);
    assertEquals(control("m-0084", "chat"), before);
    post(WARDEN, "/api/remedies/" + job + "/undo", Map.of()).is(409);
    body.put("controls", Map.of("chat", "shouting"));
    Answer answer = post(WARDEN, "/api/remedies", body).is(422);
    assertEquals(answer.json().at("/faults/0/pointer").stringValue(), "/controls/chat");
  }

  @Test
  public void whileTheServiceIsAwayNothingIsChangedAndItIsTriedAgain() {
    setControl("m-0086", "waiting-room", "off");
    settle();
    bridge(3600, "");
    long job = post(WARDEN, "/api/remedies", of("m-0086")).is(202).json().get("id").longValue();
    until(
        "it was tried in vain",
        () ->
            count("select attempts from remedy_item where job = ?", job) > 0
                && count(
                        "select count(*) from remedy_item where job = ? and state = 'waiting'", job)
                    == 1);
    JsonNode waiting = get(WARDEN, "/api/remedies/" + job).json();
    assertEquals(waiting.at("/job/states/waiting").intValue(), 1);
    assertTrue(waiting.at("/job/trouble").stringValue().contains("does not answer"));
    assertEquals(control("m-0086", "waiting-room"), "off");
    bridge(0, "");
    ended(job);
    assertEquals(control("m-0086", "waiting-room"), "on");
  }

  @Test
  public void whatTheServiceRefusesIsSaidAndNotHalfDone() {
    setControl("m-0087", "waiting-room", "off");
    setControl("m-0087", "lobby-bypass", "anyone");
    settle();
    bridge(0, "waiting-room");
    JsonNode job = remedied(of("m-0087"));
    assertEquals(job.at("/job/states/refused").intValue(), 1, job.toString());
    assertTrue(job.at("/items/0/trouble").stringValue().contains("waiting-room"));
    assertEquals(control("m-0087", "lobby-bypass"), "anyone", "nothing of it was done");
    bridge(0, "");
    long id = job.at("/job/id").longValue();
    post(WARDEN, "/api/remedies/" + id + "/retry", Map.of()).is(202);
    ended(id);
    assertEquals(control("m-0087", "waiting-room"), "on");
    post(WARDEN, "/api/remedies/" + id + "/retry", Map.of()).is(409);
  }

  @Test
  public void aCommandThatWasHeardBeforeAServerWasKilledIsNotHeardTwice() {
    setControl("m-0090", "waiting-room", "off");
    settle();
    JsonNode job = remedied(of("m-0090"));
    long item = job.at("/items/0/id").longValue();
    int versions = count("select count(*) from meeting_version where meeting = 'm-0090'");
    // as a server would leave it that was killed after the service had heard, before it was stored
    setControl("m-0090", "waiting-room", "off");
    jdbc.sql(
            "update remedy_item set state = 'sending', next_try = '2020-01-01', done_at = null where"
                + " id = ?")
        .param(item)
        .update();
    ended(job.at("/job/id").longValue());
    assertEquals(control("m-0090", "waiting-room"), "on");
    assertEquals(
        count("select count(*) from bridge_command where meeting = 'm-0090'"), 1, "heard once");
    assertEquals(
        count("select count(*) from meeting_version where meeting = 'm-0090'"),
        versions + 2,
        "changed once by hand and once by the remedy");
  }

  @Test
  public void whatSomebodyChangedMeanwhileIsLeftAlone() {
    setControl("m-0091", "waiting-room", "off");
    settle();
    bridge(3600, "");
    long job = post(WARDEN, "/api/remedies", of("m-0091")).is(202).json().get("id").longValue();
    until("it was tried", () -> count("select attempts from remedy_item where job = ?", job) > 0);
    setControl("m-0091", "waiting-room", "on");
    bridge(0, "");
    JsonNode end = ended(job);
    assertEquals(end.at("/items/0/state").stringValue(), "overtaken", end.toString());
  }

  @Test
  public void aNewPasscodeGoesOutAndTheOldOneComesBackWithUndo() {
    String weak = findings(0, "&check=weak-passcode").get(0).get("meeting").stringValue();
    String before = passcode(weak);
    int letters = count("select count(*) from outbox_message where about = ?", "meeting:" + weak);
    JsonNode job = remedied(of(weak, "check", "weak-passcode", "subject", ""));
    assertEquals(job.at("/job/states/done").intValue(), 1, job.toString());
    assertNotEquals(passcode(weak), before);
    assertTrue(job.at("/job/sent").intValue() > 0);
    assertTrue(
        count("select count(*) from outbox_message where about = ?", "meeting:" + weak) > letters);
    settle();
    assertTrue(findings(0, "&check=weak-passcode&meeting=" + weak).isEmpty());
    long undo =
        post(WARDEN, "/api/remedies/" + job.at("/job/id") + "/undo", Map.of())
            .is(202)
            .json()
            .get("id")
            .longValue();
    ended(undo);
    assertEquals(passcode(weak), before);
  }

  private String passcode(String meeting) {
    return get(WARDEN, "/api/meetings/" + meeting + "/passcode")
        .is(200)
        .json()
        .get("passcode")
        .stringValue();
  }

  @Test
  public void aWholeCheckIsCountedThenMendedThenUndone() {
    for (String meeting : List.of("m-0094", "m-0095", "m-0096")) {
      setControl(meeting, "recording", "everyone");
    }
    settle();
    Map<String, Object> whole =
        Map.of("wholeCheck", "beyond-limit", "wholeSubject", "recording", "evenIfAsked", true);
    int found = findings(0, "&check=beyond-limit&subject=recording&waived=false").size();
    assertTrue(found >= 3);
    JsonNode preview = post(WARDEN, "/api/remedies/preview", whole).is(200).json();
    assertEquals(preview.get("meetings").intValue(), found);
    assertEquals(preview.at("/controls/recording").intValue(), found);
    JsonNode job = remedied(whole);
    assertEquals(job.at("/job/states/done").intValue(), found, job.toString());
    settle();
    assertTrue(findings(0, "&check=beyond-limit&subject=recording&waived=false").isEmpty());
    post(WARDEN, "/api/remedies", whole).is(409);
    long undo =
        post(WARDEN, "/api/remedies/" + job.at("/job/id") + "/undo", Map.of())
            .is(202)
            .json()
            .get("id")
            .longValue();
    ended(undo);
    settle();
    assertEquals(findings(0, "&check=beyond-limit&subject=recording&waived=false").size(), found);
    for (String meeting : List.of("m-0094", "m-0095", "m-0096")) {
      setControl(meeting, "recording", "hosts");
    }
  }

  @Test
  public void oneOccurrenceIsMendedAndItsSeriesLeftAsItIs() {
    List<JsonNode> single =
        findings(0, "&check=beyond-limit").stream()
            .filter(f -> f.at("/finding/occurrence").isString())
            .toList();
    assertTrue(single.size() > 0, "the demo has an occurrence with a value of its own");
    JsonNode one = single.get(0);
    String meeting = one.get("meeting").stringValue();
    String control = one.at("/finding/control").stringValue();
    String occurrence = one.at("/finding/occurrence").stringValue();
    Object series = control(meeting, control);
    JsonNode job =
        remedied(
            of(meeting, "occurrence", occurrence, "check", "beyond-limit", "subject", control));
    assertEquals(job.at("/job/states/done").intValue(), 1, job.toString());
    settle();
    assertEquals(control(meeting, control), series);
    assertTrue(
        findings(0, "&check=beyond-limit&meeting=" + meeting).stream()
            .noneMatch(
                f ->
                    occurrence.equals(f.at("/finding/occurrence").stringValue(""))
                        && control.equals(f.at("/finding/control").stringValue(""))));
  }
}
