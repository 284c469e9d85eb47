package app.uprightwarden.server.scim;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** What a directory elsewhere knows a person or a list by. */
@Entity
@Table(name = "scim_record")
class ScimRecordEntity {
  @Id String id = "";

  /** {@code user} or {@code group}. */
  String sort = "";

  /** A person's folded address, or a list's id. */
  String target = "";

  /** Folded; of a group its id. */
  String userName = "";

  @Nullable String externalId;

  /** The resource as it was given, of what we keep. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String document = "{}";

  /** It was deleted there: the person stays as one who has left. */
  boolean gone;

  Instant madeAt = Instant.EPOCH;

  Instant changedAt = Instant.EPOCH;
}
