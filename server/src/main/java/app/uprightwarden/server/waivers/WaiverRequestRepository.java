package app.uprightwarden.server.waivers;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What hosts asked for. */
@Repository
@Transactional
interface WaiverRequestRepository {
  StatelessSession session();

  @Insert
  void insert(WaiverRequestEntity request);

  @Update
  void update(WaiverRequestEntity request);

  default Optional<WaiverRequestEntity> locked(long id) {
    return Optional.ofNullable(
        session().get(WaiverRequestEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  /**
   * What waits for an answer of a meeting; locked, so that of two who ask at once one is second.
   */
  default List<WaiverRequestEntity> lockedOpen(String meeting) {
    return session()
        .createSelectionQuery(
            "from WaiverRequestEntity where meeting = :meeting and state = 'open' order by id",
            WaiverRequestEntity.class)
        .setParameter("meeting", meeting)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .getResultList();
  }

  @HQL("select count(*) from WaiverRequestEntity where state = 'open' and askedBy = :email")
  long countOpen(String email);

  @HQL("where meeting = :meeting order by id desc")
  List<WaiverRequestEntity> of(String meeting);

  @HQL("where state = 'open' order by id limit :most")
  List<WaiverRequestEntity> open(int most);

  @HQL("where lower(askedBy) = lower(:email) order by id desc limit :most")
  List<WaiverRequestEntity> by(String email, int most);
}
