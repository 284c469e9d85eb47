package app.uprightwarden.server.floor;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** That a setting may go beyond its rule, in one session. */
@Entity
@Table(name = "floor_allowance")
class FloorAllowanceEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String session = "";

  String control = "";

  /** As orders write values. */
  String value = "";

  String reason = "";

  String byWhom = "";

  Instant at = Instant.EPOCH;
}
