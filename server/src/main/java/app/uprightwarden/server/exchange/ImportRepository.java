package app.uprightwarden.server.exchange;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.List;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Imports, and what each thing was before. */
@Repository
@Transactional
interface ImportRepository {
  @Insert
  void insert(ImportBatchEntity batch);

  @Insert
  void insert(List<ImportItemEntity> items);

  @HQL(
      "update ImportBatchEntity set added = :added, changed = :changed, unchanged = :unchanged,"
          + " refused = :refused where id = :id")
  int close(long id, int added, int changed, int unchanged, int refused);

  @HQL("from ImportBatchEntity order by id desc limit 200")
  List<ImportBatchEntity> newest();

  @HQL(
      "update ImportBatchEntity set takenBackBy = :by, takenBackAt = :at"
          + " where id = :id and takenBackBy is null")
  int takeBack(long id, String by, Instant at);

  /** What an import brought, the last first. */
  @HQL("from ImportItemEntity where batch = :batch order by position desc")
  List<ImportItemEntity> items(long batch);
}
