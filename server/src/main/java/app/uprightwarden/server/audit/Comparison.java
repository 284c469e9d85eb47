package app.uprightwarden.server.audit;

import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.rulebook.RulebookService;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Two audits held against each other, by what makes a finding the same in both. */
@Service
public class Comparison {
  private static final String SAME =
      " b.meeting = a.meeting and b.occurrence = a.occurrence and b.check_id = a.check_id and"
          + " b.subject = a.subject";

  /** What is open in the earlier and not in the later, and why. */
  private static final String GONE =
      "select a.*, m.title, m.unit, case when b.waiver is not null then 'waived' when n.meeting is"
          + " null or n.next_start is null then 'over' when :otherEdition and m.judged_set ="
          + " n.judged_set then 'rule' else 'mended' end reason from finding a join audited_meeting"
          + " m on m.audit = a.audit and m.meeting = a.meeting left join finding b on b.audit ="
          + " :later and"
          + SAME
          + " left join audited_meeting n on n.audit = :later and n.meeting = a.meeting where"
          + " a.audit = :earlier and a.waiver is null and (b.id is null or b.waiver is not null)";

  /** What is open in the later and not in the earlier, and why. */
  private static final String NEW =
      "select a.*, m.title, m.unit, case when b.waiver is not null then 'unwaived' when exists"
          + " (select 1 from finding p join audit_run r on r.id = p.audit where p.meeting ="
          + " a.meeting and p.check_id = a.check_id and p.subject = a.subject and p.occurrence ="
          + " a.occurrence and p.waiver is null and r.state = 'done' and r.started_at < :began) then"
          + " 'back' when n.meeting is null then 'scheduled' when :otherEdition and m.judged_set ="
          + " n.judged_set then 'rule' when m.judged_set = n.judged_set then 'around' else 'changed'"
          + " end reason from finding a join"
          + " audited_meeting m on m.audit = a.audit and m.meeting = a.meeting left join finding b"
          + " on b.audit = :earlier and"
          + SAME
          + " left join audited_meeting n on n.audit = :earlier and n.meeting = a.meeting where"
          + " a.audit = :later and a.waiver is null and (b.id is null or b.waiver is not null)";

  private static final String STILL =
      "select a.*, m.title, m.unit, 'still' reason from finding a join audited_meeting m on m.audit"
          + " = a.audit and m.meeting = a.meeting join finding b on b.audit = :earlier and"
          + SAME
          + " and b.waiver is null where a.audit = :later and a.waiver is null";

  private final AuditRuns runs;
  private final AuditReading reading;
  private final MeetingVersions versions;
  private final RulebookService rulebook;
  private final JdbcClient jdbc;

  Comparison(
      AuditRuns runs,
      AuditReading reading,
      MeetingVersions versions,
      RulebookService rulebook,
      JdbcClient jdbc) {
    this.runs = runs;
    this.reading = reading;
    this.versions = versions;
    this.rulebook = rulebook;
    this.jdbc = jdbc;
  }

  /**
   * How two audits differ.
   *
   * @param come by reason: {@code scheduled} in a new meeting, {@code changed} with the meeting,
   *     {@code rule} with the rulebook, {@code around} by something else than its own controls,
   *     {@code unwaived} with a waiver's end, {@code back} where an earlier audit had it
   * @param gone by reason: {@code mended}, {@code waived}, {@code over} with the meeting, {@code
   *     rule} with the rulebook
   * @param drifted meetings that were clean in the earlier and are not in the later
   */
  public record Compared(
      AuditRun earlier,
      AuditRun later,
      Map<String, Integer> come,
      Map<String, Integer> gone,
      int still,
      List<Drift> drifted) {}

  /**
   * A meeting that was clean and is no longer.
   *
   * @param worst severity now, over how many findings
   * @param since when it was last seen clean
   * @param by who changed it last since then, or null where nobody did
   * @param act what that change was; {@code edition} where the rulebook changed instead, {@code
   *     around} where neither did
   */
  public record Drift(
      String meeting,
      String title,
      String host,
      int worst,
      int findings,
      Instant since,
      @Nullable String by,
      @Nullable Instant at,
      String act) {}

  /** A finding in a comparison, and why it is where it is. */
  public record Moved(String reason, String title, AuditReading.Listed found) {}

  /** A page of one side of a comparison. */
  public record MovedPage(List<Moved> items, int page, int size, int total) {}

  @Transactional(readOnly = true)
  public Compared compare(long earlierId, long laterId) {
    AuditRun earlier = ended(earlierId);
    AuditRun later = ended(laterId);
    if (!earlier.scope().equals(later.scope())) {
      throw ProblemException.invalid(
          "These two audits looked at different meetings. Compare audits of the same scope.",
          List.of());
    }
    Map<String, Object> parameters = parameters(earlier, later);
    int still =
        jdbc.sql("select count(*) from (" + STILL + ") s")
            .params(parameters)
            .query(Integer.class)
            .single();
    return new Compared(
        earlier,
        later,
        counted(NEW, parameters),
        counted(GONE, parameters),
        still,
        drifted(earlier, later));
  }

  private AuditRun ended(long id) {
    AuditRun run = runs.get(id);
    if (!run.state().equals("done") && !run.state().equals("standing")) {
      throw ProblemException.conflict(
          "not-done", "Audit " + id + " has not come to its end. Let it go on first.");
    }
    return run;
  }

  private static Map<String, Object> parameters(AuditRun earlier, AuditRun later) {
    return InOrder.map(
        "earlier", earlier.id(),
        "later", later.id(),
        "otherEdition", earlier.edition() != later.edition(),
        "began", AuditRuns.utc(earlier.startedAt()));
  }

  private Map<String, Integer> counted(String side, Map<String, Object> parameters) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    jdbc.sql("select reason, count(*) from (" + side + ") s group by reason order by 2 desc")
        .params(parameters)
        .query((RowCallbackHandler) r -> counts.put(r.getString(1), r.getInt(2)));
    return counts;
  }

  /**
   * One side, the worst first.
   *
   * @param side {@code come}, {@code gone} or {@code still}
   * @param reason only for this reason, or null
   */
  @Transactional(readOnly = true)
  public MovedPage side(
      long earlierId, long laterId, String side, @Nullable String reason, int page, int size) {
    AuditRun earlier = ended(earlierId);
    AuditRun later = ended(laterId);
    String query =
        switch (side) {
          case "come" -> NEW;
          case "gone" -> GONE;
          case "still" -> STILL;
          default -> throw ProblemException.notFound("A comparison has come, gone and still.");
        };
    String where = " from (" + query + ") s" + (reason == null ? "" : " where reason = :reason");
    Map<String, Object> parameters = new LinkedHashMap<>(parameters(earlier, later));
    if (reason != null) {
      parameters.put("reason", reason);
    }
    int total =
        jdbc.sql("select count(*)" + where).params(parameters).query(Integer.class).single();
    List<Moved> items =
        jdbc.sql(
                "select *"
                    + where
                    + " order by severity desc, next_start is null, next_start, id limit :size"
                    + " offset :offset")
            .params(parameters)
            .param("size", size)
            .param("offset", (long) page * size)
            .query(this::moved)
            .list();
    return new MovedPage(items, page, size, total);
  }

  private Moved moved(ResultSet r, int n) throws SQLException {
    return new Moved(r.getString("reason"), r.getString("title"), reading.listed(r, n));
  }

  private record Candidate(
      String meeting, String title, String host, int worst, int findings, Instant clean) {}

  private List<Drift> drifted(AuditRun earlier, AuditRun later) {
    return because(
        jdbc.sql(
                "select n.meeting, n.title, n.host, n.worst, n.findings, :since from"
                    + " audited_meeting m join audited_meeting n on n.audit = :later and n.meeting ="
                    + " m.meeting where m.audit = :earlier and m.findings = 0 and m.waived = 0 and"
                    + " n.findings > 0 order by n.worst desc, n.next_start is null, n.next_start"
                    + " limit 200")
            .param("earlier", earlier.id())
            .param("later", later.id())
            .param("since", AuditRuns.utc(earlier.startedAt()))
            .query(Comparison::candidate)
            .list(),
        later.startedAt());
  }

  /** What in the standing audit was clean in one of the last recorded ones, the worst first. */
  @Transactional(readOnly = true)
  public List<Drift> drifted(AuditRun standing, int most) {
    List<Long> recent =
        jdbc.sql(
                "select id from audit_run where state = 'done' and scope = :all order by started_at"
                    + " desc limit 8")
            .param("all", "{\"unit\":null,\"kind\":null,\"host\":null}")
            .query(Long.class)
            .list();
    if (recent.isEmpty()) {
      return List.of();
    }
    return because(
        jdbc.sql(
                "select n.meeting, n.title, n.host, n.worst, n.findings, max(r.started_at) from"
                    + " (select meeting, title, host, worst, findings, next_start from"
                    + " audited_meeting m where audit = :now and worst > 0 and findings > 0 order by "
                    + Wall.FIX_ORDER
                    + " limit 400) n join"
                    + " audited_meeting m on m.audit in (:recent) and m.meeting = n.meeting and"
                    + " m.findings = 0 and m.waived = 0 join audit_run r on r.id = m.audit group by"
                    + " n.meeting, n.title, n.host, n.worst, n.findings, n.next_start order by"
                    + " n.worst desc, n.next_start is null, n.next_start limit :most")
            .param("now", standing.id())
            .param("recent", recent)
            .param("most", most)
            .query(Comparison::candidate)
            .list(),
        null);
  }

  private static Candidate candidate(ResultSet r, int n) throws SQLException {
    return new Candidate(
        r.getString(1),
        r.getString(2),
        r.getString(3),
        r.getInt(4),
        r.getInt(5),
        AuditRuns.instant(r.getObject(6, java.time.LocalDateTime.class)));
  }

  private List<Drift> because(List<Candidate> candidates, @Nullable Instant until) {
    Map<String, MeetingVersions.Change> last =
        versions.lastChanges(candidates.stream().map(Candidate::meeting).toList(), until);
    List<RulebookService.Edition> editions = rulebook.editions();
    List<Drift> drifted = new ArrayList<>();
    for (Candidate c : candidates) {
      MeetingVersions.Change change = last.get(c.meeting());
      if (change != null && change.at().isAfter(c.clean())) {
        drifted.add(drift(c, change.by(), change.at(), change.act()));
        continue;
      }
      RulebookService.Edition edition =
          editions.stream()
              .filter(e -> e.withdrawnAt() == null && e.effectiveAt().isAfter(c.clean()))
              .filter(e -> until == null || !e.effectiveAt().isAfter(until))
              .reduce((a, b) -> a.number() >= b.number() ? a : b)
              .orElse(null);
      drifted.add(
          edition == null
              ? drift(c, null, null, "around")
              : drift(
                  c,
                  Objects.requireNonNullElse(edition.publishedBy(), ""),
                  edition.effectiveAt(),
                  "edition"));
    }
    return List.copyOf(drifted);
  }

  private static Drift drift(Candidate c, @Nullable String by, @Nullable Instant at, String act) {
    return new Drift(
        c.meeting(), c.title(), c.host(), c.worst(), c.findings(), c.clean(), by, at, act);
  }
}
