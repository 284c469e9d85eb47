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

  static FindingEntity of(long audit, FindingStore.FindingRow f) {
    FindingEntity made = new FindingEntity();
    made.audit = audit;
    made.meeting = f.meeting();
    made.occurrence = f.occurrence();
    made.checkId = f.check();
    made.subject = f.subject();
    made.family = f.family();
    made.severity = f.severity();
    made.nextStart = f.next();
    made.invited = f.invited();
    made.waiver = f.waiver();
    made.seenAt = f.seen();
    made.detail = f.detail();
    return made;
  }

  FindingStore.FindingRow row() {
    return new FindingStore.FindingRow(
        meeting,
        occurrence,
        checkId,
        subject,
        family,
        severity,
        nextStart,
        invited,
        waiver,
        seenAt,
        detail);
  }
}
