package app.uprightwarden.server.register;

import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What meetings were. */
@Repository
@Transactional
interface MeetingVersionRepository {
  StatelessSession session();

  @Insert
  void insert(MeetingVersionEntity version);

  @Insert
  void insertAll(List<MeetingVersionEntity> versions);

  @Find
  Optional<MeetingVersionEntity> find(long id);

  @HQL("delete from MeetingVersionEntity where meeting in :meetings")
  int forget(Collection<String> meetings);

  @HQL("where meeting = :meeting order by id desc limit :most")
  List<MeetingVersionEntity> of(String meeting, int most);

  @HQL("select host from MeetingVersionEntity where meeting = :meeting order by id desc limit 1")
  Optional<String> lastHost(String meeting);

  /** A meeting and its version that was kept last. */
  record Last(String meeting, long id) {}

  @HQL(
      "select meeting, max(id) from MeetingVersionEntity where meeting in :meetings"
          + " and document is not null group by meeting")
  List<Last> lastKept(Collection<String> meetings);

  @HQL(
      "from MeetingVersionEntity v where v.act = 'cancelled' and v.id = (select max(w.id) from"
          + " MeetingVersionEntity w where w.meeting = v.meeting) and not exists (select 1 from"
          + " MeetingEntity m where m.publicId = v.meeting) order by v.id desc limit :most")
  List<MeetingVersionEntity> cancelled(int most);

  /** Who changed a meeting when, and how. */
  record Change(String meeting, String by, Instant at, String act) {}

  @HQL(
      "select publicId, changedBy, changedAt, act from MeetingEntity where publicId in :meetings"
          + " union all select meeting, changedBy, at, act from MeetingVersionEntity where meeting"
          + " in :meetings")
  List<Change> changes(Collection<String> meetings);

  @HQL("select id from MeetingVersionEntity where at < :before limit :most")
  List<Long> old(Instant before, int most);

  @HQL("delete from MeetingVersionEntity where id in :ids")
  int delete(Collection<Long> ids);

  @HQL(
      "select count(*) from MeetingVersionEntity where passcodeCipher is not null"
          + " and cast(function('ord', passcodeCipher) as Integer) <> :key")
  long countSealedWithAnother(int key);

  @HQL(
      "select id from MeetingVersionEntity where passcodeCipher is not null"
          + " and cast(function('ord', passcodeCipher) as Integer) <> :key order by id limit :most")
  List<Long> sealedWithAnother(int key, int most);

  /** Those of these rows that are so still and that nobody else has in hand. */
  default List<MeetingVersionEntity> lockedSealedWithAnother(Collection<Long> ids, int key) {
    return session()
        .createSelectionQuery(
            "from MeetingVersionEntity where id in :ids"
                + " and cast(function('ord', passcodeCipher) as Integer) <> :key order by id",
            MeetingVersionEntity.class)
        .setParameterList("ids", ids)
        .setParameter("key", key)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL("update MeetingVersionEntity set passcodeCipher = :cipher where id = :id")
  int seal(long id, byte[] cipher);
}
