package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import org.jspecify.annotations.Nullable;

/**
 * What a judgement depends on: rules, values and reach. The rules are one instance a path of
 * layers, and count as such. Equal subjects are best made one instance, as {@link FactsBuilder}
 * does: then finding the judgement of a meeting is one look.
 */
public final class Subject {
  private final ResolvedRulebook rules;
  private final ControlValues values;
  private final Reach reach;
  private final int hash;

  /** Takes what a meeting is judged by. */
  public Subject(ResolvedRulebook rules, ControlValues values, Reach reach) {
    this.rules = rules;
    this.values = values;
    this.reach = reach;
    int ofReach =
        reach.namedWidest().ordinal() * 8
            + (reach.named() ? 4 : 0)
            + (reach.presentersMembers() ? 2 : 0)
            + (reach.presentersHosts() ? 1 : 0);
    hash = (System.identityHashCode(rules) * 31 + values.hashCode()) * 31 + ofReach;
  }

  /** The rules and guarantees in force. */
  public ResolvedRulebook rules() {
    return rules;
  }

  /** The control values as found. */
  public ControlValues values() {
    return values;
  }

  /** Whom the meeting's names reach. */
  public Reach reach() {
    return reach;
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other == this
        || other instanceof Subject that
            && hash == that.hash
            && rules == that.rules
            && values.equals(that.values)
            && reach.equals(that.reach);
  }

  @Override
  public int hashCode() {
    return hash;
  }
}
