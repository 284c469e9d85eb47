package app.uprightwarden.server.waivers;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A waiver. */
@Entity
@Table(name = "waiver")
class WaiverEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String scope = "";

  @Nullable String meeting;

  String occurrence = "";

  String checkId = "";

  String subject = "";

  @Nullable String unit;

  String reason = "";

  @Nullable String askedBy;

  String grantedBy = "";

  Instant grantedAt = Instant.EPOCH;

  @Nullable String secondBy;

  @Nullable Instant secondAt;

  Instant until = Instant.EPOCH;

  String state = "";

  @Nullable String endedBy;

  @Nullable Instant endedAt;

  boolean warned;
}
