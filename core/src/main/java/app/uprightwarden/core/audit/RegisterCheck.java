package app.uprightwarden.core.audit;

import java.util.function.BiConsumer;

/** A check on how meetings stand to each other. */
public non-sealed interface RegisterCheck extends Check {
  void check(Register register, BiConsumer<MeetingFacts, Detail> found);
}
