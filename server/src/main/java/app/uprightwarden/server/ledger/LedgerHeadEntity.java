package app.uprightwarden.server.ledger;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** The one row that says where the ledger begins and ends. */
@Entity
@Table(name = "ledger_head")
class LedgerHeadEntity {
  @Id int id;

  long seq;

  @JdbcTypeCode(SqlTypes.CHAR)
  String hash = "";

  long fromSeq;

  @JdbcTypeCode(SqlTypes.CHAR)
  String fromHash = "";

  @Nullable Integer keyNo;

  @Nullable Long keyedFrom;

  @JdbcTypeCode(SqlTypes.CHAR)
  @Nullable String mac;
}
