package app.uprightwarden.server.outbox;

import app.uprightwarden.server.persistence.AsRead;
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

/** Messages as they went out, or will. */
@Repository
@Transactional
interface OutboxRepository {
  /**
   * A message is behind where another key sealed it. Before messages were sealed they were kept in
   * clear; what shows a passcode is sealed as found.
   */
  String BEHIND =
      "((sealed is not null and cast(function('ord', sealed) as Integer) <> :key)"
          + " or (sealed is null and about like 'meeting:%' and (body like '%?passcode=%'"
          + " or (body like '%Passcode:  %' and body not like '%Passcode:  is not in%'))))";

  StatelessSession session();

  @Insert
  void insert(OutboxMessageEntity message);

  @Update
  void update(OutboxMessageEntity message);

  @Find
  Optional<OutboxMessageEntity> find(long id);

  /** The newest first; what is empty takes all, {@code like} is escaped by {@code !}. */
  @HQL(
      "where (:about = '' or about = :about)"
          + " and (:like = '' or collate(recipient as "
          + AsRead.COLLATION
          + ") like :like escape '!' or collate(subject as "
          + AsRead.COLLATION
          + ") like :like escape '!')"
          + " and (:state = '' or state = :state)"
          + " and writtenAt >= :from and writtenAt < :to order by id desc limit :most")
  List<OutboxMessageEntity> newest(
      String about, String like, String state, Instant from, Instant to, int most);

  @HQL("select count(*) from OutboxMessageEntity where state = :state")
  long count(String state);

  @HQL("select max(writtenAt) from OutboxMessageEntity")
  Optional<Instant> lastWritten();

  /** Notes what came of a try. What went out stays so. */
  @HQL(
      "update OutboxMessageEntity set state = :state, trouble = :trouble"
          + " where id = :id and state <> 'sent'")
  int note(long id, String state, @Nullable String trouble);

  @HQL(
      "select id from OutboxMessageEntity where writtenAt < :before and state <> 'waiting'"
          + " order by id limit :most")
  List<Long> old(Instant before, int most);

  @HQL("delete from OutboxMessageEntity where id in :ids and state <> 'waiting'")
  int delete(Collection<Long> ids);

  @HQL("select count(*) from OutboxMessageEntity where " + BEHIND)
  long countBehind(int key);

  @HQL("select id from OutboxMessageEntity where " + BEHIND + " order by id limit :most")
  List<Long> behind(int key, int most);

  /** Those of these messages that are so still and that nobody else has in hand. */
  default List<OutboxMessageEntity> lockedBehind(Collection<Long> ids, int key) {
    return session()
        .createSelectionQuery(
            "from OutboxMessageEntity where id in :ids and " + BEHIND + " order by id",
            OutboxMessageEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }
}
