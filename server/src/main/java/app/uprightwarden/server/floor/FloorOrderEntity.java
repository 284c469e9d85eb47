package app.uprightwarden.server.floor;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** What the service was told to do in a session. */
@Entity
@Table(name = "floor_order")
class FloorOrderEntity {
  @Id String id = "";

  String session = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String body = "";

  String askedBy = "";

  Instant at = Instant.EPOCH;

  String state = "";

  String reason = "";

  int attempts;

  Instant nextAt = Instant.EPOCH;
}
