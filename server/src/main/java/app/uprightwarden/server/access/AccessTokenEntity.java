package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.JdbcTypeCode;
import org.hibernate.type.SqlTypes;
import org.jspecify.annotations.Nullable;

/** A token for programs. */
@Entity
@Table(name = "access_token")
class AccessTokenEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private long id;

  @Column(nullable = false, length = 64)
  @JdbcTypeCode(SqlTypes.CHAR)
  private String tokenHash = "";

  @Column(nullable = false)
  private String purpose = "";

  @Column(nullable = false)
  private String role = "";

  @Column(nullable = false)
  private String actsAs = "";

  @Column(nullable = false)
  private String issuedBy = "";

  @Column(nullable = false)
  private Instant issuedAt = Instant.EPOCH;

  @Column(nullable = false)
  private Instant expiresAt = Instant.EPOCH;

  private @Nullable String unit;
  private @Nullable Instant lastUsed;
  private @Nullable Instant endedAt;
  private @Nullable String endedBy;

  protected AccessTokenEntity() {}

  AccessTokenEntity(
      String tokenHash,
      String purpose,
      Role role,
      @Nullable String unit,
      String actsAs,
      String issuedBy,
      Instant issuedAt,
      Instant expiresAt) {
    this.tokenHash = tokenHash;
    this.purpose = purpose;
    this.role = role.id();
    this.unit = unit;
    this.actsAs = Directory.fold(actsAs);
    this.issuedBy = Directory.fold(issuedBy);
    this.issuedAt = issuedAt;
    this.expiresAt = expiresAt;
  }

  boolean validAt(Instant now) {
    return endedAt == null && now.isBefore(expiresAt);
  }

  long id() {
    return id;
  }

  void end(Instant at, String by) {
    endedAt = at;
    endedBy = by;
  }

  AccessTokens.TokenLine view() {
    return new AccessTokens.TokenLine(
        id(), purpose, role, unit, actsAs, issuedBy, issuedAt, expiresAt, lastUsed, endedAt,
        endedBy);
  }

  String issuedBy() {
    return issuedBy;
  }

  @Nullable Instant lastUsed() {
    return lastUsed;
  }

  SignedIn signedIn() {
    return new SignedIn(actsAs, purpose, Role.byId(role), unit, false);
  }
}
