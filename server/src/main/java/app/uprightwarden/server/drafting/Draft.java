package app.uprightwarden.server.drafting;

import java.time.Instant;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/**
 * A draft as it stands.
 *
 * @param baseEdition the newest edition when it was begun or last brought up
 * @param document the bundle's rulebook part
 * @param proposal what waits for a second administrator's consent, if it does
 * @param refusal the last such proposal's refusal, if it was refused
 * @param version goes up with each change
 */
public record Draft(
    long id,
    String name,
    int baseEdition,
    JsonNode document,
    String madeBy,
    String savedBy,
    Instant savedAt,
    @Nullable Proposal proposal,
    @Nullable Refusal refusal,
    long version) {

  /** A draft that waits for a second administrator. */
  public record Proposal(
      String by, Instant at, String reason, @Nullable Instant effectiveAt, boolean tellHosts) {}

  /** A second administrator's refusal. */
  public record Refusal(String by, String words) {}
}
