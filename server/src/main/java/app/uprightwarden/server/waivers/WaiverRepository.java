package app.uprightwarden.server.waivers;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Waivers. */
@Repository
@Transactional
interface WaiverRepository {
  StatelessSession session();

  @Insert
  void insert(WaiverEntity waiver);

  @Update
  void update(WaiverEntity waiver);

  @Find
  Optional<WaiverEntity> find(long id);

  /** A waiver that nobody else changes until this transaction ends. */
  default Optional<WaiverEntity> locked(long id) {
    return Optional.ofNullable(session().get(WaiverEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("where state = 'in-force' and until > :now")
  List<WaiverEntity> inForce(Instant now);

  /** Those that matter now first; null filters nothing. */
  @HQL(
      "where (:meeting is null or meeting = :meeting) and (:state is null or state = :state)"
          + " order by case when state in ('waiting', 'in-force') then 0 else 1 end,"
          + " case when state in ('waiting', 'in-force') then until end, until desc, id"
          + " limit :most")
  List<WaiverEntity> list(@Nullable String meeting, @Nullable String state, int most);

  @HQL("where state = 'in-force' and until <= :time order by until, id")
  List<WaiverEntity> endingBefore(Instant time);

  @HQL("select count(*) from WaiverEntity where state = 'waiting' and grantedBy <> :administrator")
  long waitingFor(String administrator);

  /** Those whose time is over, of which no other server has hold. */
  default List<WaiverEntity> over(Instant now) {
    return taken("state in ('in-force', 'waiting') and until <= :time", now);
  }

  /** Those that nobody was warned of and that end before a time, likewise. */
  default List<WaiverEntity> toWarnOf(Instant time) {
    return taken("state = 'in-force' and warned = false and until <= :time", time);
  }

  private List<WaiverEntity> taken(String condition, Instant time) {
    return session()
        .createSelectionQuery("from WaiverEntity where " + condition, WaiverEntity.class)
        .setParameter("time", time)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }
}
