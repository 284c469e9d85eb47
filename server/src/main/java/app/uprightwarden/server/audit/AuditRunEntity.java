package app.uprightwarden.server.audit;

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

/** An audit: what it is of, how far it is, and what it found. */
@Entity
@Table(name = "audit_run")
class AuditRunEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String state = "";

  int edition;

  Instant windowFrom = Instant.EPOCH;

  Instant windowTo = Instant.EPOCH;

  String startedBy = "";

  Instant startedAt = Instant.EPOCH;

  @Nullable Instant finishedAt;

  int meetings;

  int judged;

  int occurrences;

  int findings;

  @Nullable String message;

  String cause = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String scope = "";

  int scanned;

  long cursorRow;

  @Nullable String worker;

  @Nullable Instant leaseUntil;

  boolean baseline;

  @Nullable Long schedule;

  boolean reported;

  @Nullable Long directory;

  @Nullable Instant renewedAt;
}
