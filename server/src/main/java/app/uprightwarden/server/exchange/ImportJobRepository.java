package app.uprightwarden.server.exchange;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Imports that were asked for. */
@Repository
@Transactional
interface ImportJobRepository {
  StatelessSession session();

  @Insert
  void insert(ImportJobEntity job);

  @Find
  Optional<ImportJobEntity> find(String id);

  /** How far a job is. */
  record Far(int done, int total) {}

  @HQL("select done, total from ImportJobEntity where id = :id and state in ('waiting', 'running')")
  Optional<Far> far(String id);

  /** The first that nobody works on: never begun, or begun by a server that went silent. */
  @HQL(
      "select id from ImportJobEntity where state in ('waiting', 'running') and leaseUntil < :now"
          + " order by madeAt limit 1")
  Optional<String> forsaken(Instant now);

  /** Takes a job, unless another server works on it. */
  @HQL(
      "update ImportJobEntity set state = 'running', worker = :worker, leaseUntil = :until,"
          + " tries = tries + 1, done = 0 where id = :id and state in ('waiting', 'running')"
          + " and (leaseUntil < :now or worker = :worker)")
  int take(String id, String worker, Instant now, Instant until);

  @HQL(
      "update ImportJobEntity set done = :done, total = :total, leaseUntil = :until"
          + " where id = :id and worker = :worker and state = 'running'")
  int goOn(String id, String worker, int done, int total, Instant until);

  /** Ends a job; what it was given goes. */
  @HQL(
      "update ImportJobEntity set state = :state, trouble = :trouble, endedAt = :at, input = null,"
          + " worker = null, leaseUntil = null"
          + " where id = :id and worker = :worker and state = 'running'")
  int end(String id, String worker, String state, @Nullable String trouble, Instant at);

  @HQL("delete from ImportJobEntity where endedAt < :before")
  int deleteEndedBefore(Instant before);

  @HQL("select count(*) from ImportJobEntity where state in ('waiting', 'running')")
  long countWaiting();

  @HQL(
      "select count(*) from ImportJobEntity where input is not null"
          + " and cast(function('ord', input) as Integer) <> :key")
  long countSealedWithAnother(int key);

  @HQL(
      "select id from ImportJobEntity where input is not null"
          + " and cast(function('ord', input) as Integer) <> :key order by id limit :most")
  List<String> sealedWithAnother(int key, int most);

  /** Those of these that are so still and that nobody else has in hand. */
  default List<ImportJobEntity> lockedSealedWithAnother(Collection<String> ids, int key) {
    return session()
        .createSelectionQuery(
            "from ImportJobEntity where id in :ids and input is not null"
                + " and cast(function('ord', input) as Integer) <> :key order by id",
            ImportJobEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL("update ImportJobEntity set input = :input where id = :id")
  int seal(String id, byte[] input);
}
