package app.uprightwarden.server.register;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A meeting that the standing audit has yet to look at. */
@Entity
@Table(name = "meeting_due")
class MeetingDueEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String meeting = "";

  protected MeetingDueEntity() {}

  MeetingDueEntity(String meeting) {
    this.meeting = meeting;
  }
}
