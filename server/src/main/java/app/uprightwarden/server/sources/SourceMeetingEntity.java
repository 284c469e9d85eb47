package app.uprightwarden.server.sources;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

/** A meeting that a calendar has brought, and what it is called there. */
@Entity
@Table(name = "source_meeting")
class SourceMeetingEntity {
  @Id String meeting = "";

  long source;

  String name = "";
}
