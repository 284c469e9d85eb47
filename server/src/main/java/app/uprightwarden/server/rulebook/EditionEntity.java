package app.uprightwarden.server.rulebook;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** A published rulebook. Never changed once stored, save that one not yet in force is withdrawn. */
@Entity
@Table(name = "edition")
class EditionEntity {
  @Id private int number;

  @Column(nullable = false, updatable = false)
  private Instant publishedAt = Instant.EPOCH;

  @Column(nullable = false, updatable = false)
  private Instant effectiveAt = Instant.EPOCH;

  @Column(nullable = false, updatable = false)
  private String publishedBy = "";

  @Column(updatable = false)
  private @Nullable String consentBy;

  @Column(nullable = false, updatable = false)
  private String reason = "";

  @Column(nullable = false, updatable = false, columnDefinition = "longtext")
  private String document = "";

  private @Nullable Instant withdrawnAt;
  private @Nullable String withdrawnBy;

  protected EditionEntity() {}

  EditionEntity(
      int number,
      Instant publishedAt,
      Instant effectiveAt,
      String publishedBy,
      @Nullable String consentBy,
      String reason,
      String document) {
    this.number = number;
    this.publishedAt = publishedAt;
    this.effectiveAt = effectiveAt;
    this.publishedBy = publishedBy;
    this.consentBy = consentBy;
    this.reason = reason;
    this.document = document;
  }

  void withdraw(String by, Instant at) {
    withdrawnBy = by;
    withdrawnAt = at;
  }

  int number() {
    return number;
  }

  Instant publishedAt() {
    return publishedAt;
  }

  Instant effectiveAt() {
    return effectiveAt;
  }

  String publishedBy() {
    return publishedBy;
  }

  @Nullable String consentBy() {
    return consentBy;
  }

  String reason() {
    return reason;
  }

  String document() {
    return document;
  }

  @Nullable Instant withdrawnAt() {
    return withdrawnAt;
  }

  @Nullable String withdrawnBy() {
    return withdrawnBy;
  }
}
