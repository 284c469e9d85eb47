package app.uprightwarden.server.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.waivers.WaiverService;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.Consumer;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.test.annotation.DirtiesContext;
import org.springframework.test.context.TestPropertySource;
import org.springframework.transaction.PlatformTransactionManager;
import org.springframework.transaction.TransactionStatus;
import org.springframework.transaction.support.TransactionTemplate;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;

/** Going through everything again: after an edition, a change of people, a day. */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_renewal")
public class RenewalTest extends ServerTest {
  private static final String FINDINGS =
      "select concat_ws('|', f.meeting, f.occurrence, f.check_id, f.subject, f.severity,"
          + " f.seen_at, sha1(f.detail)) as what, f.id as number from finding f where f.audit = ?";

  @Autowired private ContinuousAudit standing;
  @Autowired private AuditRuns runs;
  @Autowired private FindingStore store;
  @Autowired private RegisterService register;
  @Autowired private MeetingLines lines;
  @Autowired private RegisterChanges changes;
  @Autowired private RulebookService rulebook;
  @Autowired private OrganisationService organisation;
  @Autowired private WaiverService waivers;
  @Autowired private Signals signals;
  @Autowired private FindingHistory told;
  @Autowired private CrossMeetingRecheck shared;
  @Autowired private PlatformTransactionManager transactions;
  @Autowired private Clock clock;
  @Autowired private JdbcClient jdbc;

  private long id;

  @BeforeMethod
  public void settled() {
    until("the standing audit", () -> standing.now().isPresent());
    id = standing.now().orElseThrow().id();
    until("it has gone through everything", () -> runs.known(id).renewedAt() != null);
    until("nothing is due", () -> changes.count() == 0);
  }

  private Map<String, Long> findings() {
    Map<String, Long> found = new TreeMap<>();
    jdbc.sql(FINDINGS)
        .param(id)
        .query(
            row -> {
              found.put(row.getString("what"), row.getLong("number"));
            });
    assertTrue(found.size() > 100, found.size() + " findings");
    return found;
  }

  private void again() {
    jdbc.sql("update audit_run set renewed_at = null, cursor_row = 0 where id = ?")
        .param(id)
        .update();
    until("it has gone through everything again", () -> runs.known(id).renewedAt() != null);
  }

  @Test
  public void whatIsFoundAsItWasStaysWhereItIs() {
    Map<String, Long> before = findings();
    again();
    assertEquals(findings(), before);
  }

  /** Whoever changed the rows, they are put right; nobody else's are touched. */
  @Test
  public void whatIsOtherThanItIsFoundIsWrittenAnew() {
    Map<String, Long> before = findings();
    String meeting =
        jdbc.sql(
                "select meeting from finding where audit = ? and check_id = 'beyond-limit' limit 1")
            .param(id)
            .query(String.class)
            .single();
    jdbc.sql("update finding set invited = invited + 1 where audit = ? and meeting = ?")
        .params(id, meeting)
        .update();
    jdbc.sql("update audited_meeting set findings = 77 where audit = ? and meeting = ?")
        .params(id, meeting)
        .update();
    jdbc.sql("update meeting_line set findings = 77 where meeting = ?").param(meeting).update();
    again();
    Map<String, Long> after = findings();
    assertEquals(after.keySet(), before.keySet());
    before.forEach(
        (what, number) -> {
          if (!what.startsWith(meeting + "|")) {
            assertEquals(after.get(what), number, what);
          }
        });
    assertFalse(after.equals(before), "those of " + meeting + " were written anew");
    Integer open =
        jdbc.sql("select count(*) from finding where audit = ? and meeting = ? and waiver is null")
            .params(id, meeting)
            .query(Integer.class)
            .single();
    assertEquals(
        jdbc.sql("select findings from audited_meeting where audit = ? and meeting = ?")
            .params(id, meeting)
            .query(Integer.class)
            .single(),
        open);
    assertEquals(
        jdbc.sql("select findings from meeting_line where meeting = ?")
            .param(meeting)
            .query(Integer.class)
            .single(),
        open);
    assertNotEquals(open, Integer.valueOf(77));
  }

  /** What lies between meetings is over where it is not found again; all else stays as it is. */
  @Test
  public void whatIsNotFoundBetweenMeetingsAgainIsOver() {
    Map<String, Long> before = findings();
    List<String> without =
        jdbc.sql(
                "select meeting from audited_meeting where audit = ? and meeting not in (select"
                    + " meeting from finding where audit = ? and check_id = 'number-spillover')"
                    + " order by meeting")
            .params(id, id)
            .query(String.class)
            .list();
    assertTrue(without.size() > 10, without.toString());
    int number = -1;
    for (String meeting : without) {
      jdbc.sql(
              "insert into finding (id, audit, meeting, occurrence, check_id, subject, family,"
                  + " severity, invited, detail) values (?, ?, ?, '', 'number-spillover', '',"
                  + " 'between', 3, 0, '{}')")
          .params(number--, id, meeting)
          .update();
    }
    again();
    assertEquals(findings(), before);
    assertEquals(
        jdbc.sql(
                "select count(*) from audited_meeting m where m.audit = ? and m.findings <> (select"
                    + " count(*) from finding f where f.audit = m.audit and f.meeting = m.meeting"
                    + " and f.waiver is null)")
            .param(id)
            .query(Integer.class)
            .single(),
        Integer.valueOf(0));
  }

  /** As where the database takes a transaction back for another's sake, but each of them. */
  private static final class Twice extends TransactionTemplate {
    private static final long serialVersionUID = 1;

    Twice(PlatformTransactionManager transactions) {
      super(transactions);
    }

    @Override
    public void executeWithoutResult(Consumer<TransactionStatus> action) {
      super.executeWithoutResult(
          status -> {
            action.accept(status);
            status.setRollbackOnly();
          });
      super.executeWithoutResult(action);
    }
  }

  /** Or each meeting would be found to share its number and passcode with itself. */
  @Test
  public void whatIsTriedAgainCountsOnce() {
    Map<String, Long> before = findings();
    ContinuousAuditWork work =
        new ContinuousAuditWork(
            runs,
            store,
            register,
            lines,
            changes,
            rulebook,
            organisation,
            waivers,
            signals,
            told,
            shared,
            new Twice(transactions),
            json,
            clock);
    try {
      AuditRuns.Known known = runs.known(id);
      Instant now = clock.instant();
      ContinuousAuditWork.Pass pass = work.begin(known.edition(), "change", now, known.to());
      Signals.Reader heard = signals.reader();
      AtomicInteger steps = new AtomicInteger();
      Runnable between =
          () -> {
            steps.incrementAndGet();
            assertTrue(heard.next().contains("standing"), "who keeps counts is told of each step");
          };
      while (!work.page(id, pass, between)) {
        heard.next();
      }
      assertTrue(steps.get() > 0, "nothing was found between meetings");
    } finally {
      work.destroy();
    }
    assertEquals(findings().keySet(), before.keySet());
  }
}
