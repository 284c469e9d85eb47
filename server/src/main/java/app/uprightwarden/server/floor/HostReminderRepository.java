package app.uprightwarden.server.floor;

import jakarta.data.repository.Insert;
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

  @HQL(
      "select count(*) from HostReminderEntity where meeting = :meeting and occurrence = :occurrence")
  long countOf(String meeting, String occurrence);

  /**
   * Fails where it is there: what an upsert says of how many it wrote tells nobody whether it was.
   */
  @Insert
  void insert(HostReminderEntity reminder);

  @HQL("delete from HostReminderEntity where at < :before")
  int forget(Instant before);
}
