package app.uprightwarden.server.watch;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A server that runs on this database. */
@Entity
@Table(name = "node")
class NodeEntity {
  @Id String name = "";

  String version = "";

  Instant startedAt = Instant.EPOCH;

  Instant seenAt = Instant.EPOCH;
}
