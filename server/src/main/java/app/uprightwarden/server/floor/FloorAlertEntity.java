package app.uprightwarden.server.floor;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** Something in a session that somebody should look at. */
@Entity
@Table(name = "floor_alert")
class FloorAlertEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String session = "";

  String alertKey = "";

  String kind = "";

  long seq;

  @Nullable String who;

  @Nullable String guarantee;

  int severity;

  String words = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String act = "";

  String cause = "";

  /** Whose act it is about, where that is known. */
  @Nullable String byWhom;

  Instant happened = Instant.EPOCH;

  Instant raised = Instant.EPOCH;

  String state = "";

  @Nullable String handledBy;

  @Nullable String handedTo;

  @Nullable String note;

  Instant changedAt = Instant.EPOCH;
}
