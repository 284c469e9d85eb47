package app.uprightwarden.server.alerting;

import jakarta.data.repository.Find;
import jakarta.data.repository.Repository;
import jakarta.data.repository.Save;
import java.time.Instant;
import java.util.Optional;
import org.hibernate.LockMode;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.jspecify.annotations.Nullable;
import org.springframework.transaction.annotation.Transactional;

/** The log collector. */
@Repository
@Transactional
interface LogCollectorRepository {
  StatelessSession session();

  @Find
  Optional<LogCollectorEntity> find(int id);

  default @Nullable LogCollectorEntity locked() {
    return session()
        .get(LogCollectorEntity.class, LogCollectorEntity.ONE, LockMode.PESSIMISTIC_WRITE);
  }

  @Save
  void save(LogCollectorEntity row);

  /** Only where it is still the collector that took them, and nobody has come further. */
  @HQL(
      "update LogCollectorEntity set sentSeq = :seq, sentAt = :at, tries = 0, nextAt = null,"
          + " why = null where address = :address and sentSeq < :seq")
  int taken(String address, long seq, Instant at);

  @HQL(
      "update LogCollectorEntity set tries = tries + 1, nextAt = :next, why = :why"
          + " where address = :address")
  int refused(String address, Instant next, String why);
}
