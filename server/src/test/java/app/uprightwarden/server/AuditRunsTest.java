package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertTrue;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Runs that are stopped and go on, and the audit that is always current. */
public class AuditRunsTest extends AuditStationTest {
  private static final int SHOWN_ON_THE_LOOKOUT = 8;

  /** Puts a finished run back to where a server that was killed would have left it. */
  private void asIfKilledAfter(long run, int meetings) {
    long cursor =
        jdbc.sql("select coalesce(max(id), 0) from (select id from meeting order by id limit ?) m")
            .param(meetings)
            .query(Long.class)
            .single();
    jdbc.sql(
            "delete f from finding f join meeting m on m.public_id = f.meeting where f.audit = ? and"
                + " (m.id > ? or f.check_id in ('number-spillover', 'host-double-booked',"
                + " 'reused-passcode'))")
        .params(run, cursor)
        .update();
    jdbc.sql(
            "delete a from audited_meeting a join meeting m on m.public_id = a.meeting where a.audit"
                + " = ? and m.id > ?")
        .params(run, cursor)
        .update();
    jdbc.sql("delete from audit_count where audit = ?").param(run).update();
    jdbc.sql("delete from audit_band where audit = ?").param(run).update();
    jdbc.sql(
            "update audit_run set state = 'running', worker = 'a server that is gone', lease_until ="
                + " '2020-01-01', finished_at = null, cursor_row = ?, scanned = ?, judged = ?,"
                + " findings = (select count(*) from finding where audit = ?) where id = ?")
        .params(cursor, meetings, meetings, run, run)
        .update();
    jdbc.sql(
            "insert into job (task_name, task_instance, execution_time, picked, picked_by,"
                + " last_heartbeat, lane) values ('audit', ?, '2020-01-01', true, 'audit-gone',"
                + " '2020-01-01', 'audit')")
        .param(run)
        .update();
  }

  @DataProvider
  public Object[][] places() {
    return new Object[][] {{0}, {25}, {100}};
  }

  @Test(dataProvider = "places")
  public void whatAKilledServerLeftGoesOnWhereItWasAndEndsRight(int meetings) {
    long id = audit(Map.of());
    Set<String> whole = identities(id);
    JsonNode before = done(id);
    asIfKilledAfter(id, meetings);
    JsonNode after = done(id);
    assertEquals(identities(id), whole);
    for (String part : List.of("scanned", "judged", "findings")) {
      assertEquals(after.get(part), before.get(part), part);
    }
    assertEquals(
        count("select sum(open) from audit_count where audit = ?", id)
            + count("select sum(waived) from audit_count where audit = ?", id),
        after.get("findings").intValue());
  }

  @Test
  public void aStoppedRunKeepsWhatItFoundAndGoesOn() {
    long id = audit(Map.of());
    Set<String> whole = identities(id);
    post(WARDEN, "/api/audits/" + id + "/cancel", Map.of()).is(409);
    asIfKilledAfter(id, 50);
    jdbc.sql("update audit_run set lease_until = '2099-01-01' where id = ?").param(id).update();
    post(WARDEN, "/api/audits/" + id + "/cancel", Map.of()).is(200);
    assertEquals(
        get(WARDEN, "/api/audits/" + id).json().at("/run/state").stringValue(), "cancelled");
    post(WARDEN, "/api/audits/" + id + "/resume", Map.of()).is(200);
    done(id);
    assertEquals(identities(id), whole);
    post(WARDEN, "/api/audits/" + id + "/resume", Map.of()).is(409);
  }

  @Test
  public void aScopeNarrowsWhatIsJudgedAndNotWhatItIsHeldAgainst() {
    long all = audit(Map.of());
    long part = audit(Map.of("scope", Map.of("unit", "pilotage")));
    Set<String> expected = new TreeSet<>();
    Set<String> pilotage = new TreeSet<>();
    JsonNode rows =
        get(WARDEN, "/api/audits/" + all + "/wall?show=all&unit=pilotage&size=1000").json();
    rows.get("items").forEach(r -> pilotage.add(r.get("meeting").stringValue()));
    identities(all).stream()
        .filter(i -> pilotage.contains(i.substring(0, i.indexOf('|'))))
        .forEach(expected::add);
    assertTrue(pilotage.size() > 5);
    assertEquals(identities(part), expected);
    assertEquals(done(part).get("judged").intValue(), pilotage.size());
    get(WARDEN, "/api/audit-history/compare?earlier=" + all + "&later=" + part).is(422);
  }

  /** A fresh audit is the reference: whatever changed, the standing one must have kept up. */
  @Test
  public void theStandingAuditIsWhatAFreshOneFindsWhateverChanged() {
    Random random = new Random(20);
    List<String> values = List.of("off", "on");
    List<String> shares = List.of("everyone", "presenters", "hosts");
    for (int round = 0; round < 4; round++) {
      for (int i = 0; i < 6; i++) {
        String meeting = "m-%04d".formatted(20 + random.nextInt(50));
        switch (random.nextInt(4)) {
          case 0 -> setControl(meeting, "waiting-room", values.get(random.nextInt(2)));
          case 1 -> setControl(meeting, "screen-share", shares.get(random.nextInt(3)));
          case 2 -> setControl(meeting, "meeting-number", "reusable");
          default ->
              post(
                      WARDEN,
                      "/api/meetings/many",
                      Map.of(
                          "ids",
                          List.of(meeting),
                          "act",
                          "hand-over",
                          "to",
                          random.nextBoolean() ? WARDEN : "d.roche@saltmarsh.example",
                          "send",
                          false))
                  .is(200);
        }
      }
      settle();
      assertEquals(identities(0), identities(audit(Map.of())), "round " + round);
    }
  }

  private List<String> betweenMeetings() {
    return jdbc.sql(
            "select concat(f.id, ' ', f.meeting, ' ', f.check_id) from finding f join audit_run r on"
                + " r.id = f.audit and r.state = 'standing' where f.check_id in"
                + " ('number-spillover', 'host-double-booked', 'reused-passcode') order by f.id")
        .query(String.class)
        .list();
  }

  @Test
  public void whatOthersShareIsWrittenAnewOnlyWhereItChanged() {
    settle();
    List<String> before = betweenMeetings();
    assertTrue(before.size() > 3, before.toString());
    String meeting = before.get(0).split(" ")[1];
    String board =
        get(WARDEN, "/api/meetings/" + meeting).json().at("/controls/whiteboard").asString();
    setControl(meeting, "whiteboard", board.equals("off") ? "everyone" : "off");
    settle();
    assertEquals(betweenMeetings(), before);
    // somebody else's now: what was found with it is not what it was
    String host = get(WARDEN, "/api/meetings/" + meeting).json().get("host").stringValue();
    Map<String, Object> over =
        Map.of("ids", List.of(meeting), "act", "hand-over", "to", WARDEN, "send", false);
    post(WARDEN, "/api/meetings/many", over).is(200);
    settle();
    assertEquals(identities(0), identities(audit(Map.of())));
    Map<String, Object> back =
        Map.of("ids", List.of(meeting), "act", "hand-over", "to", host, "send", false);
    post(WARDEN, "/api/meetings/many", back).is(200);
    settle();
    assertEquals(identities(0), identities(audit(Map.of())));
  }

  /**
   * A meeting in which nothing is found, with a waiting room that may not be switched off. Which
   * ones are clean depends on the date: a host can be due in two places on some days.
   */
  private String clean() {
    return pages("/api/audits/0/wall?show=all&size=1000").stream()
        .filter(r -> r.get("findings").intValue() == 0 && r.get("waived").intValue() == 0)
        .map(r -> get(WARDEN, "/api/meetings/" + r.get("meeting").stringValue()).is(200).json())
        .filter(m -> m.at("/controls/waiting-room").asString().equals("on"))
        .filter(m -> m.at("/assessment/resolved/waiting-room/limit").asString().equals("on"))
        .map(m -> m.get("id").stringValue())
        .findFirst()
        .orElseThrow();
  }

  private int told(String meeting) {
    return count(
        "select count(*) from finding_event where meeting = ? and what = 'came' and subject ="
            + " 'waiting-room' and check_id = 'beyond-limit' and by_whom = ?",
        meeting,
        WARDEN);
  }

  /**
   * Whether the lookout says that somebody loosened it, or has no room for it beside graver ones.
   */
  private boolean hasDrifted(String meeting) {
    int worst = 0;
    for (JsonNode finding : findings(0, "&meeting=" + meeting)) {
      worst = Math.max(worst, finding.at("/finding/severity").intValue());
    }
    List<JsonNode> drifted = new ArrayList<>();
    get(WARDEN, "/api/lookout").is(200).json().get("drifted").forEach(drifted::add);
    int least = worst;
    return drifted.stream()
            .anyMatch(
                d ->
                    d.get("meeting").stringValue().equals(meeting)
                        && d.get("by").stringValue().equals(WARDEN))
        || drifted.size() == SHOWN_ON_THE_LOOKOUT
            && drifted.stream().allMatch(d -> d.get("worst").intValue() > least);
  }

  @Test
  public void aChangeIsFoundAtOnceAndToldWhoseItIs() {
    String meeting = clean();
    done(audit(Map.of())); // in which it is clean, whenever it was made
    String ofIt = "&check=beyond-limit&meeting=" + meeting;
    int before = told(meeting);
    setControl(meeting, "waiting-room", "off");
    until("it is found", () -> isFound(meeting, "beyond-limit", "waiting-room"));
    settle();
    assertNotNull(findings(0, ofIt).get(0).get("seen"));
    assertEquals(told(meeting), before + 1);
    // its answer is kept for a moment: somebody may have asked just before
    until("the lookout has it", () -> hasDrifted(meeting));
    setControl(meeting, "waiting-room", "on");
    until("it is gone", () -> !isFound(meeting, "beyond-limit", "waiting-room"));
  }

  @Test
  public void whatMeetingsShareIsFoundInTheOthersToo() {
    String number =
        jdbc.sql("select number from meeting where public_id = 'm-0089'")
            .query(String.class)
            .single();
    assertTrue(findings(0, "&meeting=m-0089&check=number-spillover").isEmpty());
    JsonNode form = get(WARDEN, "/api/meetings/m-0089/form").is(200).json();
    Map<String, Object> copy = new java.util.HashMap<>();
    form.get("meeting").properties().forEach(e -> copy.put(e.getKey(), e.getValue()));
    copy.remove("id");
    Map<String, Object> controls = new java.util.HashMap<>();
    form.at("/meeting/controls").properties().forEach(e -> controls.put(e.getKey(), e.getValue()));
    controls.put("meeting-number", "reusable");
    setControl("m-0089", "meeting-number", "reusable");
    copy.put("controls", controls);
    copy.put("number", number);
    copy.put("title", "At the same time on the same number");
    String other =
        post(
                WARDEN,
                "/api/meetings",
                Map.of("meeting", copy, "send", false, "reason", "to see what is found"))
            .is(200)
            .json()
            .get("id")
            .stringValue();
    until(
        "one of the two is found",
        () ->
            !findings(0, "&meeting=m-0089&check=number-spillover").isEmpty()
                || !findings(0, "&meeting=" + other + "&check=number-spillover").isEmpty());
    settle();
    assertEquals(identities(0), identities(audit(Map.of())));
    JsonNode now = get(WARDEN, "/api/meetings/" + other).json();
    send(
            WARDEN,
            "DELETE",
            "/api/meetings/" + other + "?send=false&version=" + now.get("version"),
            null)
        .is(200);
    settle();
    assertTrue(findings(0, "&meeting=m-0089&check=number-spillover").isEmpty());
    assertTrue(findings(0, "&meeting=" + other).isEmpty(), "a cancelled meeting has none");
    assertEquals(identities(0), identities(audit(Map.of())));
  }
}
