package app.uprightwarden.server.exchange;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** An import that was asked for, until it is done. */
@Entity
@Table(name = "import_job")
class ImportJobEntity {
  @Id String id = "";

  /** {@code take}, or {@code take-back} of a batch. */
  String what = "";

  String name = "";

  String byWhom = "";

  String zone = "";

  String host = "";

  @Nullable Long batch;

  boolean forced;

  /** The file, sealed; null for taking back, and once it is done. */
  @Column(columnDefinition = "longblob")
  byte @Nullable [] input;

  String state = "waiting";

  int done;

  int total;

  @Nullable String worker;

  @Nullable Instant leaseUntil;

  int tries;

  @Nullable String trouble;

  Instant madeAt = Instant.EPOCH;

  @Nullable Instant endedAt;
}
