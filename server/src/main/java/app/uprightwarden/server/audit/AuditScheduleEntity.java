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

/** When an audit is made by itself, and who gets its report. */
@Entity
@Table(name = "audit_schedule")
class AuditScheduleEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String name = "";

  String days = "";

  String atTime = "";

  String zone = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String scope = "";

  int windowDays;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String recipients = "";

  Instant nextAt = Instant.EPOCH;

  boolean active;

  String paper = "a4";

  String madeBy = "";

  long version;
}
