package app.uprightwarden.server.exchange;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** What one thing was before an import. */
@Entity
@Table(name = "import_item")
@IdClass(ImportItemEntity.Key.class)
class ImportItemEntity {
  @Id long batch;

  @Id int position;

  String part = "";

  String ref = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  @Nullable String document;

  byte @Nullable [] passcodeCipher;

  @Nullable Long version;

  @JdbcTypeCode(SqlTypes.CHAR)
  @Nullable String digest;

  /** What tells rows apart. */
  record Key(long batch, int position) implements Serializable {}
}
