package app.uprightwarden.server.remedies;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** What hosts were asked, and an item for each finding. */
@Repository
@Transactional
interface HostRequestRepository {
  StatelessSession session();

  @Insert
  void insert(HostRequestEntity request);

  @Insert
  void insert(List<HostRequestItemEntity> items);

  @Update
  void update(HostRequestItemEntity item);

  @Find
  Optional<HostRequestEntity> request(long id);

  @Find
  Optional<HostRequestItemEntity> item(long id);

  default Optional<HostRequestItemEntity> lockedItem(long id) {
    return Optional.ofNullable(
        session().get(HostRequestItemEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL(
      "select count(*) from HostRequestItemEntity where meeting = :meeting"
          + " and occurrence = :occurrence and checkId = :check and subject = :subject"
          + " and state = 'open'")
  long countOpen(String meeting, String occurrence, String check, String subject);

  @HQL(
      "select distinct i.meeting from HostRequestItemEntity i join HostRequestEntity r"
          + " on r.id = i.request where i.meeting in :meetings and i.state = 'open'"
          + " and r.applyAfter > :now")
  List<String> stillAsked(Collection<String> meetings, Instant now);

  /** What is not settled, the first asked first; null for every host. */
  @HQL(
      "from HostRequestEntity r where exists (select 1 from HostRequestItemEntity i"
          + " where i.request = r.id and i.state in ('open', 'proposed', 'reasoned'))"
          + " and (:host is null or r.host = :host) order by r.id limit 500")
  List<HostRequestEntity> open(@Nullable String host);

  /** Those to remind a host of, of which no other server has hold. */
  default List<HostRequestEntity> toRemind(Instant now, int mostTimes) {
    return session()
        .createSelectionQuery(
            "from HostRequestEntity r where r.remindAt <= :now and r.reminded < :most"
                + " and exists (select 1 from HostRequestItemEntity i where i.request = r.id"
                + " and i.state = 'open') order by r.id",
            HostRequestEntity.class)
        .setParameter("now", now)
        .setParameter("most", mostTimes)
        .setMaxResults(100)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL(
      "from HostRequestItemEntity where request in :requests"
          + " and state in ('open', 'proposed', 'reasoned') order by severity desc, id")
  List<HostRequestItemEntity> unsettled(Collection<Long> requests);

  @HQL(
      "from HostRequestItemEntity where state in ('open', 'proposed', 'reasoned') and id > :after"
          + " order by id limit :most")
  List<HostRequestItemEntity> unsettledAfter(long after, int most);

  @HQL("update HostRequestItemEntity set state = 'settled' where id = :id")
  int settled(long id);

  @HQL("update HostRequestEntity set reminded = reminded + 1, remindAt = :next where id = :id")
  int reminded(long id, Instant next);

  @HQL("update HostRequestItemEntity set state = 'mended', mendedAt = :at where id in :ids")
  int mended(Collection<Long> ids, Instant at);

  @HQL(
      "update HostRequestItemEntity set state = 'open', mendedAt = null where meeting = :meeting"
          + " and occurrence = :occurrence and state = 'mended' and mendedAt >= :since")
  int reopen(String meeting, String occurrence, Instant since);
}
