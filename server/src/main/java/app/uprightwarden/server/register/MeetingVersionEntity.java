package app.uprightwarden.server.register;

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

/** What a meeting was before a change; without a document: its end. */
@Entity
@Table(name = "meeting_version")
class MeetingVersionEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String meeting = "";

  long version;

  String title = "";

  String host = "";

  Instant at = Instant.EPOCH;

  String changedBy = "";

  String act = "";

  @Nullable String remark;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  @Nullable String document;

  byte @Nullable [] passcodeCipher;
}
