package app.uprightwarden.server.audit;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A finding that came or went in the standing audit, and why. */
@Entity
@Table(name = "finding_event")
class FindingEventEntity {
  @Id
  @GeneratedValue(generator = "finding_event_seq")
  @SequenceGenerator(
      name = "finding_event_seq",
      sequenceName = "finding_event_seq",
      allocationSize = 1000)
  long id;

  Instant at = Instant.EPOCH;

  String what = "";

  String cause = "";

  @Nullable String byWhom;

  String meeting = "";

  String title = "";

  @Nullable String unit;

  String occurrence = "";

  String checkId = "";

  String subject = "";

  String family = "";

  @JdbcTypeCode(SqlTypes.TINYINT)
  int severity;

  @Nullable Instant seenAt;
}
