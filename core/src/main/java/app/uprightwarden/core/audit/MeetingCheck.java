package app.uprightwarden.core.audit;

import java.util.function.Consumer;

/** A check on one meeting by itself. */
public non-sealed interface MeetingCheck extends Check {
  /** Looks at one meeting, and tells what it finds. */
  void check(MeetingFacts meeting, Consumer<Detail> found);
}
