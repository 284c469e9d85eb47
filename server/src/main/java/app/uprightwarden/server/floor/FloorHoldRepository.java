package app.uprightwarden.server.floor;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What is held for a legal reason. */
@Repository
@Transactional
interface FloorHoldRepository {
  @Insert
  void insert(FloorHoldEntity hold);

  @Find
  Optional<FloorHoldEntity> find(String session);

  @HQL("delete from FloorHoldEntity where session = :session")
  int release(String session);
}
