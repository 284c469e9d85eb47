package app.uprightwarden.server.access;

import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.Optional;
import java.util.function.Consumer;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Counts of failed sign-ins. */
@Repository
@Transactional
interface SignInFailureRepository {
  StatelessSession session();

  @HQL("select untilAt from SignInFailureEntity where keyHash = :key and untilAt > :now")
  Optional<Instant> until(String key, Instant now);

  @HQL(
      "insert into SignInFailureEntity (keyHash, failures, untilAt, at) values (:key, 0, :now, :now)"
          + " on conflict (keyHash) do nothing")
  int begin(String key, Instant now);

  @Update
  void update(SignInFailureEntity count);

  /** Counts, under a lock on the count's row: servers that count at once lose no other's. */
  default void count(String key, Instant now, Consumer<SignInFailureEntity> change) {
    begin(key, now);
    SignInFailureEntity row =
        session().get(SignInFailureEntity.class, key, LockMode.PESSIMISTIC_WRITE);
    change.accept(row);
    update(row);
  }

  @HQL("delete from SignInFailureEntity where keyHash = :key")
  int delete(String key);

  @HQL(
      "update SignInFailureEntity set failures = greatest(failures - 1, 0), untilAt = at"
          + " where keyHash = :key")
  int forgive(String key);

  @HQL("delete from SignInFailureEntity where at < :time")
  int deleteBefore(Instant time);
}
