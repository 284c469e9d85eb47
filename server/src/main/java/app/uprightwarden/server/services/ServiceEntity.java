package app.uprightwarden.server.services;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A conference service that is linked, or was. */
@Entity
@Table(name = "conference_service")
class ServiceEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  long id;

  String name = "";

  String address = "";

  byte @Nullable [] secretCipher;

  /** {@code read}, {@code suggest} or {@code write}. */
  String level = "read";

  boolean paused;

  /** What it said of itself. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  String about = "";

  /** {@code in-touch}, {@code away} or {@code key-refused}. */
  String state = "in-touch";

  Instant stateSince = Instant.EPOCH;

  @Nullable String trouble;

  @Nullable Instant contactAt;

  /** When it was noticed last that it was not read for too long; null where it was read lately. */
  @Nullable Instant unreadNotedAt;

  /** Up to where it was read. */
  @Nullable String marker;

  /** Since when everything is being read anew, until it was. */
  @Nullable Instant fullSince;

  @Nullable Instant fullAt;

  String addedBy = "";

  Instant addedAt = Instant.EPOCH;

  @Nullable Instant unlinkedAt;

  /**
   * Who wants it linked, where a second warden has yet to agree; it is not spoken with till then.
   */
  @Nullable String proposedBy;

  @Nullable Instant proposedAt;

  @Nullable String proposedName;

  /** Its own defaults and locks as they were read: control → value, lock. */
  @Column(columnDefinition = "longtext")
  @JdbcTypeCode(SqlTypes.LONG32VARCHAR)
  @Nullable String defaults;

  @Nullable String defaultsBy;

  @Nullable Instant defaultsChangedAt;

  @Nullable Instant defaultsReadAt;

  /** The edition whose defaults and locks are to be there; 0 for none yet. */
  int defaultsEdition;

  /** {@code none}, {@code waiting}, {@code confirmed}, {@code refused} or {@code other}. */
  String defaultsState = "none";

  @Nullable String defaultsCommand;

  @Nullable String defaultsWhy;

  /** Goes up whenever a server begins to speak with it: what an earlier one has read is void. */
  long turn;

  @Version long version;

  /** It stands so: since this instant, where it stood otherwise before. */
  void stateIs(String now, Instant at) {
    if (!state.equals(now)) {
      state = now;
      stateSince = at;
    }
  }
}
