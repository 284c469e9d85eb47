package app.uprightwarden.server.sources;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;

/** A stretch of time that somebody's calendar takes up. */
@Entity
@Table(name = "busy_time")
class BusyTimeEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  long source;

  String name = "";

  /** Folded. */
  String person = "";

  Instant start = Instant.EPOCH;

  @Column(name = "end")
  Instant until = Instant.EPOCH;
}
