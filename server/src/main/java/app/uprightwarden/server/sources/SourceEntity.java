package app.uprightwarden.server.sources;

import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A calendar that is read. */
@Entity
@Table(name = "calendar_source")
class SourceEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String name = "";

  /** {@code icalendar} or {@code caldav}. */
  String kind = "";

  /** {@code meetings} or {@code busy}. */
  String purpose = "";

  String address = "";

  @Nullable String account;

  byte @Nullable [] secretCipher;

  /** Who hosts events without an organiser, or whose time is taken up. */
  String person = "";

  String zone = "";

  /** How long after a reading the next one is. */
  int minutes;

  boolean paused;

  /** {@code new}, {@code read}, {@code away}, {@code refused} or {@code asks}. */
  String state = "new";

  Instant stateSince = Instant.EPOCH;

  @Nullable String trouble;

  /** How often it was read in vain since it was read last. */
  int failures;

  @Nullable Instant readAt;

  Instant nextAt = Instant.EPOCH;

  @Nullable String etag;

  @Nullable String lastModified;

  /** Up to where a CalDAV collection was read. */
  @Nullable String marker;

  /** When all of it was compared last. */
  @Nullable Instant fullAt;

  /** So many of its meetings were gone at once that somebody is asked first. */
  int gone;

  boolean goneAgreed;

  String addedBy = "";

  Instant addedAt = Instant.EPOCH;

  /** Goes up whenever a server begins to read it: what an earlier one has read is void. */
  long turn;

  @Version long version;
}
