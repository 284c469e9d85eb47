package app.uprightwarden.server.scheduling;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What somebody was sent about a meeting, and answered. */
@Entity
@Table(name = "invitation")
@IdClass(InvitationEntity.Key.class)
class InvitationEntity {
  @Id String meeting = "";

  @Id String email = "";

  @Id String occurrence = "";

  String state = "";

  int sequence;

  @Nullable String remark;

  Instant at = Instant.EPOCH;

  @Nullable String stamp;

  /** What tells rows apart. */
  record Key(String meeting, String email, String occurrence) implements Serializable {}
}
