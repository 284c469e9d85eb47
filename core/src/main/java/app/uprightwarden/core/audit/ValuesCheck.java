package app.uprightwarden.core.audit;

import java.util.function.Consumer;

/** A check of values against each other, whatever the rules are. */
public non-sealed interface ValuesCheck extends RuleCheck {
  /** Looks at the values judged, and tells what it finds. */
  void check(Judgement.Basis basis, Consumer<Detail> found);
}
