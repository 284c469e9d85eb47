package app.uprightwarden.server.audit;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A finding of an audit. */
@Entity
@Table(name = "finding")
class FindingEntity {
  @Id
  @GeneratedValue(generator = "finding_seq")
  @SequenceGenerator(name = "finding_seq", sequenceName = "finding_seq", allocationSize = 1000)
  long id;

  long audit;

  String meeting = "";

  String occurrence = "";

  String checkId = "";

  String subject = "";

  String family = "";

  @JdbcTypeCode(SqlTypes.TINYINT)
  int severity;

  @Nullable Instant nextStart;

  int invited;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String detail = "";

  @Nullable Long waiver;

  @Nullable Instant seenAt;

  @Column(insertable = false, updatable = false)
  @Nullable Boolean undated;
}
