package app.uprightwarden.server.register;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
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

  boolean isAs(MeetingPersonEntity other) {
    return part.equals(other.part)
        && position == other.position
        && email.equals(other.email)
        && Objects.equals(need, other.need);
  }

  /** What tells rows apart. */
  record Key(long meeting, String part, int position) implements Serializable {}
}
