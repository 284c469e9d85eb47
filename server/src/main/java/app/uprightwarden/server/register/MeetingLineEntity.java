package app.uprightwarden.server.register;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A meeting as lists show it; what is null has not been judged yet. */
@Entity
@Table(name = "meeting_line")
class MeetingLineEntity {
  @Id String meeting = "";

  String title = "";

  String host = "";

  String hostName = "";

  /** What it is found by; null where it was written before there was this. */
  @Column(columnDefinition = "varbinary(3040)")
  @Nullable String searchText;

  @Nullable String unit;

  @Nullable String kind;

  Instant changedAt = Instant.EPOCH;

  @Nullable Instant nextStart;

  @Column(insertable = false, updatable = false)
  @Nullable Boolean undated;

  @Nullable Integer occurrences;

  @JdbcTypeCode(SqlTypes.SMALLINT)
  @Nullable Integer exposure;

  int findings;

  @JdbcTypeCode(SqlTypes.TINYINT)
  int worst;

  int invited;
}
