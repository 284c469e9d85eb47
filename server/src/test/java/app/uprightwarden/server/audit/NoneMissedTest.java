package app.uprightwarden.server.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.register.RegisterService;
import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** However many there are, none is missed: a limit cuts what is shown, never what is meant. */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_none_missed")
public class NoneMissedTest extends ServerTest {
  /** Somebody who hosts nothing. */
  private static final String QUIET = "quiet.one@saltmarsh.example";

  @Autowired private FindingQueries reading;
  @Autowired private ContinuousAudit standing;
  @Autowired private RegisterService register;
  @Autowired private JdbcClient jdbc;
  @Autowired private AuditRuns runs;
  @Autowired private SettingsService settings;

  @Test
  public void aUnitsWardenFindsTheirAuditBehindMany() {
    jdbc.sql(
            "insert into audit_run (state, cause, scope, edition, window_from, window_to,"
                + " started_by, started_at, meetings, judged, occurrences, findings) select 'done', 'asked', if(seq = 1,"
                + " '{\"unit\":\"pilotage\"}', '{\"unit\":\"tariffs\"}'), 3,"
                + " utc_timestamp(), utc_timestamp(), 'x', utc_timestamp() + interval seq second,"
                + " 0, 0, 0, 0 from seq_1_to_400")
        .update();
    JsonNode theirs = get(UNIT_WARDEN, "/api/audits?most=5").is(200).json();
    assertTrue(theirs.size() > 0, theirs.toString());
    theirs.forEach(run -> assertTrue(run.toString().contains("pilotage"), run.toString()));
  }

  /**
   * Sessions are opened by pages of this: together they are all that are due, the soonest first.
   */
  @Test
  public void allThatAreDueComeInPages() {
    until("the standing audit", () -> standing.now().isPresent());
    long id = standing.now().orElseThrow().id();
    Instant until = Instant.now().plus(30, ChronoUnit.DAYS);
    until("it has looked at some", () -> reading.countSoon(id, until, null) > 20);
    List<String> all = new ArrayList<>();
    Instant last = Instant.MIN;
    for (int from = 0; ; from += 3) {
      List<FindingQueries.Audited> page = reading.due(id, until, from, 3);
      for (FindingQueries.Audited each : page) {
        Instant next = each.next();
        assertTrue(next != null && !next.isBefore(last), "the soonest first");
        last = next;
        all.add(each.meeting());
      }
      if (page.size() < 3) {
        break;
      }
    }
    assertEquals(all.stream().distinct().count(), all.size(), "each once");
    assertEquals(all.size(), reading.countSoon(id, until, null));
  }

  /** An audit that covered nothing is no drop to zero. */
  @Test
  public void anAuditOfNothingIsNoPointOfATrend() {
    jdbc.sql(
            "insert into audit_run (state, cause, scope, edition, window_from, window_to,"
                + " started_by, started_at, meetings, judged, occurrences, findings) values"
                + " ('done', 'asked', '{\"unit\":null,\"kind\":null,\"host\":null}', 3,"
                + " utc_timestamp(), utc_timestamp(), 'x', utc_timestamp(), 0, 0, 0, 0)")
        .update();
    JsonNode points = get(WARDEN, "/api/audit-history/trends?most=50").is(200).json().get("points");
    assertTrue(points.size() > 2, points.toString());
    points.forEach(point -> assertTrue(point.get("meetings").intValue() > 0, point.toString()));
  }

  /** A directory that changes faster than everything is gone through does not hold that up. */
  @Test
  public void peopleWhoChangeAllTheTimeDoNotKeepItFromItsEnd() throws Exception {
    long id = standing.now().orElseThrow().id();
    whilePeopleChange(() -> hasGoneThroughAllSince(id, Instant.now()));
    until(
        "and once more by what is so now",
        () -> {
          AuditRuns.Known known = runs.known(id);
          Long directory = known.directory();
          return known.renewedAt() != null
              && directory != null
              && directory == settings.directoryRevision();
        });
  }

  private void whilePeopleChange(Runnable act) throws Exception {
    AtomicInteger change = new AtomicInteger();
    AtomicBoolean isOver = new AtomicBoolean();
    tokenOf(WARDEN); // before two ask for it
    CompletableFuture<Void> people =
        CompletableFuture.runAsync(
            () -> {
              while (!isOver.get()) {
                rename(change.incrementAndGet());
              }
            });
    try {
      until("people change", () -> change.get() > 3);
      act.run();
    } finally {
      isOver.set(true);
      people.get(60, TimeUnit.SECONDS);
    }
  }

  private void hasGoneThroughAllSince(long id, Instant since) {
    until(
        "it has gone through everything",
        () -> {
          Instant renewed = runs.known(id).renewedAt();
          return renewed != null && renewed.isAfter(since);
        });
  }

  private int openOf(String meeting) {
    return get(WARDEN, "/api/audits/0/findings?waived=false&meeting=" + meeting)
        .is(200)
        .json()
        .get("total")
        .intValue();
  }

  /** Granted while everything is gone through, it counts at once, and the way's end keeps it. */
  @Test
  public void aWaiverGrantedOnTheWayCountsAndStays() throws Exception {
    String meeting = "m-0001";
    until("it is found open", () -> standing.now().isPresent() && openOf(meeting) > 0);
    long id = standing.now().orElseThrow().id();
    whilePeopleChange(
        () -> {
          Map<String, Object> wanted =
              Map.of(
                  "scope",
                  "meeting",
                  "meeting",
                  meeting,
                  "reason",
                  "The crew joins from the boat",
                  "until",
                  Instant.now().plus(3, ChronoUnit.DAYS).toString());
          JsonNode waiver = post(WARDEN, "/api/waivers", wanted).is(201).json();
          until("it is waived", () -> openOf(meeting) == 0);
          hasGoneThroughAllSince(id, Instant.now());
          assertEquals(openOf(meeting), 0);
          post(WARDEN, "/api/waivers/" + waiver.get("id") + "/end", Map.of()).is(200);
          until("it is open again", () -> openOf(meeting) > 0);
        });
  }

  private void rename(int change) {
    send(
            WARDEN,
            "PUT",
            "/api/people/" + QUIET,
            Map.of(
                "name",
                "Number " + change,
                "standing",
                "member",
                "unit",
                "pilotage",
                "active",
                true))
        .is(200);
  }

  /** A nightly file that says what is known already is no reason to look at everything. */
  @Test
  public void theSameOnceMoreChangesNothing() {
    rename(-1);
    long before = settings.directoryRevision();
    rename(-1);
    assertEquals(settings.directoryRevision(), before);
    rename(-2);
    assertEquals(settings.directoryRevision(), before + 1);
  }

  @Test
  public void whoHostsManyHostsThemAll() {
    int hosted =
        jdbc.sql("select count(*) from meeting where host_folded = ?")
            .param(HOST)
            .query(Integer.class)
            .single();
    assertTrue(hosted > 3);
    assertEquals(register.hostedAlone(HOST).size(), hosted);
  }
}
