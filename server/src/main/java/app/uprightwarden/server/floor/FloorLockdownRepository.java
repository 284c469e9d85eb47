package app.uprightwarden.server.floor;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Lockdowns. */
@Repository
@Transactional
interface FloorLockdownRepository {
  StatelessSession session();

  @Insert
  void insert(FloorLockdownEntity lockdown);

  @Update
  void update(FloorLockdownEntity lockdown);

  default Optional<FloorLockdownEntity> locked(long id) {
    return Optional.ofNullable(
        session().get(FloorLockdownEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("where undoneAt is null and at > :since order by id desc limit 5")
  List<FloorLockdownEntity> standing(Instant since);
}
