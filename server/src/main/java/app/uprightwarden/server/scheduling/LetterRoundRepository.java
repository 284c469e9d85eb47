package app.uprightwarden.server.scheduling;

import jakarta.data.repository.Delete;
import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Rounds of letters that are not all written. */
@Repository
@Transactional
interface LetterRoundRepository {
  StatelessSession session();

  @Insert
  void insert(LetterRoundEntity round);

  @Update
  void update(LetterRoundEntity round);

  @Delete
  void delete(LetterRoundEntity round);

  @Find
  Optional<LetterRoundEntity> find(long id);

  /** A round, locked: where two servers take it each for its own, one writes some at a time. */
  default Optional<LetterRoundEntity> locked(long id) {
    return session()
        .createSelectionQuery("from LetterRoundEntity where id = :id", LetterRoundEntity.class)
        .setParameter("id", id)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .uniqueResultOptional();
  }

  @HQL("select count(*) from LetterRoundEntity")
  long count();
}
