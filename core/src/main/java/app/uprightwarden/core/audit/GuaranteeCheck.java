package app.uprightwarden.core.audit;

import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.function.Consumer;

/** A check of what people can do against one guarantee. */
public non-sealed interface GuaranteeCheck extends RuleCheck {
  /** Looks at one guarantee under the values judged, and tells what it finds. */
  void check(Judgement.Basis basis, ResolvedRulebook.Given given, Consumer<Detail> found);
}
