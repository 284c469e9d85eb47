package app.uprightwarden.core.audit;

import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.List;
import java.util.function.Consumer;

/** A check of one control's value against its rule. */
public non-sealed interface ControlCheck extends RuleCheck {
  /**
   * The rules worth asking about, which spares the rest: {@link #check} finds nothing in them,
   * asked or not. All that bind hosts, where a check does not know of fewer.
   */
  default List<ResolvedRule> among(ResolvedRulebook rules) {
    return rules.governing();
  }

  /** Looks at one rule under the values judged, and tells what it finds. */
  void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found);
}
