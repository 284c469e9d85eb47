package app.uprightwarden.server.alerting;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** Whom alerts reach, and how; there is one. */
@Entity
@Table(name = "alert_setting")
class AlertSettingEntity {
  static final int ONE = 1;

  @Id int id = ONE;

  /** Addresses, in the order in which they are told. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String onCall = "[]";

  int nextMinutes = 5;

  int leastSeverity = 3;

  /** {@code 22:00}; null for no quiet hours. */
  @Nullable String quietFrom;

  @Nullable String quietTo;

  String quietZone = "UTC";

  @Nullable String webhook;

  byte @Nullable [] secretCipher;

  String changedBy = "";

  Instant changedAt = Instant.EPOCH;

  @Version long version;
}
