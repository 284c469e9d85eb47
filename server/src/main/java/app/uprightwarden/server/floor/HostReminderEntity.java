package app.uprightwarden.server.floor;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;

/** That a host was reminded of one date of a meeting. */
@Entity
@Table(name = "host_reminder")
@IdClass(HostReminderEntity.Key.class)
class HostReminderEntity {
  /** A date of a meeting. */
  record Key(String meeting, String occurrence) implements Serializable {}

  @Id String meeting = "";

  @Id String occurrence = "";

  Instant at = Instant.EPOCH;

  protected HostReminderEntity() {}

  HostReminderEntity(String meeting, String occurrence, Instant at) {
    this.meeting = meeting;
    this.occurrence = occurrence;
    this.at = at;
  }
}
