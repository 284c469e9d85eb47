package app.uprightwarden.server.keeping;

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
interface KeepingRepository {
  @HQL("from KeepingRuleEntity order by what")
  List<KeepingRuleEntity> all();

  @Find
  Optional<KeepingRuleEntity> find(String what);

  @HQL("update KeepingRuleEntity set days = :days where what = :what")
  int setDays(String what, @Nullable Integer days);

  /** Of several servers one takes each turn. */
  @HQL(
      "update KeepingRuleEntity set ranAt = :now where what = :what and days is not null"
          + " and (ranAt is null or ranAt < :before)")
  int take(String what, Instant now, Instant before);

  @HQL("update KeepingRuleEntity set forgot = forgot + :rows where what = :what")
  int forgot(String what, long rows);

  @HQL("select max(ranAt) from KeepingRuleEntity")
  Optional<Instant> lastRun();
}
