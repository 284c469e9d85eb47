package app.uprightwarden.server.access;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** Somebody who may sign in. */
@Entity
@Table(name = "account")
@SuppressWarnings("UnusedVariable") // queries alone use a step
class AccountEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private long id;

  @Column(nullable = false)
  private String email = "";

  @Column(nullable = false)
  private String name = "";

  @Column(nullable = false)
  private String role = "";

  @Column(nullable = false)
  private String passwordHash = "";

  private boolean active = true;

  @Column(nullable = false)
  private Instant createdAt = Instant.EPOCH;

  private @Nullable String unit;
  private byte @Nullable [] secondFactor;
  private @Nullable Instant factorSince;

  /** The last step of the clock whose code was taken; moved on by itself. */
  @Column(updatable = false)
  private long factorStep;

  /** The language chosen, {@code en} or {@code de}; set by itself. */
  @Column(updatable = false)
  private @Nullable String language;

  private @Nullable Instant passwordSince;
  private @Nullable Instant lastSeen;
  private @Nullable String providerSubject;
  private @Nullable String credentialsBy;
  private @Nullable Instant credentialsAt;
  private @Nullable String deputyUnit;
  private @Nullable Instant deputyFrom;
  private @Nullable Instant deputyUntil;
  private @Nullable String deputyBy;

  protected AccountEntity() {}

  AccountEntity(
      String email,
      String name,
      Role role,
      @Nullable String unit,
      String passwordHash,
      Instant createdAt) {
    this.email = email;
    this.name = name;
    this.role = role.id();
    this.unit = unit;
    this.passwordHash = passwordHash;
    this.createdAt = createdAt;
  }

  long id() {
    return id;
  }

  String email() {
    return email;
  }

  String name() {
    return name;
  }

  Role role() {
    return Role.byId(role);
  }

  @Nullable String unit() {
    return unit;
  }

  Instant createdAt() {
    return createdAt;
  }

  /** Empty while no password was set. */
  String passwordHash() {
    return passwordHash;
  }

  @Nullable Instant passwordSince() {
    return passwordSince;
  }

  /**
   * Tells one password from the next: when it was set, in milliseconds; 0 where that is not known.
   */
  long passwordStamp() {
    return passwordSince == null ? 0 : passwordSince.toEpochMilli();
  }

  boolean active() {
    return active;
  }

  /** The second factor's secret, sealed; null where there is none. It counts from its date on. */
  byte @Nullable [] secondFactor() {
    return secondFactor;
  }

  boolean hasSecondFactor() {
    return secondFactor != null && factorSince != null;
  }

  @Nullable Instant factorSince() {
    return factorSince;
  }

  /** Who of others did so last; null where nobody ever did. */
  @Nullable String credentialsBy() {
    return credentialsBy;
  }

  @Nullable Instant credentialsAt() {
    return credentialsAt;
  }

  @Nullable Instant lastSeen() {
    return lastSeen;
  }

  @Nullable String providerSubject() {
    return providerSubject;
  }

  /** Until when this account stands in for a unit's warden; null where it does not now. */
  @Nullable Instant standsInUntil(Instant now) {
    boolean isNow =
        role() == Role.HOST
            && deputyFrom != null
            && !now.isBefore(deputyFrom)
            && deputyUntil != null
            && now.isBefore(deputyUntil);
    return isNow ? deputyUntil : null;
  }

  /** What is known of it as a deputy, also of one whose time has not begun; else null. */
  AccessService.@Nullable Deputy deputy(Instant now) {
    String of = deputyUnit;
    Instant from = deputyFrom;
    Instant until = deputyUntil;
    if (of == null || from == null || until == null || !until.isAfter(now)) {
      return null;
    }
    return active && role() == Role.HOST
        ? new AccessService.Deputy(email, name, of, from, until, String.valueOf(deputyBy))
        : null;
  }

  /** Who it is and what it may do at this moment. */
  SignedIn signedIn(Instant now) {
    return standsInUntil(now) == null
        ? new SignedIn(email, name, role(), unit, false)
        : new SignedIn(email, name, Role.UNIT_WARDEN, deputyUnit, false);
  }
}
