package app.uprightwarden.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;

/** A code that stands in for the second factor, once. */
@Entity
@Table(name = "recovery_code")
@IdClass(RecoveryCodeEntity.Key.class)
class RecoveryCodeEntity {
  @Id long account;

  @Id
  @JdbcTypeCode(SqlTypes.CHAR)
  String codeHash = "";

  @JdbcTypeCode(SqlTypes.CHAR)
  String salt = "";

  /** What tells rows apart. */
  record Key(long account, String codeHash) implements Serializable {}
}
