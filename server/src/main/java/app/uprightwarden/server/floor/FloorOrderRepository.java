package app.uprightwarden.server.floor;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What the service was told to do. */
@Repository
@Transactional
interface FloorOrderRepository {
  /** Stores an order; one that is there already stays as it is. */
  @HQL(
      "insert into FloorOrderEntity (id, session, body, askedBy, at, state, nextAt, reason, attempts)"
          + " values (:id, :session, :body, :by, :at, 'waiting', :next, '', 0)"
          + " on conflict (id) do nothing")
  int add(String id, String session, String body, String by, Instant at, Instant next);

  @Find
  Optional<FloorOrderEntity> find(String id);

  @HQL(
      "update FloorOrderEntity set state = :state, reason = :reason, attempts = attempts + 1,"
          + " nextAt = :next where id = :id and state = 'waiting'")
  int tried(String id, String state, String reason, Instant next);

  @HQL(
      "select id from FloorOrderEntity where state = 'waiting' and nextAt <= :now"
          + " order by at limit 50")
  List<String> due(Instant now);

  @HQL(
      "where session = :session and (state = 'waiting' or state <> 'done' and nextAt > :since)"
          + " order by at desc limit 20")
  List<FloorOrderEntity> unsettled(String session, Instant since);

  @HQL("where session = :session and state = 'waiting' order by at limit 200")
  List<FloorOrderEntity> waiting(String session);

  @HQL(
      "update FloorOrderEntity set state = 'given-up', reason = :why where id = :id"
          + " and state = 'waiting'")
  int giveUp(String id, String why);

  @HQL("select count(*) from FloorOrderEntity where state = 'waiting'")
  long countWaiting();
}
