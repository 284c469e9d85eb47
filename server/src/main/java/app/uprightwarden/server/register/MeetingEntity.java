package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.Id;
import jakarta.persistence.SequenceGenerator;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.function.ToLongFunction;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A meeting's row. */
@Entity
@Table(name = "meeting")
class MeetingEntity {
  @Id
  @GeneratedValue(generator = "meeting_seq")
  @SequenceGenerator(name = "meeting_seq", sequenceName = "meeting_seq", allocationSize = 1000)
  long id;

  String publicId = "";
  String title = "";

  @Column(columnDefinition = "mediumtext")
  String description = "";

  @Nullable String kind;
  String host = "";
  @Nullable String space;
  LocalDateTime startsAt = LocalDateTime.MIN;
  String zone = "";
  int minutes;
  @Nullable String recurrence;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String exDates = "[]";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String rDates = "[]";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String lists = "[]";

  @Nullable String number;
  byte @Nullable [] passcodeCipher;

  @JdbcTypeCode(SqlTypes.CHAR)
  @Nullable String passcodeFingerprint;

  @Nullable Integer passcodeLength;
  @Nullable String passcodeMakeup;
  @Nullable String passcodeWeakness;
  @Nullable Boolean passcodeLeaked;
  long controlSet;
  String act = "scheduled";
  @Nullable String remark;
  @Nullable String room;
  boolean wholeDay;
  @Nullable Integer reminder;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String breakout = "[]";

  @Nullable String uid;
  int sequence;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String foreignLines = "[]";

  String changedBy = "";
  Instant changedAt = Instant.EPOCH;
  @Version long version;

  /** The host's address in lower case, by the database. */
  @Column(insertable = false, updatable = false)
  @Nullable String hostFolded;

  /** How lists are written in JSON columns. */
  interface Lists {
    String write(List<?> list);
  }

  void set(
      Meeting meeting,
      Details details,
      byte @Nullable [] cipher,
      ToLongFunction<ControlValues> controlSets,
      Lists json) {
    publicId = meeting.id();
    title = meeting.title();
    description = meeting.description();
    kind = meeting.kind();
    host = meeting.host();
    space = meeting.space();
    startsAt = meeting.start();
    zone = meeting.zone().getId();
    minutes = meeting.minutes();
    recurrence = meeting.recurrence();
    exDates = json.write(meeting.exDates());
    rDates = json.write(meeting.rDates());
    lists = json.write(meeting.lists());
    number = meeting.number();
    passcodeCipher = cipher;
    setFacts(meeting.passcode());
    controlSet = controlSets.applyAsLong(meeting.controls());
    room = details.room();
    wholeDay = details.wholeDay();
    reminder = details.reminder();
    breakout = json.write(details.groups());
    uid = details.uid();
    sequence = details.sequence();
    foreignLines = json.write(details.foreign());
  }

  private void setFacts(@Nullable PasscodeFacts facts) {
    passcodeFingerprint = facts == null ? null : facts.fingerprint();
    passcodeLength = facts == null ? null : facts.length();
    passcodeMakeup = facts == null ? null : facts.makeup().toString();
    passcodeWeakness = facts == null ? null : facts.weakness().id();
    passcodeLeaked = facts == null ? null : facts.leaked();
  }

  /** The rows of the people who have a part in a meeting that is stored. */
  List<MeetingPersonEntity> people(Meeting meeting) {
    List<MeetingPersonEntity> rows = new ArrayList<>();
    addParts(rows, "co-host", meeting.coHosts());
    addParts(rows, "presenter", meeting.presenters());
    int position = 0;
    for (Invitee invitee : meeting.invitees()) {
      rows.add(new MeetingPersonEntity(id, position++, invitee));
    }
    return rows;
  }

  private void addParts(List<MeetingPersonEntity> rows, String part, List<String> emails) {
    int position = 0;
    for (String email : emails) {
      rows.add(new MeetingPersonEntity(id, part, position++, email, null));
    }
  }

  /** The rows of the occurrences that differ, of a meeting that is stored. */
  /** Where a meeting needs no digits for telephones, those that were weak are gone. */
  void digitsGo(boolean areNeeded) {
    if (!areNeeded && Weakness.PHONE.id().equals(passcodeWeakness)) {
      passcodeWeakness = Weakness.NONE.id();
    }
  }

  List<MeetingChangeEntity> changes(
      List<OccurrenceChange> wanted, ToLongFunction<ControlValues> controlSets) {
    List<MeetingChangeEntity> rows = new ArrayList<>();
    for (OccurrenceChange change : wanted) {
      MeetingChangeEntity row = new MeetingChangeEntity();
      row.meeting = id;
      row.at = change.at();
      row.startsAt = change.start();
      row.minutes = change.minutes();
      row.controlSet = controlSets.applyAsLong(change.controls());
      row.position = rows.size();
      rows.add(row);
    }
    return rows;
  }

  void changed(String act, @Nullable String remark, String by, Instant at) {
    this.remark = remark;
    this.act = act;
    changedBy = by;
    changedAt = at;
  }
}
