package app.uprightwarden.server.exchange;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** An import that can be taken back. */
@Entity
@Table(name = "import_batch")
class ImportBatchEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String what = "";

  String name = "";

  String takenBy = "";

  Instant takenAt = Instant.EPOCH;

  int added;

  int changed;

  int unchanged;

  int refused;

  @Nullable String takenBackBy;

  @Nullable Instant takenBackAt;
}
