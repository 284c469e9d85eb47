package app.uprightwarden.core.audit;

import app.uprightwarden.core.rulebook.ResolvedRule;
import java.util.function.Consumer;

/** A check of one control's value against its rule. */
public non-sealed interface ControlCheck extends RuleCheck {
  void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found);
}
