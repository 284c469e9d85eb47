package app.uprightwarden.server.drafting;

import jakarta.persistence.Column;
import jakarta.persistence.Entity;
import jakarta.persistence.GeneratedValue;
import jakarta.persistence.GenerationType;
import jakarta.persistence.Id;
import jakarta.persistence.Table;
import jakarta.persistence.Version;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/** What administrators work on together until it is published. */
@Entity
@Table(name = "draft")
class DraftEntity {
  @Id
  @GeneratedValue(strategy = GenerationType.IDENTITY)
  private long id;

  @Column(nullable = false)
  private String name = "";

  private int baseEdition;

  @Column(nullable = false, columnDefinition = "longtext")
  private String document = "";

  @Column(nullable = false, updatable = false)
  private String madeBy = "";

  @Column(nullable = false, updatable = false)
  private Instant madeAt = Instant.EPOCH;

  @Column(nullable = false)
  private String savedBy = "";

  @Column(nullable = false)
  private Instant savedAt = Instant.EPOCH;

  private @Nullable String proposedBy;
  private @Nullable Instant proposedAt;
  private @Nullable String reason;
  private @Nullable Instant effectiveAt;
  private boolean tellHosts;
  private @Nullable String answer;
  private @Nullable String answeredBy;

  @Version private long version;

  protected DraftEntity() {}

  DraftEntity(String name, int baseEdition, String document, String by, Instant at) {
    this.name = name;
    this.madeBy = by;
    this.madeAt = at;
    save(baseEdition, document, by, at);
  }

  final void save(int base, String newDocument, String by, Instant at) {
    baseEdition = base;
    document = newDocument;
    savedBy = by;
    savedAt = at;
  }

  void rename(String newName) {
    name = newName;
  }

  void propose(PublishingService.Wanted wanted, String by, Instant at) {
    proposedBy = by;
    proposedAt = at;
    reason = wanted.reason();
    effectiveAt = wanted.effectiveAt();
    tellHosts = wanted.tellHosts();
    answer = null;
    answeredBy = null;
  }

  /** Ends the proposal, with an answer where a second administrator gave one. */
  void endProposal(@Nullable String words, @Nullable String by) {
    proposedBy = null;
    proposedAt = null;
    answer = words;
    answeredBy = by;
  }

  Draft draft(JsonMapper json) {
    return new Draft(
        id,
        name,
        baseEdition,
        json.readTree(document),
        madeBy,
        savedBy,
        savedAt,
        proposal(),
        answeredBy == null ? null : new Draft.Refusal(answeredBy, String.valueOf(answer)),
        version);
  }

  Draft.@Nullable Proposal proposal() {
    return proposedBy == null || proposedAt == null
        ? null
        : new Draft.Proposal(
            proposedBy, proposedAt, String.valueOf(reason), effectiveAt, tellHosts);
  }

  int baseEdition() {
    return baseEdition;
  }

  String document() {
    return document;
  }

  long version() {
    return version;
  }
}
