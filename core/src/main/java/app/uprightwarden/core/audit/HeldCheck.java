package app.uprightwarden.core.audit;

import app.uprightwarden.core.service.Held;
import java.util.function.Consumer;

/** A check on what a conference service holds otherwise than was decided. */
public non-sealed interface HeldCheck extends Check {
  /** Looks at one difference between what is held and what was decided, and tells what it finds. */
  void check(MeetingFacts meeting, Held held, Held.Difference difference, Consumer<Detail> found);
}
