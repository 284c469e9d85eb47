package app.uprightwarden.server.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;
import static org.testng.Assert.fail;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.register.MeetingLines;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Iterator;
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
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Going through everything again: after an edition, a change of people, a day. */
@DirtiesContext
@TestPropertySource(properties = "test.schema=warden_renewal")
public class RenewalTest extends ServerTest {
  private static final String FINDINGS =
      "select concat_ws('|', f.meeting, f.occurrence, f.check_id, f.subject, f.severity,"
          + " f.seen_at, sha1(f.detail)) as what, f.id as number from finding f where f.audit = ?";

  @Autowired private ContinuousAudit standing;
  @Autowired private AuditWriter writer;
  @Autowired private ChangeWork changed;
  @Autowired private AuditRuns runs;
  @Autowired private FindingStore store;
  @Autowired private RegisterService register;
  @Autowired private MeetingLines lines;
  @Autowired private RegisterChanges changes;
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

  private PassWork passes(TransactionTemplate template, int pageSize) {
    return new PassWork(
        writer, runs, store, register, changes, signals, told, shared, template, clock, pageSize);
  }

  /** What the audit and the lists say of each meeting, and what is found, but since when. */
  private List<String> said() {
    List<String> said = new ArrayList<>();
    said.addAll(
        jdbc.sql(
                "select concat_ws('|', a.meeting, a.title, a.host, a.unit, a.kind, a.exposure,"
                    + " a.intrusion, a.disruption, a.next_start, a.next_end, a.invited,"
                    + " a.findings, a.worst, a.waived, a.shared_key, l.host_name,"
                    + " ifnull(l.unit, '-'), hex(l.search_text), ifnull(l.next_start, '-'),"
                    + " l.occurrences, l.exposure, l.findings, l.worst, l.invited)"
                    + " from audited_meeting a join meeting_line l on l.meeting = a.meeting"
                    + " where a.audit = ? order by a.meeting")
            .param(id)
            .query(String.class)
            .list());
    said.addAll(
        jdbc.sql(
                "select concat_ws('|', meeting, occurrence, check_id, subject, severity, waiver,"
                    + " detail) as what from finding where audit = ? order by what")
            .param(id)
            .query(String.class)
            .list());
    return said;
  }

  private void nothingWasFoundYet() {
    jdbc.sql("delete from finding where audit = ?").param(id).update();
    jdbc.sql("delete from audited_meeting where audit = ?").param(id).update();
    jdbc.sql(
            "update meeting_line set next_start = null, occurrences = null, exposure = null,"
                + " findings = 0, worst = 0, invited = 0, host_name = '?', unit = null,"
                + " search_text = null")
        .update();
  }

  /**
   * Something leaves what is said as it is. A meeting that begins or ends meanwhile changes what is
   * said, too: then all of it once more.
   */
  private void leavesItAsItIs(Runnable something) {
    for (int tried = 0; tried < 5; tried++) {
      again();
      List<String> before = said();
      assertTrue(before.size() > 200, before.size() + " rows");
      something.run();
      List<String> since = said();
      again();
      if (said().equals(before)) {
        assertEquals(since, before);
        return;
      }
    }
    fail("what is said is never the same twice");
  }

  /** What is written without looking for what was there is the same as with it. */
  @Test
  public void theFirstWaySaysWhatTheNextOnesSay() {
    leavesItAsItIs(
        () -> {
          nothingWasFoundYet();
          again();
        });
    assertEquals(count("select count(*) from meeting_line where search_text is null"), 0);
    assertTrue(count("select count(*) from meeting_line where unit is null") > 0, "no unit");
  }

  /** Also of one that is no more to come, and of one that the register has no more. */
  @Test
  public void linesAreWrittenAsTheyWereJudged() {
    String one = "select %s from meeting_line where meeting = 'm-0001'";
    String host = jdbc.sql(String.format(one, "host")).query(String.class).single();
    String title = jdbc.sql(String.format(one, "title")).query(String.class).single();
    Instant next = Instant.parse("2031-02-28T23:59:59.987Z");
    for (Instant at : new Instant[] {next, null}) {
      new TransactionTemplate(transactions)
          .executeWithoutResult(
              status ->
                  lines.judged(
                      List.of(
                          new MeetingLines.Judged("m-0001", host, at, 17, 999, 4, 5, 66),
                          new MeetingLines.Judged("no such", host, at, 18, 998, 3, 4, 65))));
      assertEquals(
          jdbc.sql(
                  String.format(
                      one,
                      "concat_ws('|', title, ifnull(next_start, '-'), occurrences, exposure,"
                          + " findings, worst, invited)"))
              .query(String.class)
              .single(),
          title + "|" + (at == null ? "-" : "2031-02-28 23:59:59.987") + "|17|999|4|5|66");
    }
    assertEquals(count("select count(*) from meeting_line where meeting = 'no such'"), 0);
    again();
    assertEquals(count("select count(*) from meeting_line where exposure = 999"), 0);
  }

  private int count(String sql) {
    return jdbc.sql(sql).query(Integer.class).single();
  }

  @DataProvider
  public Object[][] whens() {
    return new Object[][] {{"among the pages"}, {"at the end alone"}};
  }

  /** Meetings that change while everything is gone through for the first time are in it once. */
  @Test(dataProvider = "whens")
  public void whatChangesOnTheFirstWayIsWrittenOnce(String when) {
    leavesItAsItIs(
        () -> {
          List<String> sharing = sharing();
          nothingWasFoundYet();
          firstWay(sharing, when.startsWith("among"));
        });
  }

  /** Meetings in which something between meetings was found; the last in the register first. */
  private List<String> sharing() {
    List<String> sharing =
        jdbc.sql(
                "select distinct f.meeting from finding f join meeting m on m.public_id = f.meeting"
                    + " where f.audit = ? and f.check_id in ('number-spillover',"
                    + " 'reused-passcode', 'host-double-booked') order by m.id desc")
            .param(id)
            .query(String.class)
            .list();
    assertTrue(sharing.size() > 4, sharing.toString());
    return sharing;
  }

  private void firstWay(List<String> sharing, boolean amongPages) {
    PassWork passes = passes(new TransactionTemplate(transactions), 2);
    try {
      AuditRuns.Known known = runs.known(id);
      Pass pass = passes.begin(id, known.edition(), "change", clock.instant(), known.to());
      Iterator<String> next = sharing.iterator();
      AtomicInteger steps = new AtomicInteger();
      Runnable between =
          () -> {
            // the first step is by itself, the next meets what was looked at after it
            if (steps.incrementAndGet() == 1) {
              sharing.forEach(meeting -> changed(pass, meeting));
            }
          };
      int pages = 0;
      while (!passes.page(id, pass, between)) {
        if (amongPages && pages++ % 5 == 2 && next.hasNext()) {
          // not gone through yet: numbers go up
          changed(pass, next.next());
        }
      }
      assertTrue(steps.get() > 2, steps + " steps between meetings");
    } finally {
      passes.destroy();
    }
  }

  /** In one transaction, so that the audit at work beside this sees nothing of it. */
  private void changed(Pass pass, String meeting) {
    new TransactionTemplate(transactions)
        .executeWithoutResult(
            status -> {
              jdbc.sql("insert into meeting_due (meeting) values (?)").param(meeting).update();
              // as where it shared something else: what it shares is looked at, too
              jdbc.sql(
                      "update audited_meeting set shared_key = null where audit = ? and meeting = ?")
                  .params(id, meeting)
                  .update();
              AuditRuns.Known known = runs.known(id);
              changed.refresh(
                  id, writer.auditor(known.edition(), clock.instant(), known.to()), 200, pass);
            });
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
    PassWork passes = passes(new Twice(transactions), 500);
    try {
      AuditRuns.Known known = runs.known(id);
      Instant now = clock.instant();
      Pass pass = passes.begin(id, known.edition(), "change", now, known.to());
      Signals.Reader heard = signals.reader();
      AtomicInteger steps = new AtomicInteger();
      Runnable between =
          () -> {
            steps.incrementAndGet();
            assertTrue(heard.next().contains("standing"), "who keeps counts is told of each step");
          };
      while (!passes.page(id, pass, between)) {
        heard.next();
      }
      assertTrue(steps.get() > 0, "nothing was found between meetings");
    } finally {
      passes.destroy();
    }
    assertEquals(findings().keySet(), before.keySet());
  }
}
