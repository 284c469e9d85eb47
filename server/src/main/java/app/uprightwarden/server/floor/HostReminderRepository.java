package app.uprightwarden.server.floor;

import jakarta.data.repository.Repository;
import java.time.Instant;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** Who was reminded. */
@Repository
@Transactional
interface HostReminderRepository {
  StatelessSession session();

  /**
   * @return 1 where nobody was reminded of it yet
   */
  @HQL(
      "insert into HostReminderEntity (meeting, occurrence, at) values (:meeting, :occurrence, :at)"
          + " on conflict (meeting, occurrence) do nothing")
  int add(String meeting, String occurrence, Instant at);

  @HQL("delete from HostReminderEntity where at < :before")
  int forget(Instant before);
}
