package app.uprightwarden.server.register;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import jakarta.persistence.CollectionTable;
import jakarta.persistence.Column;
import jakarta.persistence.ElementCollection;
import jakarta.persistence.Embeddable;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.JoinColumn;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.ToLongFunction;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A meeting's row, as it is written; {@link MeetingReader} reads it. */
@Entity
@Table(name = "meeting")
@SuppressWarnings("UnusedVariable") // Hibernate reads the fields
class MeetingEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private @Nullable Long id;

  private String publicId = "";
  private String title = "";

  @Column(columnDefinition = "mediumtext")
  private String description = "";

  private @Nullable String kind;
  private String host = "";
  private @Nullable String space;
  private LocalDateTime startsAt = LocalDateTime.MIN;
  private String zone = "";
  private int minutes;
  private @Nullable String recurrence;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  private String exDates = "[]";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  private String rDates = "[]";

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  private String lists = "[]";

  private @Nullable String number;
  private byte @Nullable [] passcodeCipher;

  @JdbcTypeCode(SqlTypes.CHAR)
  private @Nullable String passcodeFingerprint;

  private @Nullable Integer passcodeLength;
  private @Nullable String passcodeMakeup;
  private @Nullable String passcodeWeakness;
  private @Nullable Boolean passcodeLeaked;
  private long controlSet;
  private String act = "scheduled";
  private @Nullable String remark;
  private @Nullable String room;
  private boolean wholeDay;
  private @Nullable Integer reminder;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  private String breakout = "[]";

  private @Nullable String uid;
  private int sequence;

  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  private String foreignLines = "[]";

  private String changedBy = "";
  private Instant changedAt = Instant.EPOCH;
  @Version private @Nullable Long version;

  @ElementCollection
  @CollectionTable(name = "meeting_person", joinColumns = @JoinColumn(name = "meeting"))
  private List<Part> people = new ArrayList<>();

  @ElementCollection
  @CollectionTable(name = "meeting_change", joinColumns = @JoinColumn(name = "meeting"))
  private List<Change> changes = new ArrayList<>();

  /** Somebody's part in a meeting. */
  @Embeddable
  record Part(String part, int position, String email, @Nullable String need) {}

  /** What is different about one occurrence. */
  @Embeddable
  record Change(
      LocalDateTime at,
      @Nullable LocalDateTime startsAt,
      @Nullable Integer minutes,
      long controlSet,
      int position) {}

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
    setPeople(meeting);
    setChanges(meeting.changes(), controlSets);
  }

  private void setFacts(@Nullable PasscodeFacts facts) {
    passcodeFingerprint = facts == null ? null : facts.fingerprint();
    passcodeLength = facts == null ? null : facts.length();
    passcodeMakeup = facts == null ? null : facts.makeup().toString();
    passcodeWeakness = facts == null ? null : facts.weakness().id();
    passcodeLeaked = facts == null ? null : facts.leaked();
  }

  private void setPeople(Meeting meeting) {
    List<Part> parts = new ArrayList<>();
    addParts(parts, "co-host", meeting.coHosts());
    addParts(parts, "presenter", meeting.presenters());
    int position = 0;
    for (Invitee invitee : meeting.invitees()) {
      String need = invitee.need().name().toLowerCase(Locale.ROOT);
      parts.add(new Part("invitee", position++, invitee.email(), need));
    }
    if (!parts.equals(people)) {
      people.clear();
      people.addAll(parts);
    }
  }

  private static void addParts(List<Part> parts, String part, List<String> emails) {
    int position = 0;
    for (String email : emails) {
      parts.add(new Part(part, position++, email, null));
    }
  }

  private void setChanges(
      List<OccurrenceChange> wanted, ToLongFunction<ControlValues> controlSets) {
    List<Change> rows = new ArrayList<>();
    for (OccurrenceChange change : wanted) {
      rows.add(
          new Change(
              change.at(),
              change.start(),
              change.minutes(),
              controlSets.applyAsLong(change.controls()),
              rows.size()));
    }
    if (!rows.equals(changes)) {
      changes.clear();
      changes.addAll(rows);
    }
  }

  void setControlSet(long controlSet) {
    this.controlSet = controlSet;
  }

  void changed(String act, @Nullable String remark, String by, Instant at) {
    this.remark = remark;
    this.act = act;
    changedBy = by;
    changedAt = at;
  }

  long version() {
    return version == null ? 0 : version;
  }
}
