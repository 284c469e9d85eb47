package app.uprightwarden.server.retention;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** How long things are kept. */
@Repository
@Transactional
interface RetentionRepository {
  @HQL("from RetentionRuleEntity order by what")
  List<RetentionRuleEntity> all();

  @Find
  Optional<RetentionRuleEntity> find(String what);

  @HQL("update RetentionRuleEntity set days = :days where what = :what")
  int setDays(String what, @Nullable Integer days);

  /** Of several servers one takes each turn. */
  @HQL(
      "update RetentionRuleEntity set ranAt = :now where what = :what and days is not null"
          + " and (ranAt is null or ranAt < :before)")
  int take(String what, Instant now, Instant before);

  @HQL("update RetentionRuleEntity set forgot = forgot + :rows where what = :what")
  int forgot(String what, long rows);

  @HQL("select max(ranAt) from RetentionRuleEntity")
  Optional<Instant> lastRun();
}
