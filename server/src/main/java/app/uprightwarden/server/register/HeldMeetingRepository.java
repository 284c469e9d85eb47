package app.uprightwarden.server.register;

import jakarta.data.repository.Delete;
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
import org.springframework.transaction.annotation.Transactional;

/** What is known of meetings that conference services hold. */
@Repository
@Transactional
interface HeldMeetingRepository {
  StatelessSession session();

  @Find
  Optional<MeetingHeldEntity> find(String meeting);

  /** Waits for who is about to change it, as a reading of its service. */
  default Optional<MeetingHeldEntity> locked(String meeting) {
    return Optional.ofNullable(
        session().get(MeetingHeldEntity.class, meeting, LockMode.PESSIMISTIC_WRITE));
  }

  @Insert
  void insert(List<MeetingHeldEntity> rows);

  @Update
  void update(List<MeetingHeldEntity> rows);

  @Update
  void update(MeetingHeldEntity row);

  @Delete
  void delete(MeetingHeldEntity row);

  @HQL("where meeting in :meetings")
  List<MeetingHeldEntity> among(Collection<String> meetings);

  /** What lists show. */
  record Writing(String meeting, long service, String writing) {}

  @HQL("select meeting, service, writing from MeetingHeldEntity where meeting in :meetings")
  List<Writing> writing(Collection<String> meetings);

  @HQL("where service = :service and there in :there")
  List<MeetingHeldEntity> there(long service, Collection<String> there);

  /** What waits to be written, or was sent and not read back, oldest first. */
  @HQL(
      "where service = :service and writing in ('waiting', 'sent') order by writing, decidedAt"
          + " limit :most")
  List<MeetingHeldEntity> toWrite(long service, int most);

  @HQL("select count(*) from MeetingHeldEntity where service = :service and writing in :states")
  long count(long service, Collection<String> states);

  @HQL("select count(*) from MeetingHeldEntity where service = :service")
  long count(long service);

  /** How many meetings a service holds, and how far what was decided has come. */
  record Counted(long service, String writing, long meetings) {}

  @HQL("select service, writing, count(*) from MeetingHeldEntity group by service, writing")
  List<Counted> counts();

  @HQL(
      "select h.service, l.unit, l.kind, count(*) from MeetingHeldEntity h join MeetingLineEntity l"
          + " on l.meeting = h.meeting group by h.service, l.unit, l.kind")
  List<HeldMeetings.HeldGroup> groups();

  /** Those of which nobody has noticed yet that they wait for too long. */
  @HQL(
      "where writing in ('waiting', 'sent') and late = false and decidedAt < :before order by"
          + " decidedAt limit :most")
  List<MeetingHeldEntity> late(Instant before, int most);

  /** Those that were not read since, of a service: after a first reading they are there no more. */
  @HQL(
      "where service = :service and readAt < :before and revision <> '' order by meeting limit"
          + " :most")
  List<MeetingHeldEntity> unread(long service, Instant before, int most);

  @HQL(
      "select meeting from MeetingHeldEntity where service = :service and meeting > :after order by"
          + " meeting limit :most")
  List<String> ids(long service, String after, int most);

  @HQL("where service = :service and writing = 'waiting' order by decidedAt limit :most")
  List<MeetingHeldEntity> waiting(long service, int most);

  @HQL("where service = :service and writing = 'kept' order by decidedAt limit :most")
  List<MeetingHeldEntity> kept(long service, int most);
}
