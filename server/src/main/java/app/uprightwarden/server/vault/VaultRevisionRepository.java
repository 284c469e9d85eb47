package app.uprightwarden.server.vault;

import jakarta.data.repository.Repository;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Repository
@Transactional
interface VaultRevisionRepository {
  @HQL("select revision from VaultRevisionEntity where id = 1")
  long revision();

  @HQL("update VaultRevisionEntity set revision = revision + 1 where id = 1")
  int next();
}
