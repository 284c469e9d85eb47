package app.uprightwarden.server.live;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** What open pages should hear of. */
@Entity
@Table(name = "signal_sent")
class SignalSentEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String topic = "";

  Instant at = Instant.EPOCH;
}
