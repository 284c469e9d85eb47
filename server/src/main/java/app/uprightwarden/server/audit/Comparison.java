package app.uprightwarden.server.audit;

import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.MeetingVersions;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Two audits held against each other, by what makes a finding the same in both. */
@Service
public class Comparison {
  private static final String SAME =
      " b.meeting = a.meeting and b.occurrence = a.occurrence and b.checkId = a.checkId and"
          + " b.subject = a.subject";
  private static final String OF =
      " from FindingEntity a join AuditedMeetingEntity m on m.audit = a.audit and m.meeting ="
          + " a.meeting";
  private static final String NOT_OPEN_THERE =
      " and a.waiver is null and (b.id is null or b.waiver is not null)";

  /**
   * One side of a comparison.
   *
   * @param reason an expression that says why a finding is on it
   * @param from what it is asked of, with its conditions
   */
  private record Side(String reason, String from) {}

  /** What is open in the earlier and not in the later, and why. */
  private static final Side GONE =
      new Side(
          "case when b.waiver is not null then 'waived' when n.meeting is null or n.nextStart is"
              + " null then 'over' when :otherEdition = true and m.judgedSet = n.judgedSet then"
              + " 'rule' else 'mended' end",
          OF
              + " left join FindingEntity b on b.audit = :later and"
              + SAME
              + " left join AuditedMeetingEntity n on n.audit = :later and n.meeting = a.meeting"
              + " where a.audit = :earlier"
              + NOT_OPEN_THERE);

  /** What is open in the later and not in the earlier, and why. */
  private static final Side NEW =
      new Side(
          "case when b.waiver is not null then 'unwaived' when exists (select 1 from FindingEntity"
              + " p join AuditRunEntity r on r.id = p.audit where p.meeting = a.meeting and"
              + " p.checkId = a.checkId and p.subject = a.subject and p.occurrence = a.occurrence"
              + " and p.waiver is null and r.state = 'done' and r.startedAt < :began) then 'back'"
              + " when n.meeting is null then 'scheduled' when :otherEdition = true and m.judgedSet"
              + " = n.judgedSet then 'rule' when m.judgedSet = n.judgedSet then 'around' else"
              + " 'changed' end",
          OF
              + " left join FindingEntity b on b.audit = :earlier and"
              + SAME
              + " left join AuditedMeetingEntity n on n.audit = :earlier and n.meeting = a.meeting"
              + " where a.audit = :later"
              + NOT_OPEN_THERE);

  private static final Side STILL =
      new Side(
          "'still'",
          OF
              + " join FindingEntity b on b.audit = :earlier and"
              + SAME
              + " and b.waiver is null where a.audit = :later and a.waiver is null");

  private static final int MAX_DRIFTED = 200;
  private static final int MAX_LOOKED_AT = 400;
  private static final int RECENT = 8;

  private final AuditRuns runs;
  private final FindingQueries reading;
  private final MeetingVersions versions;
  private final RulebookService rulebook;
  private final FindingRepository rows;

  Comparison(
      AuditRuns runs,
      FindingQueries reading,
      MeetingVersions versions,
      RulebookService rulebook,
      FindingRepository rows) {
    this.runs = runs;
    this.reading = reading;
    this.versions = versions;
    this.rulebook = rulebook;
    this.rows = rows;
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
  public record Moved(String reason, String title, FindingQueries.Listed found) {}

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
    int still = Math.toIntExact(total(STILL, null, parameters));
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
        "began", earlier.startedAt());
  }

  private record Counted(String reason, long findings) {}

  private Map<String, Integer> counted(Side side, Map<String, Object> parameters) {
    Map<String, Integer> counts = new LinkedHashMap<>();
    String hql =
        "select %s as reason, count(*) as total %s group by reason order by total desc"
            .formatted(side.reason(), side.from());
    rows.query(hql, Counted.class, used(hql, parameters), 0, Integer.MAX_VALUE)
        .forEach(row -> counts.put(row.reason(), Math.toIntExact(row.findings())));
    return counts;
  }

  private long total(Side side, @Nullable String reason, Map<String, Object> parameters) {
    String hql = "select count(*) " + side.from() + because(side, reason);
    return rows.query(hql, Long.class, used(hql, parameters), 0, 1).get(0);
  }

  private static String because(Side side, @Nullable String reason) {
    return reason == null ? "" : " and " + side.reason() + " = :reason";
  }

  /** Those parameters that a question has. */
  private static Map<String, Object> used(String hql, Map<String, Object> parameters) {
    Map<String, Object> used = new LinkedHashMap<>(parameters);
    used.keySet().removeIf(name -> !hql.contains(":" + name));
    return used;
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
    Side of =
        switch (side) {
          case "come" -> NEW;
          case "gone" -> GONE;
          case "still" -> STILL;
          default -> throw ProblemException.notFound("A comparison has come, gone and still.");
        };
    Map<String, Object> parameters = new LinkedHashMap<>(parameters(earlier, later));
    if (reason != null) {
      parameters.put("reason", reason);
    }
    String hql =
        "select %s as reason, m.title, a %s order by a.severity desc, a.undated, a.nextStart, a.id"
            .formatted(of.reason(), of.from() + because(of, reason));
    List<Moved> items =
        rows.query(hql, Row.class, used(hql, parameters), (long) page * size, size).stream()
            .map(row -> new Moved(row.reason(), row.title(), reading.listed(row.finding())))
            .toList();
    return new MovedPage(items, page, size, Math.toIntExact(total(of, reason, parameters)));
  }

  private record Row(String reason, String title, FindingEntity finding) {}

  private record Candidate(
      String meeting, String title, String host, int worst, int findings, Instant clean) {}

  private List<Drift> drifted(AuditRun earlier, AuditRun later) {
    return because(
        rows.drifted(earlier.id(), later.id(), MAX_DRIFTED).stream()
            .map(row -> candidate(row, earlier.startedAt()))
            .toList(),
        later.startedAt());
  }

  /**
   * What in the standing audit was clean in one of the last recorded ones, and what somebody has
   * loosened in the service that holds it, clean before or not: the worst first, and of equally bad
   * ones that first which was changed last.
   *
   * @param units only of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public List<Drift> drifted(AuditRun standing, @Nullable Collection<String> units, int most) {
    List<AuditRun> recent = runs.done(RECENT);
    Collection<String> of = FindingQueries.named(units);
    List<AuditedMeetingEntity> worst = rows.open(standing.id(), units == null, of, MAX_LOOKED_AT);
    if (recent.isEmpty() || worst.isEmpty()) {
      return List.of();
    }
    Map<String, Instant> clean = new HashMap<>();
    rows.clean(
            recent.stream().map(AuditRun::id).toList(),
            worst.stream().map(row -> row.meeting).toList())
        .forEach(row -> clean.put(row.meeting(), row.at()));
    Map<String, Candidate> found = new LinkedHashMap<>();
    for (AuditedMeetingEntity row : worst) {
      Instant since = clean.get(row.meeting);
      if (since != null) {
        found.put(row.meeting, candidate(row, since));
      }
    }
    // what somebody loosened in a service is new, whatever else was wrong with the meeting before
    for (FindingRepository.Loosened each :
        rows.loosenedThere(standing.id(), units == null, of, MAX_LOOKED_AT)) {
      Instant seen = each.seenAt() == null ? standing.startedAt() : each.seenAt();
      AuditedMeetingEntity row = each.meeting();
      recent.stream()
          .map(AuditRun::startedAt)
          .filter(at -> at.isBefore(seen))
          .max(Comparator.naturalOrder())
          .ifPresent(since -> found.putIfAbsent(row.meeting, candidate(row, since)));
    }
    List<Candidate> drifted = List.copyOf(found.values());
    // of equally bad ones that first which happened last
    return because(drifted, null).stream()
        .sorted(
            Comparator.comparingInt(Drift::worst)
                .reversed()
                .thenComparing(Drift::at, Comparator.nullsLast(Comparator.reverseOrder())))
        .limit(most)
        .toList();
  }

  private static Candidate candidate(AuditedMeetingEntity row, Instant since) {
    return new Candidate(row.meeting, row.title, row.host, row.worst, row.findings, since);
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
