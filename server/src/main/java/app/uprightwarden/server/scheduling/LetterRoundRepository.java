package app.uprightwarden.server.scheduling;

import jakarta.data.repository.Delete;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
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

  /** The next round to go on with, of which no other server has hold. */
  default Optional<LetterRoundEntity> next(Instant now, int mostTries) {
    return session()
        .createSelectionQuery(
            "from LetterRoundEntity where nextTry <= :now and tries < :most order by id",
            LetterRoundEntity.class)
        .setParameter("now", now)
        .setParameter("most", mostTries)
        .setMaxResults(1)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .uniqueResultOptional();
  }

  @HQL("select count(*) from LetterRoundEntity")
  long count();

  @HQL("select count(*) from LetterRoundEntity where tries >= :tries")
  long countTried(int tries);
}
