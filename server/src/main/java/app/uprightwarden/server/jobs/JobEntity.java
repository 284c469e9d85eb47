package app.uprightwarden.server.jobs;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.io.Serializable;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** An item of work as db-scheduler keeps it, and what became of it so far. */
@Entity
@Table(name = "job")
@IdClass(JobEntity.Key.class)
class JobEntity {
  @Id
  @Column(name = "task_name")
  String kind = "";

  @Id
  @Column(name = "task_instance")
  String item = "";

  Instant executionTime = Instant.EPOCH;

  boolean picked;

  @Nullable Instant lastFailure;

  /** Counts every change of the row, db-scheduler's too. */
  long version = 1;

  String lane = "";

  int tries;

  @Nullable String trouble;

  /** What tells rows apart. */
  record Key(String kind, String item) implements Serializable {}
}
