package app.uprightwarden.server.waivers;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A waiver that a host asked for. */
@Entity
@Table(name = "waiver_request")
class WaiverRequestEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String meeting = "";

  String control = "";

  String wanted = "";

  String reason = "";

  String askedBy = "";

  Instant askedAt = Instant.EPOCH;

  String state = "open";

  @Nullable String answeredBy;

  @Nullable Instant answeredAt;

  @Nullable String answer;
}
