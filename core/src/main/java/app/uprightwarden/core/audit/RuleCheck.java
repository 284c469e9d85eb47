package app.uprightwarden.core.audit;

import java.util.function.Consumer;

/**
 * A check on the values of controls alone: equal values under equal rules give equal findings, so
 * that they are judged once however many meetings share them.
 */
public non-sealed interface RuleCheck extends Check {
  void check(Judgement.Basis basis, Consumer<Detail> found);
}
