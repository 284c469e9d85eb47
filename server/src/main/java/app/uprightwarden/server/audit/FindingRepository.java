package app.uprightwarden.server.audit;

import app.uprightwarden.server.persistence.BuiltQuery;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** What audits found, in which meetings, and how that is counted. */
@Repository
@Transactional
interface FindingRepository {
  int ROWS_AT_ONCE = 500;

  /** Of audited meetings {@code m}; there is an index in this order. */
  String FIX_ORDER = "m.worst desc, m.undated, m.nextStart, m.invited desc, m.meeting";

  StatelessSession session();

  @Insert
  void insertMeetings(List<AuditedMeetingEntity> meetings);

  @Insert
  void insertFindings(List<FindingEntity> findings);

  @Insert
  void insertEvents(List<FindingEventEntity> events);

  /** Writes changed rows in one batch. */
  default void updateMeetings(List<AuditedMeetingEntity> meetings) {
    session().updateMultiple(meetings);
  }

  @HQL("from AuditedMeetingEntity where audit = :audit and meeting in :meetings")
  List<AuditedMeetingEntity> audited(long audit, Collection<String> meetings);

  /** What was found in a meeting: how many open and waived, and the worst of the open. */
  record Counted(String meeting, long open, long waived, int worst) {}

  @HQL(
      "select meeting, sum(case when waiver is null then 1L else 0L end),"
          + " sum(case when waiver is null then 0L else 1L end),"
          + " max(case when waiver is null then severity else 0 end)"
          + " from FindingEntity where audit = :audit and meeting in :meetings group by meeting")
  List<Counted> counted(long audit, Collection<String> meetings);

  @HQL(
      "select meeting, sum(case when waiver is null then 1L else 0L end),"
          + " sum(case when waiver is null then 0L else 1L end),"
          + " max(case when waiver is null then severity else 0 end)"
          + " from FindingEntity where audit = :audit and meeting in :meetings"
          + " and checkId in :checks group by meeting")
  List<Counted> countedBy(long audit, Collection<String> meetings, Collection<String> checks);

  @HQL(
      "update AuditedMeetingEntity set findings = :open, waived = :waived, worst = :worst"
          + " where audit = :audit and meeting in :meetings")
  int setCounts(long audit, Collection<String> meetings, int open, int waived, int worst);

  /** Many meetings have the same counts: those are written together. */
  default void setCounts(long audit, Collection<String> meetings, FindingStore.Count count) {
    setCounts(audit, meetings, count.open(), count.waived(), count.worst());
  }

  @HQL(
      "update AuditedMeetingEntity set findings = findings + :open, waived = waived + :waived,"
          + " worst = case when worst < :worst then :worst else worst end"
          + " where audit = :audit and meeting in :meetings")
  int addCounts(long audit, Collection<String> meetings, int open, int waived, int worst);

  /** The same with what was found besides. */
  default void addCounts(long audit, Collection<String> meetings, FindingStore.Count count) {
    addCounts(audit, meetings, count.open(), count.waived(), count.worst());
  }

  @HQL("delete from AuditCountEntity where audit = :audit")
  int deleteCounts(long audit);

  @HQL("delete from AuditBandEntity where audit = :audit")
  int deleteBands(long audit);

  @HQL(
      "insert into AuditCountEntity (audit, unit, family, severity, open, waived)"
          + " select f.audit, coalesce(m.unit, ''), f.family, f.severity,"
          + " cast(sum(case when f.waiver is null then 1 else 0 end) as Integer),"
          + " cast(sum(case when f.waiver is null then 0 else 1 end) as Integer)"
          + " from FindingEntity f join AuditedMeetingEntity m on m.audit = f.audit"
          + " and m.meeting = f.meeting where f.audit = :audit"
          + " group by f.audit, coalesce(m.unit, ''), f.family, f.severity")
  int count(long audit);

  @HQL(
      "insert into AuditBandEntity (audit, unit, band, meetings)"
          + " select m.audit, coalesce(m.unit, ''),"
          + " case when m.exposure < 100 then 'shut' when m.exposure < 250 then 'guarded'"
          + " when m.exposure < 500 then 'ajar' else 'open' end, cast(count(*) as Integer)"
          + " from AuditedMeetingEntity m where m.audit = :audit"
          + " group by m.audit, coalesce(m.unit, ''),"
          + " case when m.exposure < 100 then 'shut' when m.exposure < 250 then 'guarded'"
          + " when m.exposure < 500 then 'ajar' else 'open' end")
  int countBands(long audit);

  @HQL(
      "select meeting, occurrence, checkId, subject, family, severity, seenAt from FindingEntity"
          + " where audit = :audit and meeting in :meetings and checkId in :checks")
  List<FindingStore.Old> old(long audit, Collection<String> meetings, Collection<String> checks);

  @HQL("where audit = :audit and meeting in :meetings and checkId in :checks")
  List<FindingEntity> whole(long audit, Collection<String> meetings, Collection<String> checks);

  @HQL(
      "select meeting, occurrence, checkId, subject, family, severity, seenAt from FindingEntity"
          + " where id in :ids")
  List<FindingStore.Old> old(Collection<Long> ids);

  @HQL(
      "select id from FindingEntity where audit = :audit and meeting in :meetings"
          + " and checkId in :checks")
  List<Long> ids(long audit, Collection<String> meetings, Collection<String> checks);

  /** The numbers of all findings of some checks, in order; there may be millions. */
  default long[] ids(long audit, Collection<String> checks) {
    try (Stream<Long> ids =
        session()
            .createSelectionQuery(
                "select id from FindingEntity where audit = :audit and checkId in :checks",
                Long.class)
            .setParameter("audit", audit)
            .setParameter("checks", checks)
            .setFetchSize(ROWS_AT_ONCE)
            .getResultStream()) {
      return ids.mapToLong(Long::longValue).sorted().toArray();
    }
  }

  @HQL(
      "delete from FindingEntity where audit = :audit and meeting in :meetings"
          + " and checkId in :checks")
  int deleteFindings(long audit, Collection<String> meetings, Collection<String> checks);

  @HQL("delete from AuditedMeetingEntity where audit = :audit and meeting in :meetings")
  int deleteMeetings(long audit, Collection<String> meetings);

  @HQL(
      "select meeting from AuditedMeetingEntity where audit = :audit and meeting > :after"
          + " order by meeting limit :most")
  List<String> meetingsAfter(long audit, String after, int most);

  @HQL(
      "select meeting from AuditedMeetingEntity where audit = :audit and nextEnd < :until"
          + " limit :most")
  List<String> over(long audit, Instant until, int most);

  @HQL("select count(*) from AuditedMeetingEntity where audit = :audit")
  long countMeetings(long audit);

  @HQL("select count(*) from FindingEntity where audit = :audit")
  long countFindings(long audit);

  @HQL("where meeting in :meetings and what = 'gone' and at >= :since and seenAt is not null")
  List<FindingEventEntity> goneSince(Collection<String> meetings, Instant since);

  /** A finding that is in one audit and not in another, and since when it was known. */
  record Gone(FindingEntity finding, String title, @Nullable String unit, @Nullable Instant seen) {}

  @HQL(
      "select a, m.title, m.unit, (select min(r.startedAt) from FindingEntity p"
          + " join AuditRunEntity r on r.id = p.audit where p.meeting = a.meeting"
          + " and p.checkId = a.checkId and p.subject = a.subject and p.occurrence = a.occurrence)"
          + " from FindingEntity a join AuditedMeetingEntity m on m.audit = a.audit"
          + " and m.meeting = a.meeting left join FindingEntity b on b.audit = :later"
          + " and b.meeting = a.meeting and b.occurrence = a.occurrence and b.checkId = a.checkId"
          + " and b.subject = a.subject where a.audit = :earlier and b.id is null")
  List<Gone> gone(long earlier, long later);

  @HQL("from FindingEntity where id in :ids")
  List<FindingEntity> findings(Collection<Long> ids);

  @HQL(
      "select f.id from FindingEntity f where f.audit = :audit and f.meeting in :meetings"
          + " and f.waiver is null order by f.severity desc, f.undated, f.nextStart,"
          + " f.invited desc, f.id limit :most")
  List<Long> openOf(long audit, Collection<String> meetings, int most);

  /** What makes a finding the same in every audit. */
  record Identity(String meeting, String occurrence, String checkId, String subject) {}

  @HQL(
      "select meeting, occurrence, checkId, subject from FindingEntity"
          + " where audit = :audit and meeting in :meetings and waiver is null")
  List<Identity> openIdentities(long audit, Collection<String> meetings);

  /** A meeting and its title. */
  record Titled(String meeting, String title) {}

  @HQL(
      "select m.meeting, m.title from AuditedMeetingEntity m where m.audit = :audit"
          + " and m.worst >= :severity and (:all = true or m.unit in :units) order by "
          + FIX_ORDER
          + " limit :most")
  List<Titled> worst(long audit, int severity, boolean all, Collection<String> units, int most);

  @HQL("select meeting, title from AuditedMeetingEntity where audit = :audit and meeting in :some")
  List<Titled> titles(long audit, Collection<String> some);

  @HQL(
      "select distinct judgedSet from AuditedMeetingEntity where audit = :audit"
          + " and judgedSet is not null order by judgedSet")
  List<Long> judgedSets(long audit);

  @HQL(
      "from AuditedMeetingEntity where audit = :audit and nextStart < :until"
          + " and (:all = true or unit in :units)"
          + " order by exposure desc, nextStart, meeting limit :most")
  List<AuditedMeetingEntity> soon(
      long audit, Instant until, boolean all, Collection<String> units, int most);

  @HQL(
      "from AuditedMeetingEntity where audit = :audit and nextStart < :until and meeting in :some"
          + " order by exposure desc, nextStart, meeting limit :most")
  List<AuditedMeetingEntity> soonAmong(
      long audit, Instant until, Collection<String> some, int most);

  @HQL(
      "from AuditedMeetingEntity where audit = :audit and nextStart < :until"
          + " order by nextStart, exposure desc, meeting limit :most offset :first")
  List<AuditedMeetingEntity> due(long audit, Instant until, int first, int most);

  @HQL(
      "select count(*) from AuditedMeetingEntity where audit = :audit and nextStart < :until"
          + " and (:all = true or unit in :units)")
  long countSoon(long audit, Instant until, boolean all, Collection<String> units);

  /** A finding and its meeting, as an audit has them. */
  record Reported(FindingEntity finding, AuditedMeetingEntity meeting) {}

  /** Every finding in the order in which to fix them, without holding them all. */
  default void each(long audit, Consumer<Reported> consumer) {
    try (Stream<Reported> rows =
        session()
            .createSelectionQuery(
                "select f, m from FindingEntity f join AuditedMeetingEntity m on m.audit = f.audit"
                    + " and m.meeting = f.meeting where f.audit = :audit order by f.severity desc,"
                    + " f.undated, f.nextStart, f.invited desc, f.id",
                Reported.class)
            .setParameter("audit", audit)
            .setFetchSize(ROWS_AT_ONCE)
            .getResultStream()) {
      rows.forEach(consumer);
    }
  }

  /** Every meeting of an audit, without holding them all. */
  default void eachMeeting(long audit, Consumer<AuditedMeetingEntity> consumer) {
    try (Stream<AuditedMeetingEntity> rows =
        session()
            .createSelectionQuery(
                "from AuditedMeetingEntity where audit = :audit order by meeting",
                AuditedMeetingEntity.class)
            .setParameter("audit", audit)
            .setFetchSize(ROWS_AT_ONCE)
            .getResultStream()) {
      rows.forEach(consumer);
    }
  }

  /** What is asked in words that depend on a filter. */
  default <T> List<T> query(
      String hql, Class<T> type, Map<String, ?> parameters, long skip, int most) {
    return BuiltQuery.list(session(), hql, type, parameters, skip, most);
  }

  /** A cell of the wall. */
  record Cell(String meeting, String family, int worst, long open, long waived) {}

  @HQL(
      "select meeting, family, max(case when waiver is null then severity else 0 end),"
          + " sum(case when waiver is null then 1L else 0L end),"
          + " sum(case when waiver is null then 0L else 1L end)"
          + " from FindingEntity where audit = :audit and meeting in :meetings"
          + " group by meeting, family")
  List<Cell> cells(long audit, Collection<String> meetings);

  /** How many meetings an audit has of a unit. */
  record UnitMeetings(String unit, long meetings) {}

  @HQL(
      "select coalesce(unit, '') as u, count(*) from AuditedMeetingEntity where audit = :audit"
          + " group by u order by u")
  List<UnitMeetings> unitMeetings(long audit);

  /** How many findings of a severity a unit has. */
  record UnitSeverity(String unit, int severity, long findings) {}

  @HQL(
      "select coalesce(m.unit, '') as u, f.severity, count(*) from FindingEntity f"
          + " join AuditedMeetingEntity m on m.audit = f.audit and m.meeting = f.meeting"
          + " where f.audit = :audit and f.waiver is null group by u, f.severity"
          + " order by f.severity desc")
  List<UnitSeverity> unitSeverities(long audit);

  @HQL("from AuditCountEntity where audit in :audits and (:all = true or unit in :units)")
  List<AuditCountEntity> counts(Collection<Long> audits, boolean all, Collection<String> units);

  @HQL("from AuditBandEntity where audit in :audits and (:all = true or unit in :units)")
  List<AuditBandEntity> bands(Collection<Long> audits, boolean all, Collection<String> units);

  /** When a finding went, and since when it was known. */
  record Mended(Instant at, Instant seen) {}

  @HQL(
      "select at, seenAt from FindingEventEntity where what = 'gone' and cause = 'change'"
          + " and seenAt is not null and (:all = true or unit in :units)"
          + " order by at desc limit :most")
  List<Mended> mended(boolean all, Collection<String> units, int most);

  /** When meetings that are clean in some audits were clean last. */
  record Clean(String meeting, Instant at) {}

  @HQL(
      "select m.meeting, max(r.startedAt) from AuditedMeetingEntity m join AuditRunEntity r"
          + " on r.id = m.audit where m.audit in :audits and m.meeting in :meetings"
          + " and m.findings = 0 and m.waived = 0 group by m.meeting")
  List<Clean> clean(Collection<Long> audits, Collection<String> meetings);

  @HQL(
      "from AuditedMeetingEntity m where m.audit = :audit and m.worst > 0 and m.findings > 0"
          + " and (:all = true or m.unit in :units) order by "
          + FIX_ORDER
          + " limit :most")
  List<AuditedMeetingEntity> open(long audit, boolean all, Collection<String> units, int most);

  /** A meeting that somebody has loosened in its service, and when that was seen. */
  record Loosened(AuditedMeetingEntity meeting, @Nullable Instant seenAt) {}

  @HQL(
      "select m, f.seenAt from FindingEntity f join AuditedMeetingEntity m on m.audit = f.audit"
          + " and m.meeting = f.meeting where f.audit = :audit and f.checkId = 'changed-there'"
          + " and f.waiver is null and (:all = true or m.unit in :units)"
          + " order by f.seenAt desc limit :most")
  List<Loosened> loosenedThere(long audit, boolean all, Collection<String> units, int most);

  @HQL(
      "select n from AuditedMeetingEntity m join AuditedMeetingEntity n on n.audit = :later"
          + " and n.meeting = m.meeting where m.audit = :earlier and m.findings = 0"
          + " and m.waived = 0 and n.findings > 0"
          + " order by n.worst desc, n.undated, n.nextStart limit :most")
  List<AuditedMeetingEntity> drifted(long earlier, long later, int most);

  @HQL("select id from FindingEntity where audit = :audit limit :most")
  List<Long> someFindings(long audit, int most);

  @HQL("delete from FindingEntity where id in :ids")
  int deleteFindings(Collection<Long> ids);
}
