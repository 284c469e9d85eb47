package app.uprightwarden.server.drafting;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;

/** Who has a draft open. */
@Entity
@Table(name = "draft_presence")
@IdClass(DraftPresenceEntity.Key.class)
class DraftPresenceEntity {
  @Id long draft;

  @Id String email = "";

  String name = "";

  Instant seenAt = Instant.EPOCH;

  /** What tells rows apart. */
  record Key(long draft, String email) implements Serializable {}
}
