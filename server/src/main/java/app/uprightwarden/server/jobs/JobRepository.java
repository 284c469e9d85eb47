package app.uprightwarden.server.jobs;

import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Items of work. */
@Repository
@Transactional
interface JobRepository {
  StatelessSession session();

  /** Gives an item; one that somebody else gave meanwhile stands, though this one cannot see it. */
  @HQL(
      "insert into JobEntity (kind, item, executionTime, picked, version, lane, tries)"
          + " values (:kind, :item, :now, false, 1, :lane, 0) on conflict (kind, item) do nothing")
  int give(String kind, String item, Instant now, String lane);

  @HQL("select item from JobEntity where kind = :kind and item in :items")
  List<String> present(String kind, Collection<String> items);

  @HQL("where kind = :kind and item = :item")
  Optional<JobEntity> find(String kind, String item);

  /** What was tried in vain, what failed for good first. */
  @HQL("where tries > 0 order by executionTime desc, kind, item limit :most")
  List<JobEntity> inTrouble(int most);

  @HQL("select count(*) from JobEntity where tries > 0")
  long countInTrouble();

  @HQL("select count(*) from JobEntity where executionTime >= :never")
  long countFailed(Instant never);

  @HQL(
      "update JobEntity set tries = :tries, trouble = :trouble"
          + " where kind = :kind and item = :item")
  int note(String kind, String item, int tries, String trouble);

  /** What waits for its time has it now; what is tried again after a failure waits on. */
  @HQL(
      "update JobEntity set executionTime = :now, version = version + 1"
          + " where kind = :kind and item = :item and picked = false and tries = 0"
          + " and executionTime > :now")
  int soon(String kind, String item, Instant now);

  @HQL(
      "update JobEntity set tries = 0, trouble = null"
          + " where kind = :kind and item = :item and tries > 0")
  int mended(String kind, String item);

  /** Has a failed item tried again, unless somebody did already. */
  @HQL(
      "update JobEntity set executionTime = :now, tries = 0, trouble = null, version = version + 1"
          + " where kind = :kind and item = :item and picked = false and tries > 0")
  int again(String kind, String item, Instant now);

  @HQL(
      "delete from JobEntity where kind = :kind and item = :item and picked = false"
          + " and executionTime >= :never")
  int letBe(String kind, String item, Instant never);
}
