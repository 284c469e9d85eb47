package app.uprightwarden.server.audit;

import app.uprightwarden.server.judging.FindingView;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Reads what audits found: in the order in which to fix it, and as the wall. */
@Service
public class FindingQueries {
  /** Stands for the hosts that belong to no unit, in filters and counts. */
  public static final String NO_UNIT = "";

  private final AuditRuns runs;
  private final FindingRepository rows;
  private final JsonMapper json;
  private final Counted<Map<Integer, Integer>> counted = new Counted<>();

  FindingQueries(AuditRuns runs, FindingRepository rows, JsonMapper json) {
    this.runs = runs;
    this.rows = rows;
    this.json = json;
  }

  /**
   * A finding as it is listed, with the meeting it is about.
   *
   * @param identity the same for the same finding in every audit
   * @param waiver the waiver that covers it, or null
   * @param seen since when it is known, where that is known
   */
  public record Listed(
      String identity,
      String meeting,
      @Nullable Instant next,
      @Nullable Long waiver,
      @Nullable Instant seen,
      FindingView finding) {}

  /** A page of findings. */
  public record FindingPage(List<Listed> items, int page, int size, int total) {}

  /**
   * What findings are asked for; null filters nothing.
   *
   * @param only of meetings of these units' hosts
   */
  public record FindingFilter(
      @Nullable String meeting,
      @Nullable String check,
      @Nullable String subject,
      @Nullable Integer severity,
      @Nullable String unit,
      @Nullable Boolean waived,
      @Nullable Collection<String> only) {
    public static final FindingFilter OPEN = new FindingFilter(null, null, null, null, null, false);

    public FindingFilter(
        @Nullable String meeting,
        @Nullable String check,
        @Nullable String subject,
        @Nullable Integer severity,
        @Nullable String unit,
        @Nullable Boolean waived) {
      this(meeting, check, subject, severity, unit, waived, null);
    }
  }

  public AuditRun run(long id) {
    return runs.get(id);
  }

  /** Finished and other recorded runs, the newest first. */
  public List<AuditRun> newest(int most) {
    return runs.newest(0, most);
  }

  /**
   * The newest recorded runs that somebody may look at.
   *
   * @param concerns whether a run is for them to see
   */
  @Transactional(readOnly = true)
  public List<AuditRun> newest(int most, Predicate<AuditRun> concerns) {
    List<AuditRun> found = new ArrayList<>();
    int page = Math.max(most, 100);
    for (int from = 0; found.size() < most; from += page) {
      List<AuditRun> some = runs.newest(from, page);
      some.stream().filter(concerns).limit(most - found.size()).forEach(found::add);
      if (some.size() < page) {
        break;
      }
    }
    return found;
  }

  /** Findings in the order in which to fix them, filtered where a filter is not null. */
  @Transactional(readOnly = true)
  public FindingPage findings(long id, FindingFilter filter, int page, int size) {
    Map<String, Object> parameters = new LinkedHashMap<>();
    parameters.put("id", id);
    StringBuilder where = new StringBuilder("where f.audit = :id");
    add(where, parameters, " and f.meeting = :meeting", "meeting", filter.meeting());
    add(where, parameters, " and f.checkId = :check", "check", filter.check());
    add(where, parameters, " and f.subject = :subject", "subject", filter.subject());
    add(where, parameters, " and f.severity >= :severity", "severity", filter.severity());
    if (NO_UNIT.equals(filter.unit())) {
      where.append(
          " and f.meeting in (select m.meeting from AuditedMeetingEntity m where m.audit = :id and"
              + " m.unit is null)");
    } else {
      add(
          where,
          parameters,
          " and f.meeting in (select m.meeting from AuditedMeetingEntity m where m.audit = :id and"
              + " m.unit = :unit)",
          "unit",
          filter.unit());
    }
    if (filter.only() != null) {
      add(
          where,
          parameters,
          " and f.meeting in (select m.meeting from AuditedMeetingEntity m where m.audit = :id and"
              + " m.unit in :only)",
          "only",
          filter.only().isEmpty() ? List.of("") : filter.only());
    }
    if (filter.waived() != null) {
      where.append(filter.waived() ? " and f.waiver is not null" : " and f.waiver is null");
    }
    Map<Integer, Integer> counts =
        counted.get(
            runs.get(id), where + " " + parameters, () -> counts(where.toString(), parameters));
    int total = counts.values().stream().mapToInt(Integer::intValue).sum();
    List<Listed> items = inOrder(idsOf(where.toString(), parameters, counts, page, size));
    return new FindingPage(items, page, size, total);
  }

  private record OfSeverity(int severity, long findings) {}

  private Map<Integer, Integer> counts(String where, Map<String, Object> parameters) {
    Map<Integer, Integer> counts = new LinkedHashMap<>();
    rows.query(
            "select f.severity, count(*) from FindingEntity f "
                + where
                + " group by f.severity order by f.severity desc",
            OfSeverity.class,
            parameters,
            0,
            Integer.MAX_VALUE)
        .forEach(row -> counts.put(row.severity(), Math.toIntExact(row.findings())));
    return counts;
  }

  /**
   * The ids of a page, the gravest first. Only the severities that are on the page are sorted, and
   * without the findings' long texts.
   */
  private List<Long> idsOf(
      String where,
      Map<String, Object> parameters,
      Map<Integer, Integer> counts,
      int page,
      int size) {
    List<Long> ids = new ArrayList<>();
    long skip = (long) page * size;
    for (Map.Entry<Integer, Integer> count : counts.entrySet()) {
      if (skip < count.getValue() && ids.size() < size) {
        Map<String, Object> all = new LinkedHashMap<>(parameters);
        all.put("of", count.getKey());
        ids.addAll(
            rows.query(
                "select f.id from FindingEntity f "
                    + where
                    + " and f.severity = :of order by f.undated, f.nextStart, f.invited desc, f.id",
                Long.class,
                all,
                skip,
                size - ids.size()));
      }
      skip = Math.max(0, skip - count.getValue());
    }
    return ids;
  }

  private List<Listed> inOrder(List<Long> ids) {
    if (ids.isEmpty()) {
      return List.of();
    }
    Map<Long, Listed> found = new HashMap<>();
    rows.findings(ids).forEach(row -> found.put(row.id, listed(row)));
    return ids.stream().map(found::get).filter(Objects::nonNull).toList();
  }

  /**
   * The open findings of some meetings, in the order in which to fix them.
   *
   * @param most how many at most
   */
  @Transactional(readOnly = true)
  public List<Listed> openOf(long id, Collection<String> meetings, int most) {
    if (meetings.isEmpty()) {
      return List.of();
    }
    return inOrder(rows.openOf(id, meetings, most));
  }

  private static void add(
      StringBuilder where,
      Map<String, Object> parameters,
      String condition,
      String name,
      @Nullable Object value) {
    if (value != null) {
      where.append(condition);
      parameters.put(name, value);
    }
  }

  Listed listed(FindingEntity row) {
    return new Listed(
        String.join("|", row.meeting, row.occurrence, row.checkId, row.subject),
        row.meeting,
        row.nextStart,
        row.waiver,
        row.seenAt,
        FindingView.read(
            json,
            row.detail,
            new FindingView.Columns(row.checkId, row.family, row.severity, row.occurrence)));
  }

  /** For a list in a query: it may not be empty, and no unit has an empty name. */
  static Collection<String> named(@Nullable Collection<String> units) {
    return units == null || units.isEmpty() ? List.of("") : units;
  }

  /**
   * The meetings with a finding this grave, in the order in which to mend them.
   *
   * @param units only of these units' hosts; null for all
   * @return titles by meeting
   */
  @Transactional(readOnly = true)
  public Map<String, String> worst(
      long id, int severity, @Nullable Collection<String> units, int most) {
    Map<String, String> titles = new LinkedHashMap<>();
    rows.worst(id, severity, units == null, named(units), most)
        .forEach(row -> titles.put(row.meeting(), row.title()));
    return titles;
  }

  /**
   * A finding with the meeting it is about, as reports have it.
   *
   * @param judgedSet the number of the control values judged, or null in audits of before
   */
  public record Reported(
      Listed found,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      double exposure,
      @Nullable Long judgedSet) {}

  /** Every finding in the order in which to fix them, without holding them all. */
  @Transactional(readOnly = true)
  public void each(long id, Consumer<Reported> consumer) {
    rows.each(
        id,
        row ->
            consumer.accept(
                new Reported(
                    listed(row.finding()),
                    row.meeting().title,
                    row.meeting().host,
                    row.meeting().unit,
                    row.meeting().kind,
                    row.meeting().exposure / 10.0,
                    row.meeting().judgedSet)));
  }

  /** The numbers of the sets of control values that an audit judged. */
  @Transactional(readOnly = true)
  public List<Long> judgedSets(long id) {
    return rows.judgedSets(id);
  }

  /** A meeting as an audit has it. */
  public record Audited(
      String meeting,
      String title,
      String host,
      @Nullable String unit,
      double exposure,
      @Nullable Instant next,
      int invited,
      int findings,
      int worst,
      int waived,
      @Nullable Long judgedSet) {}

  /**
   * The most exposed meetings that are held before a time.
   *
   * @param units only of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public List<Audited> soon(long id, Instant until, @Nullable Collection<String> units, int most) {
    return rows.soon(id, until, units == null, named(units), most).stream()
        .map(FindingQueries::audited)
        .toList();
  }

  /** Some meetings by their ids. */
  @Transactional(readOnly = true)
  public Map<String, Audited> audited(long id, Collection<String> meetings) {
    Map<String, Audited> found = new HashMap<>();
    if (!meetings.isEmpty()) {
      rows.audited(id, meetings).forEach(row -> found.put(row.meeting, audited(row)));
    }
    return found;
  }

  /** The most exposed of some meetings that are held before a time. */
  @Transactional(readOnly = true)
  public List<Audited> soonAmong(long id, Instant until, Collection<String> meetings, int most) {
    if (meetings.isEmpty()) {
      return List.of();
    }
    return rows.soonAmong(id, until, meetings, most).stream().map(FindingQueries::audited).toList();
  }

  /**
   * The meetings that are held before a time, the soonest first and of those the most exposed.
   *
   * @param from the first, from 0
   */
  @Transactional(readOnly = true)
  public List<Audited> due(long id, Instant until, int from, int most) {
    return rows.due(id, until, from, most).stream().map(FindingQueries::audited).toList();
  }

  /**
   * How many meetings are held before a time.
   *
   * @param units only of these units' hosts; null for all
   */
  @Transactional(readOnly = true)
  public int countSoon(long id, Instant until, @Nullable Collection<String> units) {
    return Math.toIntExact(rows.countSoon(id, until, units == null, named(units)));
  }

  /** Every meeting of an audit, without holding them all. */
  @Transactional(readOnly = true)
  public void eachMeeting(long id, Consumer<Audited> consumer) {
    rows.eachMeeting(id, row -> consumer.accept(audited(row)));
  }

  private static Audited audited(AuditedMeetingEntity row) {
    return new Audited(
        row.meeting,
        row.title,
        row.host,
        row.unit,
        row.exposure / 10.0,
        row.nextStart,
        row.invited,
        row.findings,
        row.worst,
        row.waived,
        row.judgedSet);
  }

  /**
   * Which of some findings are open in the standing audit, by their identities.
   *
   * @return empty where it has not been through everything yet
   */
  @Transactional(readOnly = true)
  public Optional<Set<String>> openInStanding(Collection<String> meetings) {
    AuditRun standing = runs.standing().orElse(null);
    if (standing == null || runs.known(standing.id()).renewedAt() == null) {
      return Optional.empty();
    }
    Set<String> open = new HashSet<>();
    if (!meetings.isEmpty()) {
      rows.openIdentities(standing.id(), meetings)
          .forEach(
              row ->
                  open.add(
                      String.join(
                          "|", row.meeting(), row.occurrence(), row.checkId(), row.subject())));
    }
    return Optional.of(open);
  }

  /**
   * Notes that the report of an audit is written, in the transaction that writes it.
   *
   * @return false where it was written before
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public boolean noteReported(long id) {
    return runs.noteReported(id);
  }

  /** The titles that meetings had. */
  @Transactional(readOnly = true)
  public Map<String, String> titles(long id, Collection<String> meetings) {
    Map<String, String> titles = new LinkedHashMap<>();
    if (!meetings.isEmpty()) {
      rows.titles(id, meetings).forEach(row -> titles.put(row.meeting(), row.title()));
    }
    return titles;
  }
}
