package app.uprightwarden.server.audit;

import static app.uprightwarden.server.audit.AuditRuns.utc;

import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes audited meetings and findings in batches. No entities. */
@Component
class FindingStore {
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;

  FindingStore(JdbcClient jdbc, JdbcTemplate batches) {
    this.jdbc = jdbc;
    this.batches = batches;
  }

  /**
   * A meeting's row as it was judged; scores in tenths.
   *
   * @param open findings that no waiver covers, the worst of them, and how many are waived
   */
  record MeetingRow(
      String id,
      String title,
      String host,
      @Nullable String unit,
      @Nullable String kind,
      int exposure,
      int intrusion,
      int disruption,
      @Nullable Instant next,
      @Nullable Instant nextEnd,
      int invited,
      int open,
      int worst,
      int waived,
      long judgedSet,
      long version,
      @Nullable String number,
      @Nullable String passcode) {
    MeetingRow withSet(long set) {
      return new MeetingRow(
          id,
          title,
          host,
          unit,
          kind,
          exposure,
          intrusion,
          disruption,
          next,
          nextEnd,
          invited,
          open,
          worst,
          waived,
          set,
          version,
          number,
          passcode);
    }
  }

  /**
   * A finding's row.
   *
   * @param waiver the waiver that covers it, or null
   * @param seen since when it is known, or null
   * @param detail the whole of it as JSON
   */
  record FindingRow(
      String meeting,
      String occurrence,
      String check,
      String subject,
      String family,
      int severity,
      @Nullable Instant next,
      int invited,
      @Nullable Long waiver,
      @Nullable Instant seen,
      String detail) {
    String identity() {
      return meeting + "|" + occurrence + "|" + check + "|" + subject;
    }

    FindingRow seenSince(@Nullable Instant since) {
      return new FindingRow(
          meeting,
          occurrence,
          check,
          subject,
          family,
          severity,
          next,
          invited,
          waiver,
          since,
          detail);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void write(long audit, List<MeetingRow> meetings, List<FindingRow> findings) {
    batches.batchUpdate(
        "insert into audited_meeting (audit, meeting, title, host, unit, kind, exposure, intrusion,"
            + " disruption, next_start, next_end, invited, findings, worst, waived, judged_set,"
            + " version, number, passcode_fingerprint) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
            + " ?, ?, ?, ?, ?, ?, ?)",
        meetings.stream()
            .map(
                m ->
                    new @Nullable Object[] {
                      audit,
                      m.id(),
                      m.title(),
                      m.host(),
                      m.unit(),
                      m.kind(),
                      m.exposure(),
                      m.intrusion(),
                      m.disruption(),
                      at(m.next()),
                      at(m.nextEnd()),
                      m.invited(),
                      m.open(),
                      m.worst(),
                      m.waived(),
                      m.judgedSet(),
                      m.version(),
                      m.number(),
                      m.passcode()
                    })
            .toList());
    write(audit, findings);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void write(long audit, List<FindingRow> findings) {
    batches.batchUpdate(
        "insert into finding (audit, meeting, occurrence, check_id, subject, family, severity,"
            + " next_start, invited, waiver, seen_at, detail) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
            + " ?, ?)",
        findings.stream()
            .map(
                f ->
                    new @Nullable Object[] {
                      audit,
                      f.meeting(),
                      f.occurrence(),
                      f.check(),
                      f.subject(),
                      f.family(),
                      f.severity(),
                      at(f.next()),
                      f.invited(),
                      f.waiver(),
                      at(f.seen()),
                      f.detail()
                    })
            .toList());
  }

  private static @Nullable LocalDateTime at(@Nullable Instant time) {
    return time == null ? null : utc(time);
  }

  /**
   * Since when findings were known that went with a remedy which was undone since.
   *
   * @param since when it was undone at the earliest
   * @return by their identity
   */
  @Transactional(readOnly = true)
  public Map<String, Instant> seenBeforeUndo(Collection<String> meetings, Instant since) {
    Map<String, Instant> seen = new HashMap<>();
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += 1000) {
      jdbc.sql(
              "select e.meeting, e.occurrence, e.check_id, e.subject, min(e.seen_at) from"
                  + " remedy_item i join remedy_job u on u.id = i.job join remedy_job o on o.id ="
                  + " u.undo_of join finding_event e on e.meeting = i.meeting and e.what = 'gone'"
                  + " and e.at >= o.at and e.seen_at is not null where i.meeting in (:meetings) and"
                  + " i.state = 'done' and i.done_at >= :since group by e.meeting, e.occurrence,"
                  + " e.check_id, e.subject")
          .param("meetings", all.subList(i, Math.min(i + 1000, all.size())))
          .param("since", utc(since))
          .query(
              (RowCallbackHandler)
                  r ->
                      seen.put(
                          r.getString(1)
                              + "|"
                              + r.getString(2)
                              + "|"
                              + r.getString(3)
                              + "|"
                              + r.getString(4),
                          AuditRuns.instant(r.getObject(5, LocalDateTime.class))));
    }
    return seen;
  }

  /** Counts the findings of some meetings again, after the checks between meetings. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void recount(long audit, Collection<String> meetings) {
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += 1000) {
      jdbc.sql(
              "update audited_meeting m left join (select meeting, sum(waiver is null) open,"
                  + " sum(waiver is not null) waived, max(if(waiver is null, severity, 0)) worst"
                  + " from finding where audit = :audit and meeting in (:meetings) group by"
                  + " meeting) f on f.meeting = m.meeting set m.findings = coalesce(f.open, 0),"
                  + " m.waived = coalesce(f.waived, 0), m.worst = coalesce(f.worst, 0) where"
                  + " m.audit = :audit and m.meeting in (:meetings)")
          .param("audit", audit)
          .param("meetings", all.subList(i, Math.min(i + 1000, all.size())))
          .update();
    }
  }

  /**
   * Counts findings in that were written after their meetings were, each for the first time:
   * cheaper than {@link #recount}, which reads all of a meeting's.
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public void countIn(long audit, List<FindingRow> findings) {
    Map<String, int[]> counts = new LinkedHashMap<>();
    for (FindingRow finding : findings) {
      int[] of = counts.computeIfAbsent(finding.meeting(), m -> new int[3]);
      of[finding.waiver() == null ? 0 : 1]++;
      of[2] = Math.max(of[2], finding.waiver() == null ? finding.severity() : 0);
    }
    batches.batchUpdate(
        "update audited_meeting set findings = findings + ?, waived = waived + ?, worst ="
            + " greatest(worst, ?) where audit = ? and meeting = ?",
        counts.entrySet().stream()
            .map(
                e ->
                    new Object[] {
                      e.getValue()[0], e.getValue()[1], e.getValue()[2], audit, e.getKey()
                    })
            .toList());
  }

  /** The counts that trends are drawn of. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void count(long audit) {
    jdbc.sql("delete from audit_count where audit = ?").param(audit).update();
    jdbc.sql("delete from audit_band where audit = ?").param(audit).update();
    jdbc.sql(
            "insert into audit_count (audit, unit, family, severity, open, waived) select f.audit,"
                + " coalesce(m.unit, ''), f.family, f.severity, sum(f.waiver is null),"
                + " sum(f.waiver is not null) from finding f join audited_meeting m on m.audit ="
                + " f.audit and m.meeting = f.meeting where f.audit = ? group by 1, 2, 3, 4")
        .param(audit)
        .update();
    jdbc.sql(
            "insert into audit_band (audit, unit, band, meetings) select audit, coalesce(unit, ''),"
                + " case when exposure < 100 then 'shut' when exposure < 250 then 'guarded' when"
                + " exposure < 500 then 'ajar' else 'open' end, count(*) from audited_meeting where"
                + " audit = ? group by 1, 2, 3")
        .param(audit)
        .update();
  }

  /** What the checks between meetings need to know of an audited meeting. */
  record Audited(
      String meeting,
      String title,
      String host,
      @Nullable String unit,
      @Nullable Instant next,
      int invited) {}

  Map<String, Audited> audited(long audit, Collection<String> meetings) {
    Map<String, Audited> found = new HashMap<>();
    if (!meetings.isEmpty()) {
      jdbc.sql(
              "select meeting, title, host, unit, next_start, invited from audited_meeting where"
                  + " audit = :audit and meeting in (:meetings)")
          .param("audit", audit)
          .param("meetings", meetings)
          .query(
              (RowCallbackHandler)
                  r ->
                      found.put(
                          r.getString(1),
                          new Audited(
                              r.getString(1),
                              r.getString(2),
                              r.getString(3),
                              r.getString(4),
                              AuditRuns.maybe(r.getObject(5, LocalDateTime.class)),
                              r.getInt(6))));
    }
    return found;
  }

  /** A finding that is stored, without its detail. */
  record Old(
      String meeting,
      String occurrence,
      String check,
      String subject,
      String family,
      int severity,
      @Nullable Instant seen) {
    String identity() {
      return meeting + "|" + occurrence + "|" + check + "|" + subject;
    }
  }

  /**
   * The stored findings of some meetings.
   *
   * @param checks only of these
   */
  List<Old> old(long audit, Collection<String> meetings, Collection<String> checks) {
    List<Old> found = new ArrayList<>();
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += 1000) {
      found.addAll(
          jdbc.sql(
                  "select meeting, occurrence, check_id, subject, family, severity, seen_at from"
                      + " finding where audit = :audit and meeting in (:meetings) and"
                      + " check_id in (:checks)")
              .param("audit", audit)
              .param("meetings", all.subList(i, Math.min(i + 1000, all.size())))
              .param("checks", checks)
              .query(FindingStore::readOld)
              .list());
    }
    return found;
  }

  private static Old readOld(ResultSet r, int n) throws SQLException {
    return new Old(
        r.getString(1),
        r.getString(2),
        r.getString(3),
        r.getString(4),
        r.getString(5),
        r.getInt(6),
        AuditRuns.maybe(r.getObject(7, LocalDateTime.class)));
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void deleteFindings(long audit, Collection<String> meetings, Collection<String> checks) {
    List<String> all = List.copyOf(meetings);
    for (int i = 0; i < all.size(); i += 1000) {
      jdbc.sql(
              "delete from finding where audit = :audit and meeting in (:meetings) and"
                  + " check_id in (:checks)")
          .param("audit", audit)
          .param("meetings", all.subList(i, Math.min(i + 1000, all.size())))
          .param("checks", checks)
          .update();
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void deleteMeetings(long audit, Collection<String> meetings) {
    if (!meetings.isEmpty()) {
      jdbc.sql("delete from audited_meeting where audit = :audit and meeting in (:meetings)")
          .param("audit", audit)
          .param("meetings", meetings)
          .update();
    }
  }

  /** Every stored finding of some checks, whatever its meeting. */
  List<Old> oldOf(long audit, Collection<String> checks) {
    return jdbc.sql(
            "select meeting, occurrence, check_id, subject, family, severity, seen_at from finding"
                + " where audit = :audit and check_id in (:checks)")
        .param("audit", audit)
        .param("checks", checks)
        .query(FindingStore::readOld)
        .list();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void deleteOf(long audit, Collection<String> checks) {
    jdbc.sql("delete from finding where audit = :audit and check_id in (:checks)")
        .param("audit", audit)
        .param("checks", checks)
        .update();
  }

  /** Audited meetings that are in the register no more. */
  List<String> gone(long audit) {
    return jdbc.sql(
            "select a.meeting from audited_meeting a left join meeting m on m.public_id = a.meeting"
                + " where a.audit = ? and m.id is null")
        .param(audit)
        .query(String.class)
        .list();
  }

  /** What audited meetings shared with others when they were audited. */
  record Shared(String host, @Nullable String number, @Nullable String passcode) {}

  List<Shared> shared(long audit, Collection<String> meetings) {
    return jdbc.sql(
            "select host, number, passcode_fingerprint from audited_meeting where audit = :audit"
                + " and meeting in (:meetings)")
        .param("audit", audit)
        .param("meetings", meetings)
        .query((r, n) -> new Shared(r.getString(1), r.getString(2), r.getString(3)))
        .list();
  }

  /** What came or went, for the record. */
  record Event(
      String what,
      String cause,
      @Nullable String by,
      String title,
      @Nullable String unit,
      Old finding) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void note(Instant at, List<Event> events) {
    batches.batchUpdate(
        "insert into finding_event (at, what, cause, by_whom, meeting, title, unit, occurrence,"
            + " check_id, subject, family, severity, seen_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
            + " ?, ?, ?)",
        events.stream()
            .map(
                e ->
                    new @Nullable Object[] {
                      utc(at),
                      e.what(),
                      e.cause(),
                      e.by(),
                      e.finding().meeting(),
                      e.title(),
                      e.unit(),
                      e.finding().occurrence(),
                      e.finding().check(),
                      e.finding().subject(),
                      e.finding().family(),
                      e.finding().severity(),
                      at(e.finding().seen())
                    })
            .toList());
  }

  /** Notes what one recorded audit had and the next has not, as mended when that was run. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void noteGone(long earlier, AuditRun later) {
    jdbc.sql(
            "insert into finding_event (at, what, cause, by_whom, meeting, title, unit, occurrence,"
                + " check_id, subject, family, severity, seen_at) select :at, 'gone', 'change',"
                + " :by, a.meeting, m.title, m.unit, a.occurrence, a.check_id, a.subject, a.family,"
                + " a.severity, (select min(r.started_at) from finding p join audit_run r on r.id ="
                + " p.audit where p.meeting = a.meeting and p.check_id = a.check_id and p.subject ="
                + " a.subject and p.occurrence = a.occurrence) from finding a join audited_meeting m"
                + " on m.audit = a.audit and m.meeting = a.meeting left join finding b on b.audit ="
                + " :later and b.meeting = a.meeting and b.occurrence = a.occurrence and b.check_id"
                + " = a.check_id and b.subject = a.subject where a.audit = :earlier and b.id is"
                + " null")
        .param("at", utc(later.startedAt()))
        .param("by", later.startedBy())
        .param("earlier", earlier)
        .param("later", later.id())
        .update();
  }
}
