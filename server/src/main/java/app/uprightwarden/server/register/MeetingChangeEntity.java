package app.uprightwarden.server.register;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.LocalDateTime;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/** What is different about one occurrence of a series. */
@Entity
@Table(name = "meeting_change")
@IdClass(MeetingChangeEntity.Key.class)
class MeetingChangeEntity {
  @Id long meeting;

  @Id LocalDateTime at = LocalDateTime.MIN;

  @Nullable LocalDateTime startsAt;

  @Nullable Integer minutes;

  long controlSet;

  int position;

  boolean isAs(MeetingChangeEntity other) {
    return at.equals(other.at)
        && Objects.equals(startsAt, other.startsAt)
        && Objects.equals(minutes, other.minutes)
        && controlSet == other.controlSet
        && position == other.position;
  }

  /** What tells rows apart. */
  record Key(long meeting, LocalDateTime at) implements Serializable {}
}
