package app.uprightwarden.server.drafting;

import jakarta.persistence.LockModeType;
import java.util.List;
import java.util.Optional;
import org.springframework.data.jpa.repository.JpaRepository;
import org.springframework.data.jpa.repository.Lock;
import org.springframework.data.jpa.repository.Query;

interface DraftRepository extends JpaRepository<DraftEntity, Long> {
  List<DraftEntity> findAllByOrderByName();

  boolean existsByName(String name);

  /** Locks the draft's row, so that two who edit at once do so one after the other. */
  @Lock(LockModeType.PESSIMISTIC_WRITE)
  @Query("select d from DraftEntity d where d.id = :id")
  Optional<DraftEntity> forChange(long id);
}
