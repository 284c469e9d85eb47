package app.uprightwarden.server.rulebook;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Editions, the newest first. */
@Repository
@Transactional
interface EditionRepository {
  @Find
  Optional<EditionEntity> find(int number);

  @HQL("select max(number) from EditionEntity")
  Optional<Integer> highest();

  @HQL("where withdrawnAt is null order by number desc limit 1")
  Optional<EditionEntity> newest();

  @HQL("where withdrawnAt is null and effectiveAt <= :now order by number desc limit 1")
  Optional<EditionEntity> inForce(Instant now);

  @HQL("from EditionEntity order by number desc")
  List<EditionEntity> all();

  @Insert
  void insert(EditionEntity edition);

  @Update
  void update(EditionEntity edition);
}
