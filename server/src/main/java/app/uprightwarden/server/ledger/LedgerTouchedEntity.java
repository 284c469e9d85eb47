package app.uprightwarden.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;

/** Another object that an entry changed. */
@Entity
@Table(name = "ledger_touched")
@IdClass(LedgerTouchedEntity.Key.class)
class LedgerTouchedEntity {
  @Id long seq;

  @Id String object = "";

  @Id String objectId = "";

  /** What tells rows apart. */
  record Key(String object, String objectId, long seq) implements Serializable {}
}
