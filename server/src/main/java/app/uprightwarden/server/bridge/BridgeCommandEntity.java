package app.uprightwarden.server.bridge;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A command that the stand-in was told, by its id. */
@Entity
@Table(name = "bridge_command")
class BridgeCommandEntity {
  @Id String id = "";

  String meeting = "";

  Instant at = Instant.EPOCH;

  String outcome = "";

  @Nullable String reason;
}
