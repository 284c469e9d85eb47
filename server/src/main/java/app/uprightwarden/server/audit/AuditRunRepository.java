package app.uprightwarden.server.audit;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Audits. */
@Repository
@Transactional
interface AuditRunRepository {
  StatelessSession session();

  @Insert
  void insert(AuditRunEntity run);

  @Update
  void update(AuditRunEntity run);

  @Find
  Optional<AuditRunEntity> find(long id);

  private Optional<AuditRunEntity> taken(String query, String name, Object value) {
    return session()
        .createSelectionQuery(query, AuditRunEntity.class)
        .setParameter(name, value)
        .setMaxResults(1)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .uniqueResultOptional();
  }

  /** Takes a run that nobody works on, or that this one does. */
  @HQL(
      "update AuditRunEntity set state = 'running', worker = :worker, leaseUntil = :until"
          + " where id = :id and state in ('waiting', 'running')"
          + " and (leaseUntil is null or leaseUntil < :now or worker = :worker)")
  int take(long id, String worker, Instant now, Instant until);

  @HQL(
      "update AuditRunEntity set worker = :worker, leaseUntil = :until where id = :id"
          + " and (worker = :worker or leaseUntil is null or leaseUntil < :now)")
  int takeStanding(long id, String worker, Instant now, Instant until);

  @HQL("update AuditRunEntity set leaseUntil = null where worker = :worker")
  int letGo(String worker);

  @HQL(
      "update AuditRunEntity set cursorRow = :cursor, scanned = scanned + :scanned,"
          + " judged = judged + :judged, occurrences = occurrences + :occurrences,"
          + " findings = findings + :findings, leaseUntil = :until"
          + " where id = :id and worker = :worker and state in ('running', 'standing')")
  int step(
      long id,
      String worker,
      Instant until,
      long cursor,
      int scanned,
      int judged,
      int occurrences,
      int findings);

  @HQL(
      "update AuditRunEntity set leaseUntil = :until where id = :id and worker = :worker"
          + " and state in ('running', 'standing')")
  int hold(long id, String worker, Instant until);

  @HQL("update AuditRunEntity set findings = findings + :findings where id = :id")
  int addFindings(long id, int findings);

  @HQL(
      "update AuditRunEntity set state = :state, message = :message, finishedAt = :at,"
          + " worker = null, leaseUntil = null"
          + " where id = :id and worker = :worker and state = 'running'")
  int end(long id, String worker, String state, @Nullable String message, Instant at);

  @HQL(
      "update AuditRunEntity set state = 'cancelled', finishedAt = :at, worker = null,"
          + " leaseUntil = null where id = :id and state in ('waiting', 'running')")
  int cancel(long id, Instant at);

  @HQL(
      "update AuditRunEntity set state = 'waiting', finishedAt = null, message = null"
          + " where id = :id and state in ('cancelled', 'failed')")
  int resume(long id);

  @HQL("update AuditRunEntity set baseline = false where baseline = true")
  int noBaseline();

  @HQL("update AuditRunEntity set baseline = true where id = :id")
  int setBaseline(long id);

  @HQL("where baseline = true order by id limit 1")
  Optional<AuditRunEntity> baseline();

  @HQL("where state = 'standing' order by id limit 1")
  Optional<AuditRunEntity> standing();

  @HQL(
      "update AuditRunEntity set edition = :edition, directory = :directory, windowFrom = :begin,"
          + " windowTo = :end, cursorRow = 0, scanned = 0, judged = 0, occurrences = 0,"
          + " meetings = :all, renewedAt = null, message = :cause where id = :id")
  int renew(
      long id, int edition, long directory, Instant begin, Instant end, int all, String cause);

  @HQL(
      "update AuditRunEntity set renewedAt = :now, startedAt = :now, judged = :judged,"
          + " findings = :findings, message = null where id = :id")
  int renewed(long id, Instant now, int judged, int findings);

  /** Recorded runs, the newest first; the standing audit is not among them. */
  @HQL("where state <> 'standing' order by startedAt desc, id desc limit :most offset :first")
  List<AuditRunEntity> newest(int first, int most);

  /** The done runs of a scope, the newest first. */
  @HQL("where state = 'done' and scope = :scope order by startedAt desc, id desc limit :most")
  List<AuditRunEntity> done(String scope, int most);

  @HQL("select count(*) from AuditRunEntity where state in ('waiting', 'running')")
  long countWaiting();

  @HQL("select max(finishedAt) from AuditRunEntity where state = 'done'")
  Optional<Instant> lastDone();

  @HQL("select max(startedAt) from AuditRunEntity where cause = 'schedule'")
  Optional<Instant> lastScheduled();

  /** Notes that the report of a run is written, unless that is noted. */
  @HQL("update AuditRunEntity set reported = true where id = :id and reported = false")
  int setReported(long id);

  /** The first run begun before a time that may go, locked. */
  default Optional<AuditRunEntity> old(Instant before) {
    return taken(
        "from AuditRunEntity where startedAt < :before and state in ('done', 'failed', 'cancelled')"
            + " and baseline = false and id <> (select coalesce(max(r.id), 0L) from AuditRunEntity"
            + " r where r.state = 'done') order by id",
        "before",
        before);
  }

  @HQL(
      "update AuditRunEntity set state = 'cancelled', message = 'It was kept long enough, and is"
          + " being let go of.' where id = :id and state <> 'cancelled'")
  int lettingGo(long id);

  @HQL("delete from AuditRunEntity where id = :id")
  int delete(long id);

  @HQL("from AuditScheduleEntity order by id")
  List<AuditScheduleEntity> schedules();

  @Find
  Optional<AuditScheduleEntity> schedule(long id);

  default Optional<AuditScheduleEntity> lockedSchedule(long id) {
    return Optional.ofNullable(
        session().get(AuditScheduleEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @Insert
  void insert(AuditScheduleEntity schedule);

  @Update
  void update(AuditScheduleEntity schedule);

  @HQL("delete from AuditScheduleEntity where id = :id")
  int deleteSchedule(long id);

  /** Active schedules whose time has come, of which no other server has hold. */
  default List<AuditScheduleEntity> dueSchedules(Instant now) {
    return session()
        .createSelectionQuery(
            "from AuditScheduleEntity where active = true and nextAt <= :now order by nextAt",
            AuditScheduleEntity.class)
        .setParameter("now", now)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }
}
