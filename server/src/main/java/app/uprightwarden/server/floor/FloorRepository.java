package app.uprightwarden.server.floor;

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
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** Sessions, their events, and what was written down of them. */
@Repository
@Transactional
interface FloorRepository {
  StatelessSession session();

  @Insert
  void insert(FloorSessionEntity session);

  @Find
  Optional<FloorSessionEntity> find(String id);

  @HQL("where state in ('asked', 'open') and service = :service order by starts, id")
  List<FloorSessionEntity> atService(Long service);

  @HQL("where state in ('asked', 'open') order by starts, id")
  List<FloorSessionEntity> running();

  @HQL("where state in ('ended', 'lost') order by endedAt desc, id limit :most")
  List<FloorSessionEntity> over(int most);

  @HQL(
      "select count(*) from FloorSessionEntity where meeting = :meeting"
          + " and occurrence = :occurrence and practice = false")
  long countOf(String meeting, String occurrence);

  /** Locked until the transaction ends, in one order, so that two never wait for each other. */
  default List<FloorSessionEntity> forChange(Collection<String> ids) {
    return session()
        .createSelectionQuery(
            "from FloorSessionEntity where id in :ids order by id", FloorSessionEntity.class)
        .setParameterList("ids", ids)
        .setHibernateLockMode(LockMode.PESSIMISTIC_WRITE)
        .getResultList();
  }

  /** The name of an event. */
  record EventKey(String session, long seq) {}

  @HQL("select session, seq from FloorEventEntity where session in :sessions and seq >= :first")
  List<EventKey> eventKeys(Collection<String> sessions, long first);

  @Insert
  void insertEvents(List<FloorEventEntity> events);

  @HQL(
      "select body from FloorEventEntity where session = :session and seq > :after"
          + " and seq <= :last order by seq limit :most")
  List<String> events(String session, long after, long last, int most);

  @HQL(
      "select body from FloorEventEntity where session = :session and seq <= :last"
          + " order by seq desc limit :most")
  List<String> lastEvents(String session, long last, int most);

  /** An event and its session. */
  record Waiting(String session, String body) {}

  @HQL(
      "select e.session, e.body from FloorSessionEntity s join FloorEventEntity e"
          + " on e.session = s.id and e.seq > s.folded where s.id in :ids"
          + " order by e.session, e.seq")
  List<Waiting> waiting(Collection<String> ids);

  @HQL(
      "update FloorSessionEntity set folded = :seq, state = :state, endedAt = :endedAt"
          + " where id = :id")
  int folded(String id, long seq, String state, @Nullable Instant endedAt);

  @HQL(
      "from FloorSessionEntity s where s.state in ('asked', 'open') and s.folded <"
          + " (select max(e.seq) from FloorEventEntity e where e.session = s.id)")
  List<FloorSessionEntity> withGaps();

  @Insert
  void insert(FloorIncidentEntity incident);

  @Find
  Optional<FloorIncidentEntity> incident(long id);

  @HQL("from FloorIncidentEntity where session = :session order by id desc")
  List<FloorIncidentEntity> incidents(String session);

  /**
   * Sessions that ended long ago, are not held for a reason, and of which no other server has hold.
   *
   * @param withPeople only those whose people are still known
   */
  default List<FloorSessionEntity> old(Instant before, boolean withPeople, int most) {
    return session()
        .createSelectionQuery(
            "from FloorSessionEntity s where s.state in ('ended', 'lost') and s.ends < :before"
                + (withPeople ? " and s.folded > 0" : "")
                + " and not exists (select 1 from FloorHoldEntity h where h.session = s.id)"
                + " order by s.ends",
            FloorSessionEntity.class)
        .setParameter("before", before)
        .setMaxResults(most)
        .setHibernateLockMode(LockMode.UPGRADE_SKIPLOCKED)
        .getResultList();
  }

  @HQL("delete from FloorEventEntity where session in :ids")
  int deleteEvents(Collection<String> ids);

  @HQL("delete from FloorAlertEntity where session in :ids")
  int deleteAlerts(Collection<String> ids);

  @HQL("delete from FloorOrderEntity where session in :ids")
  int deleteOrders(Collection<String> ids);

  @HQL("delete from FloorAllowanceEntity where session in :ids")
  int deleteAllowances(Collection<String> ids);

  /** Sessions of meetings that are running and no practice. */
  @HQL("where meeting in :meetings and state in ('asked', 'open') and practice = false order by id")
  List<FloorSessionEntity> ofMeetings(Collection<String> meetings);

  @HQL("update FloorSessionEntity set followed = :followed where id = :id")
  int follow(String id, String followed);

  @HQL("delete from FloorIncidentEntity where session in :ids")
  int deleteIncidents(Collection<String> ids);

  @HQL(
      "update FloorSessionEntity set folded = 0, coHosts = '[]', host = '', madeBy = ''"
          + " where id in :ids")
  int forgetPeople(Collection<String> ids);

  @HQL("delete from FloorSessionEntity where id in :ids")
  int deleteSessions(Collection<String> ids);
}
