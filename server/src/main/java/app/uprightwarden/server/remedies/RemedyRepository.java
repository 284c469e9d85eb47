package app.uprightwarden.server.remedies;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Remedies: jobs, and an item for each meeting in one. */
@Repository
@Transactional
interface RemedyRepository {
  StatelessSession session();

  @Insert
  void insert(RemedyJobEntity job);

  @Insert
  void insert(List<RemedyItemEntity> items);

  @Update
  void update(RemedyItemEntity item);

  @Find
  Optional<RemedyJobEntity> job(long id);

  /** The next item that is due, of which no other server has hold. */
  default Optional<RemedyItemEntity> next(Instant now) {
    return session()
        .createSelectionQuery(
            "from RemedyItemEntity where state in ('waiting', 'sending', 'confirming') and nextTry"
                + " <= :now"
                + " order by nextTry, id",
            RemedyItemEntity.class)
        .setParameter("now", now)
        .setMaxResults(1)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .uniqueResultOptional();
  }

  /** The item, locked, if it is still being sent. */
  default Optional<RemedyItemEntity> sending(long id) {
    return Optional.ofNullable(
            session().get(RemedyItemEntity.class, id, LockMode.PESSIMISTIC_WRITE))
        .filter(item -> item.state.equals("sending"));
  }

  @HQL(
      "update RemedyItemEntity set state = 'done', wasVersion = :was, nowVersion = :now,"
          + " sent = :sent, doneAt = :at, trouble = null, nextTry = null where id = :id")
  int done(long id, long was, long now, int sent, Instant at);

  /** It was decided, and the conference service that holds the meeting has to confirm it. */
  @HQL(
      "update RemedyItemEntity set state = 'confirming', wasVersion = :was, nowVersion = :now,"
          + " sent = :sent, trouble = null, nextTry = :next where id = :id")
  int confirming(long id, long was, long now, int sent, Instant next);

  @HQL(
      "update RemedyItemEntity set state = 'done', doneAt = :at, trouble = null, nextTry = null"
          + " where id = :id and state = 'confirming'")
  int confirmed(long id, Instant at);

  @HQL("update RemedyItemEntity set nextTry = :next where id = :id and state = 'confirming'")
  int notYet(long id, Instant next);

  @HQL(
      "update RemedyItemEntity set nextTry = :now where meeting in :meetings"
          + " and state = 'confirming'")
  int look(Collection<String> meetings, Instant now);

  @HQL(
      "update RemedyItemEntity set state = :state, trouble = :trouble, doneAt = :at,"
          + " nextTry = null where id = :id and state in ('sending', 'confirming')")
  int ended(long id, String state, String trouble, Instant at);

  @HQL(
      "update RemedyItemEntity set state = 'waiting', nextTry = :next, trouble = :trouble"
          + " where id = :id and state = 'sending'")
  int again(long id, Instant next, String trouble);

  @HQL(
      "update RemedyItemEntity set state = 'waiting', attempts = attempts + 1000, nextTry = :now,"
          + " trouble = null where job = :job and state in ('refused', 'given-up')")
  int retry(long job, Instant now);

  /** A job, and the job that undoes it. */
  record Undone(RemedyJobEntity job, @Nullable Long undoneBy) {}

  @HQL(
      "select j, u.id from RemedyJobEntity j left join RemedyJobEntity u on u.undoOf = j.id"
          + " order by j.id desc limit :most")
  List<Undone> newest(int most);

  @HQL(
      "select j, u.id from RemedyJobEntity j left join RemedyJobEntity u on u.undoOf = j.id"
          + " where j.byWhom = :by order by j.id desc limit :most")
  List<Undone> newestOf(String by, int most);

  @HQL(
      "select j, u.id from RemedyJobEntity j left join RemedyJobEntity u on u.undoOf = j.id"
          + " where j.id = :id")
  List<Undone> withUndo(long id);

  /** How many items of a job are in a state, how many letters they sent, and a trouble. */
  record Counted(long job, String state, long items, long sent, @Nullable String trouble) {}

  @HQL(
      "select job, state, count(*), sum(cast(sent as Long)), max(case when state in ('waiting',"
          + " 'refused', 'given-up') then trouble end) from RemedyItemEntity where job in :jobs"
          + " group by job, state")
  List<Counted> counts(Collection<Long> jobs);

  @HQL(
      "from RemedyItemEntity where job = :job order by case when state = 'done' then 1 else 0 end,"
          + " id limit :most")
  List<RemedyItemEntity> items(long job, int most);

  @HQL("from RemedyItemEntity where job = :job and state = 'done' order by id")
  List<RemedyItemEntity> doneItems(long job);

  @HQL("from RemedyItemEntity where state = 'done' and doneAt >= :since order by id limit :most")
  List<RemedyItemEntity> doneSince(Instant since, int most);

  @HQL(
      "select distinct meeting from RemedyItemEntity where meeting in :meetings"
          + " and state in ('waiting', 'sending', 'confirming')")
  List<String> underWay(Collection<String> meetings);

  @HQL("select count(*) from RemedyItemEntity where state in ('waiting', 'sending', 'confirming')")
  long countWaiting();

  /** A meeting, and when what was undone in it had been asked for. */
  record Asked(String meeting, Instant at) {}

  @HQL(
      "select i.meeting, min(o.at) from RemedyItemEntity i join RemedyJobEntity u on u.id = i.job"
          + " join RemedyJobEntity o on o.id = u.undoOf where i.meeting in :meetings"
          + " and i.state = 'done' and i.doneAt >= :since group by i.meeting")
  List<Asked> undone(Collection<String> meetings, Instant since);

  @HQL(
      "select o.at from RemedyItemEntity i join RemedyJobEntity u on u.id = i.job"
          + " join RemedyJobEntity o on o.id = u.undoOf where i.id = :item")
  Optional<Instant> undoneAskedAt(long item);
}
