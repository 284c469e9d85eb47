package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Invitee;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.util.Locale;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** Somebody's part in a meeting. */
@Entity
@Table(name = "meeting_person")
@IdClass(MeetingPersonEntity.Key.class)
class MeetingPersonEntity {
  @Id long meeting;

  @Id String part = "";

  @Id int position;

  String email = "";

  @Nullable String need;

  @Nullable String task;

  @Nullable String language;

  @Column(insertable = false, updatable = false)
  @Nullable String folded;

  protected MeetingPersonEntity() {}

  MeetingPersonEntity(
      long meeting, String part, int position, String email, @Nullable String need) {
    this.meeting = meeting;
    this.part = part;
    this.position = position;
    this.email = email;
    this.need = need;
  }

  MeetingPersonEntity(long meeting, int position, Invitee invitee) {
    this(
        meeting,
        "invitee",
        position,
        invitee.email(),
        invitee.need().name().toLowerCase(Locale.ROOT));
    task = invitee.task() == null ? null : invitee.task().id();
    language = invitee.language();
  }

  Invitee invitee() {
    return new Invitee(
        email,
        Invitee.Need.valueOf(String.valueOf(need).toUpperCase(Locale.ROOT)),
        task == null ? null : Invitee.Task.valueOf(task.toUpperCase(Locale.ROOT)),
        language);
  }

  boolean isAs(MeetingPersonEntity other) {
    return part.equals(other.part)
        && position == other.position
        && email.equals(other.email)
        && Objects.equals(need, other.need)
        && Objects.equals(task, other.task)
        && Objects.equals(language, other.language);
  }

  /** What tells rows apart. */
  record Key(long meeting, String part, int position) implements Serializable {}
}
