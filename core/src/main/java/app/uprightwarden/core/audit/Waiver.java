package app.uprightwarden.core.audit;

import org.jspecify.annotations.Nullable;

/**
 * A word that something found may stand for a while: one finding, all of a meeting, or all of one
 * rule in a unit and the units below it.
 *
 * @param meeting whose finding or findings, null for a rule
 * @param occurrence of the finding, empty for the series
 * @param check of the finding, empty where the scope is wider
 * @param subject the control or guarantee of the finding or rule, else empty
 * @param unit the rule's, null otherwise
 */
public record Waiver(
    long id,
    Scope scope,
    @Nullable String meeting,
    String occurrence,
    String check,
    String subject,
    @Nullable String unit) {

  /** How far it goes. */
  public enum Scope {
    FINDING,
    MEETING,
    RULE
  }
}
