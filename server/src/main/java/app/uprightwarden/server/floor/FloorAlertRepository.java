package app.uprightwarden.server.floor;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Alerts. */
@Repository
@Transactional
interface FloorAlertRepository {
  /** Raises an alert; one that is there already stays as it is. */
  @HQL(
      "insert into FloorAlertEntity (session, alertKey, kind, seq, who, guarantee, severity, words,"
          + " act, happened, raised, state, changedAt) values (:session, :key, :kind, :seq, :who,"
          + " :guarantee, :severity, :words, :act, :happened, :now, 'open', :now)"
          + " on conflict (session, alertKey) do nothing")
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
      Instant happened,
      Instant now);

  @Find
  Optional<FloorAlertEntity> find(long id);

  /** What is not closed first, the worst of it first. */
  @HQL(
      "where session = :session order by case when state = 'closed' then 1 else 0 end,"
          + " case when state <> 'open' then 1 else 0 end, severity desc, id desc limit 500")
  List<FloorAlertEntity> of(String session);

  /** How many of a session are not closed, and the worst of those. */
  record Pending(String session, long count, int worst) {}

  @HQL(
      "select session, count(*), max(severity) from FloorAlertEntity where state <> 'closed'"
          + " group by session")
  List<Pending> pending();

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
