package app.uprightwarden.server.sources;

import jakarta.data.repository.Delete;
import jakarta.data.repository.Find;
import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import jakarta.data.repository.Update;
import java.time.Instant;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Calendars that are read, and what they hold. */
@Repository
@Transactional
interface SourceRepository {
  StatelessSession session();

  @Insert
  void insert(SourceEntity source);

  @Update
  void update(SourceEntity source);

  @Delete
  void delete(SourceEntity source);

  @Find
  Optional<SourceEntity> find(long id);

  default Optional<SourceEntity> locked(long id) {
    return Optional.ofNullable(session().get(SourceEntity.class, id, LockMode.PESSIMISTIC_WRITE));
  }

  @HQL("from SourceEntity order by name, id")
  List<SourceEntity> all();

  @HQL("select id from SourceEntity where not paused and nextAt <= :now order by nextAt")
  List<Long> due(Instant now);

  @HQL("where secretCipher is not null order by id")
  List<SourceEntity> withSecrets();

  @HQL("from SourceItemEntity where source = :source")
  List<SourceItemEntity> items(long source);

  @HQL(
      "from SourceItemEntity where source = :source and refused is not null order by title, name"
          + " limit 50")
  List<SourceItemEntity> refused(long source);

  @HQL("select count(*) from SourceItemEntity where source = :source and refused is not null")
  long countRefused(long source);

  @Save
  void save(List<SourceItemEntity> items);

  @HQL("delete from SourceItemEntity where source = :source and name in :names")
  int forgetItems(long source, Collection<String> names);

  @HQL("delete from SourceItemEntity where source = :source")
  int forgetItems(long source);

  @HQL("from SourceMeetingEntity where source = :source and name in :names")
  List<SourceMeetingEntity> meetings(long source, Collection<String> names);

  /** What other calendars have brought, which none of them lets go until the caller is done. */
  default List<SourceMeetingEntity> ofOthers(Collection<String> meetings, long source) {
    return session()
        .createSelectionQuery(
            "from SourceMeetingEntity where meeting in :meetings and source <> :source",
            SourceMeetingEntity.class)
        .setParameter("meetings", meetings)
        .setParameter("source", source)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .list();
  }

  /** What a calendar has brought, which none takes over until the caller is done. */
  default List<SourceMeetingEntity> lockedMeetings(long source, Collection<String> names) {
    return session()
        .createSelectionQuery(
            "from SourceMeetingEntity where source = :source and name in :names",
            SourceMeetingEntity.class)
        .setParameter("source", source)
        .setParameter("names", names)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .list();
  }

  @HQL("from SourceMeetingEntity where meeting = :meeting")
  Optional<SourceMeetingEntity> meeting(String meeting);

  @HQL("select count(*) from SourceMeetingEntity where source = :source")
  long countMeetings(long source);

  @Save
  void saveMeetings(List<SourceMeetingEntity> meetings);

  @HQL("delete from SourceMeetingEntity where source = :source and name in :names")
  int forgetMeetings(long source, Collection<String> names);

  @Insert
  void insertAlso(List<SourceAlsoEntity> also);

  @HQL("delete from SourceAlsoEntity where source = :source and name in :names")
  int forgetAlso(long source, Collection<String> names);

  /** Who else holds some meetings and is read. */
  @HQL(
      "select a from SourceAlsoEntity a join SourceEntity s on s.id = a.source"
          + " where a.meeting in :meetings and a.source <> :source and not s.paused"
          + " order by a.source, a.name")
  List<SourceAlsoEntity> alsoHeld(Collection<String> meetings, long source);

  @HQL("update SourceMeetingEntity set source = :source, name = :name where meeting = :meeting")
  int giveMeeting(String meeting, long source, String name);

  @HQL(
      "delete from SourceAlsoEntity where source = :source and name = :name and meeting = :meeting")
  int forgetAlso(long source, String name, String meeting);

  @HQL("update SourceItemEntity set mark = '' where source = :source and name in :names")
  int takeAnew(long source, Collection<String> names);

  @HQL(
      "update SourceEntity set etag = null, lastModified = null, marker = null, nextAt = :now"
          + " where id = :source")
  int readAnew(long source, Instant now);

  @HQL("select meeting from SourceMeetingEntity where source = :source")
  List<String> meetings(long source);

  @Insert
  void insertBusy(List<BusyTimeEntity> times);

  @HQL("delete from BusyTimeEntity where source = :source and name in :names")
  int forgetBusy(long source, Collection<String> names);

  @HQL("delete from BusyTimeEntity where source = :source")
  int forgetBusy(long source);

  @HQL("select count(*) from BusyTimeEntity where source = :source")
  long countBusy(long source);

  @HQL(
      "from BusyTimeEntity where person in :people and start < :to and until > :from order by"
          + " start limit 20000")
  List<BusyTimeEntity> busy(Collection<String> people, Instant from, Instant to);
}
