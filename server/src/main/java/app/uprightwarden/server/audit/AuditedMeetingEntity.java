package app.uprightwarden.server.audit;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import java.util.Objects;
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

  static AuditedMeetingEntity of(long audit, FindingStore.MeetingRow m) {
    AuditedMeetingEntity made = new AuditedMeetingEntity();
    made.audit = audit;
    made.meeting = m.id();
    made.set(m);
    return made;
  }

  /** Takes over all but which meeting of which audit this is. */
  void set(FindingStore.MeetingRow m) {
    title = m.title();
    host = m.host();
    unit = m.unit();
    kind = m.kind();
    exposure = m.exposure();
    intrusion = m.intrusion();
    disruption = m.disruption();
    nextStart = m.next();
    nextEnd = m.nextEnd();
    invited = m.invited();
    findings = m.open();
    worst = m.worst();
    waived = m.waived();
    judgedSet = m.judgedSet();
    version = m.version();
    number = m.number();
    passcodeFingerprint = m.passcode();
    sharedKey = m.shared();
  }

  FindingStore.MeetingRow row() {
    return new FindingStore.MeetingRow(
        meeting,
        title,
        host,
        unit,
        kind,
        exposure,
        intrusion,
        disruption,
        nextStart,
        nextEnd,
        invited,
        findings,
        worst,
        waived,
        Objects.requireNonNullElse(judgedSet, 0L),
        Objects.requireNonNullElse(version, 0L),
        number,
        passcodeFingerprint,
        sharedKey);
  }

  /** What tells rows apart. */
  record Key(long audit, String meeting) implements Serializable {}
}
