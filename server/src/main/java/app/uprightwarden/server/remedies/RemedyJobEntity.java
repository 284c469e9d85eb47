package app.uprightwarden.server.remedies;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A remedy of many meetings, or the undoing of one. */
@Entity
@Table(name = "remedy_job")
class RemedyJobEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String what = "";

  String byWhom = "";

  String byName = "";

  String byRole = "";

  @Nullable String byUnit;

  Instant at = Instant.EPOCH;

  @Nullable Long undoOf;
}
