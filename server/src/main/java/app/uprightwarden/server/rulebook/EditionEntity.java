package app.uprightwarden.server.rulebook;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import java.time.Instant;
import org.hibernate.annotations.Immutable;
import org.springframework.data.domain.Persistable;

/** A published rulebook. Never changed once stored. */
@Entity
@Immutable
@Table(name = "edition")
class EditionEntity implements Persistable<Integer> {
  @Id private int number;

  @Column(nullable = false)
  private Instant publishedAt = Instant.EPOCH;

  @Column(nullable = false)
  private String publishedBy = "";

  @Column(nullable = false)
  private String reason = "";

  @Column(nullable = false, columnDefinition = "longtext")
  private String document = "";

  protected EditionEntity() {}

  EditionEntity(
      int number, Instant publishedAt, String publishedBy, String reason, String document) {
    this.number = number;
    this.publishedAt = publishedAt;
    this.publishedBy = publishedBy;
    this.reason = reason;
    this.document = document;
  }

  @Override
  public Integer getId() {
    return number;
  }

  /** Editions are only ever added. */
  @Override
  public boolean isNew() {
    return true;
  }

  int number() {
    return number;
  }

  Instant publishedAt() {
    return publishedAt;
  }

  String publishedBy() {
    return publishedBy;
  }

  String reason() {
    return reason;
  }

  String document() {
    return document;
  }
}
