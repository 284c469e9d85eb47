package app.uprightwarden.core.audit;

import java.util.function.Consumer;

/** A check on one meeting by itself. */
public non-sealed interface MeetingCheck extends Check {
  void check(MeetingFacts meeting, Consumer<Detail> found);
}
