package app.uprightwarden.server.rulebook;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.jspecify.annotations.Nullable;

/** What one administrator is working on. */
@Entity
@Table(name = "draft")
class DraftEntity {
  @Id private String owner = "";

  private int baseEdition;

  @Column(nullable = false, columnDefinition = "longtext")
  private String document = "";

  @Column(nullable = false)
  private Instant savedAt = Instant.EPOCH;

  @Version private @Nullable Long version;

  protected DraftEntity() {}

  DraftEntity(String owner) {
    this.owner = owner;
  }

  void save(int base, String newDocument, Instant now) {
    baseEdition = base;
    document = newDocument;
    savedAt = now;
  }

  int baseEdition() {
    return baseEdition;
  }

  String document() {
    return document;
  }

  Instant savedAt() {
    return savedAt;
  }
}
