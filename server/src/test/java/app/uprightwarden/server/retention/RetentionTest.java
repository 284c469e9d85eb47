package app.uprightwarden.server.retention;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import java.time.Instant;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * What was kept long enough goes, and nothing else. It has a database of its own: other tests look
 * at what this one lets go.
 */
@TestPropertySource(properties = "test.schema=warden_keeping")
public class RetentionTest extends ServerTest {
  @Autowired private JdbcClient jdbc;
  @Autowired private RetentionService keeping;
  @Autowired private List<Retention> kept;

  @BeforeClass
  public void isAlone() {
    assertEquals(
        jdbc.sql("select database()").query(String.class).single(), "warden_keeping_" + FORK);
    // the server's own hourly turn would take rows that a test is just about to
    jdbc.sql("update keeping_rule set ran_at = utc_timestamp() + interval 1 day").update();
    backToTheRules();
  }

  @AfterMethod(alwaysRun = true)
  public void backToTheRules() {
    jdbc.sql("update keeping_rule set days = if(what = 'ledger', null, 3000)").update();
  }

  private long count(String sql) {
    return jdbc.sql(sql).query(Long.class).single();
  }

  private void only(String what, int days) {
    jdbc.sql("update keeping_rule set days = null").update();
    Map<String, Object> body = new HashMap<>();
    body.put("days", days);
    send(WARDEN, "PUT", "/api/keeping/" + what, body).is(200);
  }

  @Test
  public void oldAuditsGoAndTheBaselineTheStandingAndTheLastStay() {
    only("audits", 20);
    long young =
        count(
            "select count(*) from audit_run where started_at > utc_timestamp() - interval 20 day");
    long old =
        count(
            "select count(*) from audit_run where started_at < utc_timestamp() - interval 20 day"
                + " and state = 'done'");
    assertTrue(old > 2, "the demo has a past");
    jdbc.sql(
            "update audit_run set baseline = (id = (select * from (select min(id) from audit_run"
                + " where state = 'done') m))")
        .update();
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from audit_run where baseline"), 1);
    assertEquals(count("select count(*) from audit_run where state = 'standing'"), 1);
    assertEquals(
        count(
            "select count(*) from audit_run where started_at < utc_timestamp() - interval 20 day"
                + " and not baseline and state = 'done'"),
        0);
    assertTrue(
        count("select count(*) from audit_run where started_at > utc_timestamp() - interval 20 day")
            >= young);
    assertEquals(
        count(
            "select count(*) from finding f left join audit_run r on r.id = f.audit where r.id is"
                + " null"),
        0);
    assertTrue(
        get(WARDEN, "/api/keeping")
                .is(200)
                .json()
                .valueStream()
                .filter(r -> r.get("what").stringValue().equals("audits"))
                .findFirst()
                .orElseThrow()
                .get("forgot")
                .longValue()
            > 0);
  }

  @Test
  public void anAuditThatGoesInPartsPassesForNoWholeOneMeanwhile() {
    long id = count("select min(id) from audit_run where state = 'done' and not baseline");
    String rows = "select count(*) from audited_meeting where audit = " + id;
    String findings = "select count(*) from finding where audit = " + id;
    long before = count(rows) + count(findings);
    assertTrue(before > 10, "it has something to let go");
    jdbc.sql("update audit_run set started_at = '2020-01-01' where id = ?").param(id).update();
    var old = kept.stream().filter(k -> k.what().equals("audits")).findFirst().orElseThrow();
    Instant then = Instant.parse("2020-03-01T00:00:00Z");
    int gone = old.letGo(then, 4);
    assertTrue(gone > 0 && gone <= 8, gone + " rows");
    assertEquals(count(rows) + count(findings), before - gone);
    var run = get(WARDEN, "/api/audits/" + id).is(200).json().get("run");
    assertEquals(run.get("state").stringValue(), "cancelled");
    send(WARDEN, "PUT", "/api/audits/" + id + "/baseline", null).is(409);
    while (old.letGo(then, 4) > 0) {
      assertTrue(count(rows) + count(findings) < before);
    }
    get(WARDEN, "/api/audits/" + id).is(404);
  }

  private void session(String id, int daysAgo) {
    jdbc.sql(
            "insert into floor_session (id, meeting, occurrence, title, host, co_hosts, starts, ends,"
                + " clock_from, wall_from, speed, practice, script, strangers, edition, controls,"
                + " state, folded, made_by) values (:id, 'm-0001', '2020-01-01T00:00', 'Old one',"
                + " 'h@x.example', '[]', utc_timestamp() - interval :days day, utc_timestamp() -"
                + " interval :days day, utc_timestamp(), utc_timestamp(), 1, 1, 'usual', 0, 1,"
                + " '{}', 'ended', 1, 'h@x.example')")
        .param("id", id)
        .param("days", daysAgo)
        .update();
    jdbc.sql("insert into floor_event values (?, 1, '{\"name\":\"Somebody\"}')").param(id).update();
    jdbc.sql(
            "insert into floor_incident (session, title, note, document, by_whom, at) values (?,"
                + " 'x', 'y', '{}', 'h@x.example', utc_timestamp())")
        .param(id)
        .update();
  }

  @Test
  public void ofSessionsThePeopleGoFirstAndTheRestLater() {
    session("s-keeping-40", 40);
    session("s-keeping-10", 10);
    only("session-people", 30);
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from floor_event where session = 's-keeping-40'"), 0);
    assertEquals(count("select count(*) from floor_event where session = 's-keeping-10'"), 1);
    assertEquals(
        count("select count(*) from floor_session where id = 's-keeping-40' and host = ''"), 1);
    get(WARDEN, "/api/floor/sessions/s-keeping-40").is(200);
    get(WARDEN, "/api/floor/sessions/s-keeping-40/after").is(200);
    only("sessions", 30);
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from floor_session where id = 's-keeping-40'"), 0);
    assertEquals(count("select count(*) from floor_incident where session = 's-keeping-40'"), 0);
    assertEquals(count("select count(*) from floor_session where id = 's-keeping-10'"), 1);
  }

  @Test
  public void whatIsHeldForAReasonStaysUntilItIsReleased() {
    session("s-held", 900);
    jdbc.sql("update floor_event set body = ? where session = 's-held'")
        .param(
            "{\"seq\":1,\"at\":\"2020-01-01T00:00:00Z\",\"happened\":\"2020-01-01T00:00:00Z\","
                + "\"kind\":\"OPENED\",\"who\":null,\"with\":{}}")
        .update();
    only("session-people", 30);
    String hold = "/api/floor/sessions/s-held/hold";
    JsonNode held = post(WARDEN, hold, Map.of("reason", "A dispute")).is(200).json();
    assertTrue(held.get("until").isNull(), "as long as it is held");
    post(WARDEN, hold, Map.of("reason", "Another")).is(409);
    session("s-let-go", 900);
    jdbc.sql("update floor_session set folded = 0 where id = 's-let-go'").update();
    assertTrue(
        post(WARDEN, "/api/floor/sessions/s-let-go/hold", Map.of("reason", "Too late"))
            .is(409)
            .body()
            .contains("nothing is left to hold"));
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from floor_event where session = 's-held'"), 1);
    only("sessions", 30);
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from floor_session where id = 's-held'"), 1);
    JsonNode kept = get(WARDEN, "/api/floor/sessions/s-held/after").is(200).json().get("kept");
    assertEquals(kept.at("/hold/reason").stringValue(), "A dispute");
    assertEquals(kept.at("/hold/by").stringValue(), WARDEN);
    send(WARDEN, "DELETE", hold, null).is(200);
    send(WARDEN, "DELETE", hold, null).is(200); // twice is once
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from floor_session where id = 's-held'"), 0);
  }

  @Test
  public void theLedgerIsCutAtItsBeginningAndStillVerifies() {
    for (int i = 0; i < 5; i++) {
      only("places", 100 + i); // each is an entry
    }
    jdbc.sql("update keeping_rule set days = null").update();
    // entries made older, in the way only this test can: their chain is written anew
    send(WARDEN, "POST", "/api/ledger/verification", null).is(200);
    long before = count("select count(*) from ledger_entry");
    only("ledger", 1);
    keeping.letGo(Instant.now().plusSeconds(86_400L * 2));
    long after = count("select count(*) from ledger_entry");
    assertTrue(after < before, before + " before, " + after + " after");
    assertEquals(count("select count(*) from ledger_entry where act = 'ledger.cut'") > 0, true);
    var verified = send(WARDEN, "POST", "/api/ledger/verification", null).is(200).json();
    assertTrue(verified.get("whole").booleanValue(), verified.toString());
    // somebody else cuts it: found
    jdbc.sql("create table head_kept as select * from ledger_head").update();
    jdbc.sql(
            "update ledger_head set from_seq = (select min(seq) from ledger_entry), from_hash ="
                + " (select hash from ledger_entry order by seq limit 1)")
        .update();
    long first = count("select min(seq) from ledger_entry");
    jdbc.sql("create table cut_by_hand as select * from ledger_entry where seq = ?")
        .param(first)
        .update();
    try {
      jdbc.sql("delete from ledger_entry where seq = ?").param(first).update();
      var found = send(WARDEN, "POST", "/api/ledger/verification", null).is(200).json();
      assertFalse(found.get("whole").booleanValue());
      assertTrue(found.get("breaks").toString().contains("cut-off"), found.toString());
      assertTrue(found.get("breaks").toString().contains("unsealed"), found.toString());
    } finally {
      jdbc.sql("insert into ledger_entry select * from cut_by_hand").update();
      jdbc.sql("drop table cut_by_hand").update();
      jdbc.sql("delete from ledger_head").update();
      jdbc.sql("insert into ledger_head select * from head_kept").update();
      jdbc.sql("drop table head_kept").update();
    }
    var again = send(WARDEN, "POST", "/api/ledger/verification", null).is(200).json();
    assertTrue(again.get("whole").booleanValue(), again.toString());
  }

  @Test
  public void messagesVersionsPlacesAndTokensGoToo() {
    jdbc.sql(
            "insert into outbox_message (recipient, subject, about, body, raw, state, written_by,"
                + " written_at) values ('x', 'keeping', 'x', 'x', 'x', 'sent', 'x', utc_timestamp()"
                + " - interval 50 day), ('x', 'keeping', 'x', 'x', 'x', 'waiting', 'x',"
                + " utc_timestamp() - interval 50 day)")
        .update();
    only("messages", 40);
    keeping.letGo(Instant.now());
    assertEquals(
        count("select count(*) from outbox_message where subject = 'keeping'"),
        1,
        "it waits still");
    jdbc.sql("delete from outbox_message where subject = 'keeping'").update();
    jdbc.sql(
            "update meeting_version set at = utc_timestamp() - interval 90 day order by id limit 1")
        .update();
    only("versions", 80);
    keeping.letGo(Instant.now());
    assertEquals(
        count("select count(*) from meeting_version where at < utc_timestamp() - interval 80 day"),
        0);
    jdbc.sql(
            "insert into access_token (token_hash, purpose, role, acts_as, issued_by, issued_at,"
                + " expires_at) values (repeat('0', 64), 'keeping', 'host', 'x', 'x',"
                + " utc_timestamp(), utc_timestamp() - interval 50 day)")
        .update();
    only("tokens", 40);
    keeping.letGo(Instant.now());
    assertEquals(count("select count(*) from access_token where purpose = 'keeping'"), 0);
    send(WARDEN, "PUT", "/api/keeping/nothing", Map.of("days", 3)).is(422);
    send(WARDEN, "PUT", "/api/keeping/audits", Map.of("days", 0)).is(422);
  }
}
