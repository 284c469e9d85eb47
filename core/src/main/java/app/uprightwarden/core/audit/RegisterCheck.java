package app.uprightwarden.core.audit;

/** A check on how meetings stand to each other. */
public non-sealed interface RegisterCheck extends Check {
  /** Looks at all meetings together, and tells what it finds by the meeting's place. */
  void check(Register register, Register.Sink found);
}
