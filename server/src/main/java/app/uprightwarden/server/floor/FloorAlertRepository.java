package app.uprightwarden.server.floor;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Alerts. */
@Repository
@Transactional
interface FloorAlertRepository {
  /** Raises an alert; one that is there already stays as it is, unless it had ended by itself. */
  @HQL(
      "insert into FloorAlertEntity (session, alertKey, kind, seq, who, guarantee, severity, words,"
          + " act, cause, byWhom, happened, raised, state, changedAt) values (:session, :key, :kind,"
          + " :seq, :who, :guarantee, :severity, :words, :act, :cause, :byWhom, :happened, :now,"
          + " 'open', :now) on conflict (session, alertKey) do update set"
          + " raised = case when state = 'ended' then :now else raised end,"
          + " happened = case when state = 'ended' then :happened else happened end,"
          + " state = case when state = 'ended' then 'open' else state end")
  int raise(
      String session,
      String key,
      String kind,
      long seq,
      @Nullable String who,
      @Nullable String guarantee,
      int severity,
      String words,
      String act,
      String cause,
      @Nullable String byWhom,
      Instant happened,
      Instant now);

  @Find
  Optional<FloorAlertEntity> find(long id);

  /** What is not closed first, the worst of it first. */
  @HQL(
      "where session = :session order by case when state in ('closed', 'ended') then 1 else 0 end,"
          + " case when state <> 'open' then 1 else 0 end, severity desc, id desc limit 500")
  List<FloorAlertEntity> of(String session);

  /** How many of a session are neither closed nor ended, and the worst of those. */
  record Pending(String session, long count, int worst) {}

  @HQL(
      "select session, count(*), max(severity) from FloorAlertEntity where state not in ('closed', 'ended')"
          + " group by session")
  List<Pending> pending();

  /** Those of a session that are neither closed nor ended. */
  @HQL("where session = :session and state not in ('closed', 'ended') order by id limit 20000")
  List<FloorAlertEntity> unsettled(String session);

  @HQL(
      "where session = :session and cause = :cause and state not in ('closed', 'ended') order by"
          + " id limit 20000")
  List<FloorAlertEntity> ofCause(String session, String cause);

  @HQL("update FloorAlertEntity set state = 'ended', changedAt = :at where id in :ids")
  int end(Collection<Long> ids, Instant at);

  /** What stands open anywhere, the worst and the newest first. */
  @HQL(
      "select a.id, a.session, s.title, a.severity, a.words, a.cause, a.raised from"
          + " FloorAlertEntity a join FloorSessionEntity s on s.id = a.session where a.state ="
          + " 'open' and s.state = 'open' and (s.practice = false or s.madeBy = :whose) order by"
          + " a.severity desc, a.id desc limit :most")
  List<FloorAlerts.OpenAlert> open(String whose, int most);

  @HQL(
      "update FloorAlertEntity set state = :state, handledBy = :by,"
          + " handedTo = coalesce(:to, handedTo), note = coalesce(:note, note), changedAt = :at"
          + " where id = :id")
  int handle(
      long id, String state, String by, @Nullable String to, @Nullable String note, Instant at);

  @HQL(
      "select count(*) from FloorAlertEntity a join FloorSessionEntity s on s.id = a.session"
          + " where a.state = 'open' and s.state = 'open'")
  long countOpen();
}
