package app.uprightwarden.core.audit;

import app.uprightwarden.core.rulebook.ResolvedRule;
import java.util.function.Consumer;

/** A check of one control's value against its rule. */
public non-sealed interface ControlCheck extends RuleCheck {
  /** Looks at one rule under the values judged, and tells what it finds. */
  void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found);
}
