package app.uprightwarden.server.audit;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A meeting as an audit judged it. */
@Entity
@Table(name = "audited_meeting")
@IdClass(AuditedMeetingEntity.Key.class)
class AuditedMeetingEntity {
  @Id long audit;

  @Id String meeting = "";

  String title = "";

  String host = "";

  @Nullable String unit;

  @Nullable String kind;

  @JdbcTypeCode(SqlTypes.SMALLINT)
  int exposure;

  @JdbcTypeCode(SqlTypes.SMALLINT)
  int intrusion;

  @JdbcTypeCode(SqlTypes.SMALLINT)
  int disruption;

  @Nullable Instant nextStart;

  int invited;

  int findings;

  @JdbcTypeCode(SqlTypes.TINYINT)
  int worst;

  int waived;

  @Nullable Long judgedSet;

  @Nullable Instant nextEnd;

  @Nullable Long version;

  @Nullable String number;

  @JdbcTypeCode(SqlTypes.CHAR)
  @Nullable String passcodeFingerprint;

  /** What the checks between meetings read of it; null where it was judged before that was kept. */
  @Nullable Long sharedKey;

  @Column(insertable = false, updatable = false)
  @Nullable Boolean undated;

  /** What tells rows apart. */
  record Key(long audit, String meeting) implements Serializable {}
}
