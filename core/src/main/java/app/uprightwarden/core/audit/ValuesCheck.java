package app.uprightwarden.core.audit;

import java.util.function.Consumer;

/** A check of values against each other, whatever the rules are. */
public non-sealed interface ValuesCheck extends RuleCheck {
  void check(Judgement.Basis basis, Consumer<Detail> found);
}
