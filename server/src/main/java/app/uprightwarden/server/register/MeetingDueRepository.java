package app.uprightwarden.server.register;

import jakarta.data.repository.Insert;
import jakarta.data.repository.Repository;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Meetings that are to be looked at again. */
@Repository
@Transactional
interface MeetingDueRepository {
  @Insert
  void insert(MeetingDueEntity due);

  @HQL(
      "insert into MeetingDueEntity (meeting) select publicId from MeetingEntity where publicId in :ids")
  int addStored(Collection<String> ids);

  @HQL(
      "insert into MeetingDueEntity (meeting) select publicId from MeetingEntity where hostFolded in :hosts")
  int addOfHosts(Collection<String> hosts);

  @HQL("select publicId from MeetingEntity where publicId in :ids")
  List<String> stored(Collection<String> ids);

  @HQL("select id, meeting from MeetingDueEntity order by id limit :most")
  List<RegisterChanges.Due> next(int most);

  @HQL("delete from MeetingDueEntity where id in :ids")
  int delete(Collection<Long> ids);

  /** What is committed by now; what has a lower number and is not yet is looked at later. */
  @HQL("select max(id) from MeetingDueEntity")
  Optional<Long> last();

  @HQL("delete from MeetingDueEntity where id <= :last")
  int deleteUpTo(long last);

  @HQL("select id from MeetingDueEntity order by id limit :most")
  List<Long> some(int most);

  @HQL("select id from MeetingEntity where id > :after order by id limit :most")
  List<Long> rows(long after, int most);

  @HQL(
      "select d.id, d.meeting from MeetingDueEntity d join MeetingEntity m on m.publicId = d.meeting"
          + " where m.id > :after and m.id <= :last")
  List<RegisterChanges.Due> ofRows(long after, long last);

  @HQL("select count(*) from MeetingDueEntity")
  long count();

  @HQL("select distinct meeting from MeetingDueEntity where meeting in :meetings")
  List<String> among(Collection<String> meetings);
}
