package app.uprightwarden.server.register;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A meeting that a conference service holds; see {@link HeldMeeting}. */
@Entity
@Table(name = "meeting_held")
class MeetingHeldEntity {
  @Id String meeting = "";

  long service;

  /** Its id there; our own until it has been made there. */
  String there = "";

  String revision = "";

  Instant readAt = Instant.EPOCH;

  @Nullable String link;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String dialIn = "[]";

  /** Date, empty for the series, to control to value in plain form. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String decided = "{}";

  /** Date and control to who changed it there. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String notes = "{}";

  /** What else than controls is to be written, names with commas between them. */
  String fields = "";

  String writing = "";

  @Nullable String command;

  int tries;

  @Nullable String why;

  boolean late;

  @Nullable String decidedBy;

  @Nullable Instant decidedAt;

  @Nullable Instant sentAt;

  @Nullable Instant confirmedAt;

  @Version long version;
}
