package app.uprightwarden.core.audit;

/** A check on how meetings stand to each other. */
public non-sealed interface RegisterCheck extends Check {
  void check(Register register, Register.Sink found);
}
