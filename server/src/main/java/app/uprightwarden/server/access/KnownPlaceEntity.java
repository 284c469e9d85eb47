package app.uprightwarden.server.access;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;

/** Where an account has signed in before. */
@Entity
@Table(name = "known_place")
@IdClass(KnownPlaceEntity.Key.class)
class KnownPlaceEntity {
  @Id long account;

  @Id String place = "";

  Instant at = Instant.EPOCH;

  /** What tells rows apart. */
  record Key(long account, String place) implements Serializable {}
}
