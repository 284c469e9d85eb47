package app.uprightwarden.server.alerting;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** That somebody was told of a cause of alerts. */
@Entity
@Table(name = "alert_told")
@IdClass(AlertToldEntity.Key.class)
class AlertToldEntity {
  /** A session's cause. */
  record Key(String session, String cause) implements Serializable {}

  @Id String session = "";

  @Id String cause = "";

  Instant toldAt = Instant.EPOCH;

  /** How many on call have been told; 0 once it is over. */
  int step;

  /** When the next one is; null where there is none. */
  @Nullable Instant nextAt;
}
