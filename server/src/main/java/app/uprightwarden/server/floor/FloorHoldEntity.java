package app.uprightwarden.server.floor;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** That what is known of a session is held, whatever retention says. */
@Entity
@Table(name = "floor_hold")
class FloorHoldEntity {
  @Id String session = "";

  String reason = "";

  String byWhom = "";

  Instant at = Instant.EPOCH;
}
