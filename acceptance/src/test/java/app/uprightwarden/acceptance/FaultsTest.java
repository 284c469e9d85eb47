package app.uprightwarden.acceptance;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.sql.Connection;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.util.concurrent.TimeUnit;
import org.testng.annotations.AfterClass;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;

/**
 * Server and database killed with signal 9 in the middle of an audit and of a remedy of many
 * meetings: nothing is lost, nothing is done twice, and the work comes to the right end.
 */
public class FaultsTest {
  private static final String SCHEMA = "warden_faults";
  private static final String TOKEN = "a token that only this test knows";
  private static final long PATIENCE_NANOS = 150_000_000_000L;
  private static final int SERIES = 1000;

  private final HttpClient http = HttpClient.newHttpClient();
  private OwnDatabase database;
  private RunningWarden warden;

  @BeforeClass
  public void start() throws Exception {
    System.setProperty("warden.audit.page", "10"); // many steps to be killed between
    database = OwnDatabase.start("faults-db");
    try (Connection connection = database.connect("")) {
      connection.createStatement().execute("create database " + SCHEMA);
    }
    startWarden();
    try (Connection connection = database.connect(SCHEMA)) {
      Tokens.issue(connection, TOKEN);
    }
    until(
        "the standing audit settles",
        "select count(*) from audit_run where state = 'standing' and renewed_at is not null",
        1);
    until(
        "the first audit is done",
        "select count(*) from audit_run where state in ('waiting', 'running')",
        0);
  }

  private void startWarden() throws IOException, InterruptedException {
    warden = RunningWarden.start(SCHEMA, true, SERIES, database.url(SCHEMA));
  }

  @AfterClass(alwaysRun = true)
  public void stop() {
    System.clearProperty("warden.audit.page");
    if (warden != null) {
      warden.close();
    }
    if (database != null) {
      database.close();
    }
  }

  private long post(String path, String body) throws IOException, InterruptedException {
    HttpResponse<String> answer =
        http.send(
            HttpRequest.newBuilder(URI.create(warden.address() + path))
                .header("Authorization", "Bearer " + TOKEN)
                .header("Content-Type", "application/json")
                .POST(HttpRequest.BodyPublishers.ofString(body))
                .build(),
            HttpResponse.BodyHandlers.ofString());
    assertEquals(answer.statusCode(), 202, answer.body());
    return Long.parseLong(answer.body().replaceFirst("(?s).*?\"id\":(\\d+).*", "$1"));
  }

  /** A number out of the database; -1 while it cannot be asked. */
  private long number(String sql) {
    try (Connection connection = database.connect(SCHEMA);
        ResultSet rows = connection.createStatement().executeQuery(sql)) {
      rows.next();
      return rows.getLong(1);
    } catch (SQLException e) {
      return -1;
    }
  }

  private void until(String what, String sql, long value) throws InterruptedException {
    long end = System.nanoTime() + PATIENCE_NANOS;
    for (long now = number(sql); now != value; now = number(sql)) {
      assertTrue(System.nanoTime() < end, "in vain: " + what + "; it is at " + now);
      TimeUnit.MILLISECONDS.sleep(50);
    }
  }

  private void untilOver(String what, String sql, long value) throws InterruptedException {
    long end = System.nanoTime() + PATIENCE_NANOS;
    for (long now = number(sql); now <= value; now = number(sql)) {
      assertTrue(System.nanoTime() < end, "in vain: " + what + "; it is at " + now);
      TimeUnit.MILLISECONDS.sleep(5);
    }
  }

  private interface Fault {
    void happen() throws IOException, InterruptedException;
  }

  private void killServer() throws IOException, InterruptedException {
    warden.kill();
    startWarden();
  }

  private void killDatabase() throws IOException, InterruptedException {
    database.kill();
    TimeUnit.MILLISECONDS.sleep(700); // long enough to be noticed
    database.start();
  }

  private void auditThrough(Fault fault) throws IOException, InterruptedException {
    long id = post("/api/audits", "{}");
    untilOver("the audit is under way", "select scanned from audit_run where id = " + id, 200);
    fault.happen();
    long scanned = number("select scanned from audit_run where id = " + id);
    assertTrue(scanned > 0 && scanned < SERIES, "it was killed in the middle, at " + scanned);
    until(
        "the audit ends", "select count(*) from audit_run where state = 'done' and id = " + id, 1);
    long fresh = post("/api/audits", "{}");
    until(
        "another ends", "select count(*) from audit_run where state = 'done' and id = " + fresh, 1);
    String findings =
        "select meeting, occurrence, check_id, subject, severity, detail from finding where audit = ";
    for (String difference :
        new String[] {id + " except " + findings + fresh, fresh + " except " + findings + id}) {
      assertEquals(number("select count(*) from (" + findings + difference + ") d"), 0, difference);
    }
    assertEquals(
        number(
            "select judged = (select count(*) from audited_meeting where audit = "
                + id
                + ") and scanned = judged and findings = (select count(*) from finding where audit = "
                + id
                + ") from audit_run where id = "
                + id),
        1,
        "its counts are right");
    assertTrue(number("select findings from audit_run where id = " + id) > 500);
  }

  @Test
  public void anAuditSurvivesTheServerKilled() throws Exception {
    auditThrough(this::killServer);
  }

  @Test
  public void anAuditSurvivesTheDatabaseKilled() throws Exception {
    auditThrough(this::killDatabase);
  }

  private void remedyThrough(String control, Fault fault) throws IOException, InterruptedException {
    until("nothing is due", "select count(*) from meeting_due", 0);
    long versions = number("select count(*) from meeting_version");
    long job =
        post(
            "/api/remedies",
            """
            {"wholeCheck": "beyond-limit", "wholeSubject": "%s", "evenIfAsked": true}"""
                .formatted(control));
    String items = "select count(*) from remedy_item where job = " + job;
    long all = number(items);
    assertTrue(all > 30, "there is something to mend: " + all);
    untilOver("it is under way", items + " and state = 'done'", 5);
    fault.happen();
    long before = number(items + " and state = 'done'");
    assertTrue(before < all, "it was killed in the middle, after " + before + " of " + all);
    until("all is done", items + " and state = 'done'", all);
    assertEquals(
        number("select count(*) from meeting_version") - versions, all, "each changed once");
    assertEquals(
        number(
            "select count(*) from bridge_command where id in (select concat('remedy-', id, '-0')"
                + " from remedy_item where job = "
                + job
                + ")"),
        all,
        "the conference service heard each once");
    assertEquals(
        number(
            "select count(*) from remedy_item i join meeting m on m.public_id = i.meeting where"
                + " i.job = "
                + job
                + " and (m.act <> 'remedied' or m.version <> i.now_version)"),
        0,
        "what is stored is what was done");
    until(
        "nothing of it is found any more",
        "select count(*) from finding f join audit_run r on r.id = f.audit and r.state = 'standing'"
            + " where f.check_id = 'beyond-limit' and f.occurrence = '' and f.waiver is null and"
            + " f.subject = '"
            + control
            + "'",
        0);
  }

  @Test
  public void aBulkRemedySurvivesTheServerKilled() throws Exception {
    remedyThrough("screen-share", this::killServer);
  }

  @Test
  public void aBulkRemedySurvivesTheDatabaseKilled() throws Exception {
    remedyThrough("lobby-bypass", this::killDatabase);
  }
}
