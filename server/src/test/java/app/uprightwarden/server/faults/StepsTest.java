package app.uprightwarden.server.faults;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.faults.Breaks.How;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.util.List;
import java.util.Map;
import java.util.function.IntFunction;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.dao.PessimisticLockingFailureException;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/**
 * The database goes away at every step of what matters, one after another: nothing is lost, nothing
 * is done twice. Each walk goes on until the work comes through without reaching the step.
 */
@DirtiesContext
@TestPropertySource(
    properties = {
      "test.schema=warden_steps",
      "test.audit-page=60",
      "warden.jobs.poll=100ms",
      "warden.jobs.heartbeat=500ms",
      "warden.remedies.look=100ms",
      "warden.remedies.first-wait=100ms"
    })
public class StepsTest extends ServerTest {
  private static final int MAX_STEPS = 400;

  @Autowired private JdbcClient jdbc;

  @DataProvider
  public Object[][] kinds() {
    return new Object[][] {{How.BEFORE}, {How.AFTER_COMMIT}};
  }

  @BeforeClass
  public void settle() {
    assertEquals(
        jdbc.sql("select database()").query(String.class).single(), "warden_steps_" + FORK);
    until(
        "the demo's audits are done",
        () -> count("select count(*) from audit_run where state in ('waiting', 'running')") == 0);
  }

  @AfterMethod(alwaysRun = true)
  public void disarm() {
    Breaks.disarm();
  }

  private static boolean isRequest(Thread thread) {
    return thread.getName().contains("-exec-");
  }

  private long count(String sql, Object... parameters) {
    return jdbc.sql(sql).params(parameters).query(Long.class).single();
  }

  private void ledgerHolds() {
    JsonNode verified = send(WARDEN, "POST", "/api/ledger/verification", null).is(200).json();
    assertTrue(verified.get("whole").booleanValue(), verified.toString());
  }

  /**
   * Breaks a request at its first, second, third… step until it comes through.
   *
   * @param attempt does it for the n-th time, and says its status
   * @param check what holds after the n-th, told whether it broke
   * @return how many steps it has
   */
  private int walk(How how, IntFunction<Answer> attempt, Check check) {
    get(WARDEN, "/api/catalogue").is(200); // whose token was used is noted once a minute, not now
    for (int step = 1; step < MAX_STEPS; step++) {
      Breaks.arm(StepsTest::isRequest, step, how);
      Answer answer = attempt.apply(step);
      boolean broke = Breaks.disarm();
      if (broke) {
        assertTrue(
            answer.status() >= 500 || how == How.AFTER_COMMIT || answer.status() < 300,
            "step " + step + ": " + answer.body());
      } else {
        assertTrue(answer.status() < 300, "step " + step + ": " + answer.body());
      }
      check.after(step, answer, broke);
      if (!broke) {
        return step - 1;
      }
    }
    throw new AssertionError("more steps than anybody thought");
  }

  private interface Check {
    void after(int step, Answer answer, boolean broke);
  }

  private Map<String, Object> bundle(int step) {
    return Map.of(
        "format",
        "upright-warden/1",
        "meetings",
        List.of(meeting("walk-" + step + "-a"), meeting("walk-" + step + "-b")));
  }

  private static Map<String, Object> meeting(String id) {
    return Map.of(
        "id",
        id,
        "title",
        "Walk " + id,
        "host",
        HOST,
        "start",
        LocalDate.now(ZoneOffset.UTC).plusDays(30) + "T10:00",
        "zone",
        "Europe/Dublin",
        "minutes",
        30,
        "invitees",
        List.of(),
        "controls",
        Map.of());
  }

  @Test(dataProvider = "kinds")
  public void anImportIsWholeOrNot(How how) {
    int steps =
        walk(
            how,
            step -> post(WARDEN, "/api/exchange/bundle", bundle(how.ordinal() * 1000 + step)),
            (step, answer, broke) -> {
              String like = "walk-" + (how.ordinal() * 1000 + step) + "-%";
              long stored = count("select count(*) from meeting where public_id like ?", like);
              assertTrue(stored == 0 || stored == 2, "step " + step + ": " + stored);
              if (answer.status() < 300) {
                assertEquals(stored, 2);
              }
              // done again, it is there once
              post(WARDEN, "/api/exchange/bundle", bundle(how.ordinal() * 1000 + step)).is(200);
              assertEquals(count("select count(*) from meeting where public_id like ?", like), 2);
            });
    assertTrue(steps >= (how == How.BEFORE ? 10 : 1), steps + " steps");
    ledgerHolds();
  }

  private Map<String, Object> toSend(String title) {
    return Map.of(
        "version",
        0,
        "send",
        true,
        "meeting",
        Map.of(
            "title",
            title,
            "host",
            WARDEN,
            "start",
            LocalDate.now(ZoneOffset.UTC).plusDays(30) + "T10:00",
            "zone",
            "Europe/Dublin",
            "minutes",
            45,
            "invitees",
            List.of(Map.of("email", HOST), Map.of("email", AUDITOR))));
  }

  @Test(dataProvider = "kinds")
  public void aMeetingAndItsInvitationsAreSentTogetherOrNot(How how) {
    int steps =
        walk(
            how,
            step -> post(WARDEN, "/api/meetings", toSend("Sent " + how + " " + step)),
            (step, answer, broke) -> {
              String title = "Sent " + how + " " + step;
              long stored = count("select count(*) from meeting where title = ?", title);
              long messages =
                  count(
                      "select count(*) from outbox_message where about in (select"
                          + " concat('meeting:', public_id) from meeting where title = ?)",
                      title);
              long invited =
                  count(
                      "select count(*) from outbox_message where subject like concat('%', ?)",
                      title);
              assertTrue(stored <= 1, "step " + step);
              assertEquals(messages, stored * 2, "step " + step);
              assertEquals(invited, messages, "step " + step + ": nobody is asked to nothing");
            });
    assertTrue(steps >= (how == How.BEFORE ? 15 : 1), steps + " steps");
    ledgerHolds();
  }

  @Test(dataProvider = "kinds")
  public void anEditionIsPublishedOnceOrNot(How how) {
    int steps =
        walk(
            how,
            step -> {
              Breaks.disarm();
              long id =
                  post(
                          WARDEN,
                          "/api/rulebook/drafts",
                          Map.of("name", "walk " + how + step, "from", "in-force"))
                      .is(201)
                      .json()
                      .at("/line/id")
                      .longValue();
              Breaks.arm(StepsTest::isRequest, step, how);
              return post(
                  WARDEN,
                  "/api/rulebook/drafts/" + id + "/publish",
                  Map.of("version", 0, "reason", "walk " + how + step + ".", "tellHosts", true));
            },
            (step, answer, broke) -> {
              long editions =
                  count(
                      "select count(*) from edition where reason = ?", "walk " + how + step + ".");
              long drafts =
                  count("select count(*) from draft where name = ?", "walk " + how + step);
              assertTrue(editions <= 1, "step " + step);
              assertEquals(
                  drafts, 1 - editions, "step " + step + ": the draft becomes the edition");
              if (answer.status() < 300) {
                assertEquals(editions, 1);
              }
              jdbc.sql("delete from draft where name like 'walk %'").update();
            });
    assertTrue(steps >= (how == How.BEFORE ? 6 : 1), steps + " steps");
    ledgerHolds();
    until(
        "the audits that follow are done",
        () -> count("select count(*) from audit_run where state in ('waiting', 'running')") == 0);
  }

  @Test(dataProvider = "kinds")
  public void anOrderOnTheFloorIsCarriedOutOnce(How how) {
    String session =
        post(
                WARDEN,
                "/api/floor/sessions",
                Map.of("meeting", "m-0001", "script", "usual", "speed", 1, "strangers", 0))
            .is(201)
            .json()
            .get("id")
            .stringValue();
    until("it is open", () -> count("select folded from floor_session where id = ?", session) > 0);
    String locked = "select count(*) from floor_event where session = ? and body like '%lock%'";
    int steps =
        walk(
            how,
            step ->
                post(
                    WARDEN,
                    "/api/floor/sessions/" + session + "/orders",
                    order(how.ordinal() + "-" + step, step)),
            (step, answer, broke) -> {
              // whoever is told that it went wrong asks again, with the same key
              post(
                      WARDEN,
                      "/api/floor/sessions/" + session + "/orders",
                      order(how.ordinal() + "-" + step, step))
                  .is(200);
              until("step " + step + " is heard of", () -> count(locked, session) >= step);
              assertEquals(count(locked, session), step, "step " + step + ": each once");
            });
    assertTrue(steps >= (how == How.BEFORE ? 4 : 1), steps + " steps");
    ledgerHolds();
  }

  private static Map<String, Object> order(String key, int step) {
    return Map.of(
        "key", "walk-" + key, "act", step % 2 == 1 ? "lock" : "unlock", "people", List.of());
  }

  private static final String FINDINGS =
      "select meeting, occurrence, check_id, subject, severity, detail from finding where audit = ";

  private long audited() {
    long id = post(WARDEN, "/api/audits", Map.of()).is(202).json().get("id").longValue();
    until(
        "audit " + id + " ends",
        () -> count("select count(*) from audit_run where state = 'done' and id = ?", id) == 1);
    return id;
  }

  @Test(dataProvider = "kinds")
  public void anAuditGoesOnWhereItWas(How how) {
    long right = audited();
    int step = 0;
    boolean broke = true;
    while (broke) {
      step++;
      assertTrue(step < MAX_STEPS);
      Breaks.arm(t -> t.getName().startsWith("work-audit"), step, how);
      long id = audited();
      broke = Breaks.disarm();
      for (String difference :
          List.of(id + " except " + FINDINGS + right, right + " except " + FINDINGS + id)) {
        assertEquals(
            count("select count(*) from (" + FINDINGS + difference + ") d"), 0, "step " + step);
      }
      assertEquals(
          count(
              "select judged = (select count(*) from audited_meeting where audit = r.id) and findings"
                  + " = (select count(*) from finding where audit = r.id) from audit_run r where"
                  + " id = ?",
              id),
          1,
          "step " + step + ": its counts are right");
    }
    assertTrue(step > (how == How.BEFORE ? 8 : 2), step + " steps");
  }

  @Test(dataProvider = "kinds")
  public void aRemedyIsDoneOnce(How how) {
    int step = 0;
    boolean broke = true;
    while (broke) {
      step++;
      assertTrue(step < MAX_STEPS);
      String is =
          get(WARDEN, "/api/meetings/m-0084").is(200).json().at("/controls/chat").stringValue();
      String chat = is.equals("off") ? "always" : "off";
      long versions = count("select count(*) from meeting_version where meeting = 'm-0084'");
      Breaks.arm(t -> t.getName().equals("remedies"), step, how);
      long job =
          post(
                  WARDEN,
                  "/api/remedies",
                  Map.of(
                      "targets",
                      List.of(Map.of("meeting", "m-0084")),
                      "evenIfAsked",
                      true,
                      "controls",
                      Map.of("chat", chat)))
              .is(202)
              .json()
              .get("id")
              .longValue();
      until(
          "the remedy ends",
          () ->
              takenOver(job)
                  && count(
                          "select count(*) from remedy_item where job = ? and state in ('waiting',"
                              + " 'sending')",
                          job)
                      == 0);
      broke = Breaks.disarm();
      assertEquals(
          count("select count(*) from remedy_item where job = ? and state = 'done'", job),
          1,
          "step " + step);
      assertEquals(
          count("select count(*) from meeting_version where meeting = 'm-0084'"),
          versions + 1,
          "step " + step + ": changed once");
      assertEquals(
          count(
              "select count(*) from bridge_command where id like concat('remedy-', (select id from"
                  + " remedy_item where job = ?), '-%')",
              job),
          1,
          "step " + step + ": the conference service heard it once");
    }
    assertTrue(step > (how == How.BEFORE ? 6 : 1), step + " steps");
    ledgerHolds();
  }

  /** Whoever took it went silent; its time to be silent is over at once here. */
  private boolean takenOver(long job) {
    try {
      if (Breaks.hasBroken()) {
        handOver(job);
      }
    } catch (PessimisticLockingFailureException e) {
      // it is being done at this moment
    }
    return true;
  }

  private void handOver(long job) {
    jdbc.sql(
            "update remedy_item set next_try = utc_timestamp() where job = ? and state ="
                + " 'sending'")
        .param(job)
        .update();
  }

  @Test
  public void whenTheDisksAreFullItSaysSo() {
    Breaks.arm(StepsTest::isRequest, 2, How.DISK_FULL);
    Answer answer = post(WARDEN, "/api/meetings", toSend("No room"));
    assertTrue(Breaks.disarm());
    assertEquals(answer.is(507).json().get("code").stringValue(), "no-room");
    assertEquals(count("select count(*) from meeting where title = 'No room'"), 0);
    post(WARDEN, "/api/meetings", toSend("No room")).is(200);
  }
}
