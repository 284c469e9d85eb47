package app.uprightwarden.server.audit;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** How many findings of a unit, family and severity an audit has. */
@Entity
@Table(name = "audit_count")
@IdClass(AuditCountEntity.Key.class)
class AuditCountEntity {
  @Id long audit;

  @Id String unit = "";

  @Id String family = "";

  @Id
  @JdbcTypeCode(SqlTypes.TINYINT)
  int severity;

  int open;

  int waived;

  /** What tells rows apart. */
  record Key(long audit, String unit, String family, int severity) implements Serializable {}
}
