package app.uprightwarden.server.alerting;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** To whom the ledger is sent, and how far; there is one. */
@Entity
@Table(name = "log_collector")
class LogCollectorEntity {
  static final int ONE = 1;

  @Id int id = ONE;

  @Nullable String address;

  byte @Nullable [] secretCipher;

  /** The last entry that was taken. */
  long sentSeq;

  @Nullable Instant sentAt;

  /** In vain, one after the other. */
  int tries;

  @Nullable Instant nextAt;

  @Nullable String why;

  String changedBy = "";

  Instant changedAt = Instant.EPOCH;
}
