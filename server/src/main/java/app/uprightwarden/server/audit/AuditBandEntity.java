package app.uprightwarden.server.audit;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;

/** How many meetings of a unit an audit found in a band of exposure. */
@Entity
@Table(name = "audit_band")
@IdClass(AuditBandEntity.Key.class)
class AuditBandEntity {
  @Id long audit;

  @Id String unit = "";

  @Id String band = "";

  int meetings;

  /** What tells rows apart. */
  record Key(long audit, String unit, String band) implements Serializable {}
}
