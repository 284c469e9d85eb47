package app.uprightwarden.server.remedies;

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

/** One finding that a host was asked about. */
@Entity
@Table(name = "host_request_item")
class HostRequestItemEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  long request;

  String meeting = "";

  String title = "";

  String occurrence = "";

  String checkId = "";

  String subject = "";

  @JdbcTypeCode(SqlTypes.TINYINT)
  int severity;

  String sentence = "";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String changes = "";

  String state = "";

  @Nullable String answer;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  @Nullable String proposed;

  @Nullable String answeredBy;

  @Nullable Instant answeredAt;

  @Nullable Instant mendedAt;
}
