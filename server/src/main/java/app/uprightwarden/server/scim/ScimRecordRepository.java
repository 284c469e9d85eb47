package app.uprightwarden.server.scim;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What a directory elsewhere knows people and lists by. */
@Repository
@Transactional
interface ScimRecordRepository {
  StatelessSession session();

  @Find
  Optional<ScimRecordEntity> find(String id);

  /** Locked until the transaction ends. */
  default Optional<ScimRecordEntity> locked(String id) {
    return Optional.ofNullable(
        session().get(ScimRecordEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("from ScimRecordEntity where sort = :sort and target = :target")
  Optional<ScimRecordEntity> ofTarget(String sort, String target);

  @HQL("from ScimRecordEntity where sort = :sort and userName = :userName")
  Optional<ScimRecordEntity> ofName(String sort, String userName);

  @HQL("from ScimRecordEntity where sort = :sort and externalId = :externalId")
  List<ScimRecordEntity> ofExternal(String sort, String externalId);

  @HQL("from ScimRecordEntity where sort = :sort and target in :targets")
  List<ScimRecordEntity> ofTargets(String sort, Collection<String> targets);

  @HQL("from ScimRecordEntity where sort = :sort and id in :ids")
  List<ScimRecordEntity> some(String sort, Collection<String> ids);

  @HQL("from ScimRecordEntity where sort = :sort")
  List<ScimRecordEntity> all(String sort);

  /** All of a sort, locked until the transaction ends: what one changes may mean others. */
  default List<ScimRecordEntity> allLocked(String sort) {
    return session()
        .createSelectionQuery(
            "from ScimRecordEntity where sort = :sort order by id", ScimRecordEntity.class)
        .setParameter("sort", sort)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .getResultList();
  }

  @HQL("select target from ScimRecordEntity where sort = :sort and gone = true")
  List<String> gone(String sort);

  @HQL("select count(*) from ScimRecordEntity where sort = :sort and gone = false")
  long count(String sort);

  @HQL("select max(changedAt) from ScimRecordEntity")
  Optional<Instant> lastChange();

  @Save
  void save(ScimRecordEntity row);

  @HQL("delete from ScimRecordEntity where id = :id")
  int delete(String id);
}
