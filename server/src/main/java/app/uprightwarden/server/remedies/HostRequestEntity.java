package app.uprightwarden.server.remedies;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** What a host was asked, at one time. */
@Entity
@Table(name = "host_request")
class HostRequestEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String host = "";

  String askedBy = "";

  Instant askedAt = Instant.EPOCH;

  Instant remindAt = Instant.EPOCH;

  int reminded;

  Instant applyAfter = Instant.EPOCH;

  String note = "";
}
