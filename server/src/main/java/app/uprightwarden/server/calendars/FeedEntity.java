package app.uprightwarden.server.calendars;

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

/** A calendar address that somebody may read without signing in. */
@Entity
@Table(name = "feed")
class FeedEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  @JdbcTypeCode(SqlTypes.CHAR)
  String tokenHash = "";

  String name = "";

  String owner = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String scope = "";

  Instant madeAt = Instant.EPOCH;

  @Nullable Instant usedAt;

  Instant endsAt = Instant.EPOCH;
}
