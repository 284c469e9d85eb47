package app.uprightwarden.server.ledger;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** An entry of the ledger; its hash covers all but the key's number. */
@Entity
@Table(name = "ledger_entry")
class LedgerEntryEntity {
  @Id long seq;

  Instant at = Instant.EPOCH;

  String who = "";

  String via = "";

  String address = "";

  String act = "";

  String object = "";

  String objectId = "";

  String title = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String details = "";

  @JdbcTypeCode(SqlTypes.CHAR)
  String prevHash = "";

  @JdbcTypeCode(SqlTypes.CHAR)
  String hash = "";

  @Nullable Integer keyNo;
}
