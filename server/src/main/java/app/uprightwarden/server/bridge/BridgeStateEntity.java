package app.uprightwarden.server.bridge;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** The one row with the stand-in's faults. */
@Entity
@Table(name = "bridge_state")
class BridgeStateEntity {
  @Id int id;

  @Nullable Instant awayUntil;

  String refuses = "";

  int slowMs;

  boolean repeats;

  boolean shuffles;
}
