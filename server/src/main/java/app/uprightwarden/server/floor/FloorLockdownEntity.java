package app.uprightwarden.server.floor;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** Many sessions locked by one act, and how they were before. */
@Entity
@Table(name = "floor_lockdown")
class FloorLockdownEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  /** Session, whether it was locked, and how its waiting room stood. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String document = "[]";

  String byWhom = "";

  Instant at = Instant.EPOCH;

  @Nullable Instant undoneAt;

  @Nullable String undoneBy;
}
