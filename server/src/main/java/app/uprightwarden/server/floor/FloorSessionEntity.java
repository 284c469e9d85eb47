package app.uprightwarden.server.floor;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A session as the conference service tells it. */
@Entity
@Table(name = "floor_session")
class FloorSessionEntity {
  @Id String id = "";

  String meeting = "";

  String occurrence = "";

  String title = "";

  String host = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String coHosts = "";

  Instant starts = Instant.EPOCH;

  Instant ends = Instant.EPOCH;

  Instant clockFrom = Instant.EPOCH;

  Instant wallFrom = Instant.EPOCH;

  double speed;

  boolean practice;

  String script = "";

  int strangers;

  int edition;

  @Nullable String kind;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String controls = "";

  /** What of its meeting it has followed; null where that is as it was opened. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  @Nullable String followed;

  String state = "";

  long folded;

  String madeBy = "";

  /** The linked service that holds it; null for none. */
  @Nullable Long service;

  @Nullable Instant endedAt;
}
