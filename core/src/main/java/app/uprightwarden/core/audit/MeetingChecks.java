package app.uprightwarden.core.audit;

import java.lang.invoke.MethodHandle;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.MethodType;
import java.util.List;
import java.util.function.Consumer;

/**
 * All checks on single meetings as one call, made when the class is loaded. To the compiler it is
 * as if they were written out one below the other, so that it can put all of them into one piece of
 * code. In a loop over the checks it cannot know which one comes next: that took twice as long.
 */
final class MeetingChecks {
  private static final MethodHandle ALL = inTurn(Auditor.select(MeetingCheck.class));

  private MeetingChecks() {}

  /** Has every check look at a meeting, in the order of the catalogue. */
  static void check(MeetingFacts meeting, Consumer<Detail> found) {
    try {
      ALL.invokeExact(meeting, found);
    } catch (RuntimeException | Error fault) {
      throw fault;
    } catch (Throwable fault) {
      throw new IllegalStateException("a check declares no fault of this kind", fault);
    }
  }

  private static MethodHandle inTurn(List<MeetingCheck> checks) {
    MethodType type = MethodType.methodType(void.class, MeetingFacts.class, Consumer.class);
    MethodHandle rest = MethodHandles.empty(type);
    try {
      MethodHandle any = MethodHandles.lookup().findVirtual(MeetingCheck.class, "check", type);
      for (int i = checks.size() - 1; i >= 0; i--) {
        rest = MethodHandles.foldArguments(rest, any.bindTo(checks.get(i)));
      }
    } catch (ReflectiveOperationException fault) {
      throw new LinkageError("MeetingCheck has no method check", fault);
    }
    return rest;
  }
}
