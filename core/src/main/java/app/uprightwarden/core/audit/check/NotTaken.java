package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.HeldCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.service.Held;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A service does not take what was decided, or has not for too long. */
@AutoService(Check.class)
public final class NotTaken implements HeldCheck {
  @Override
  public String id() {
    return "not-taken";
  }

  @Override
  public String title() {
    return "Not taken by the service";
  }

  @Override
  public String summary() {
    return "A decided change is refused by the conference service, or has not been confirmed for too long.";
  }

  @Override
  public String why() {
    return "It was decided and is not so. Whoever looks here alone believes it is.";
  }

  @Override
  public String mend() {
    return "Read why, then send it again, decide something that the service can hold, or change it there.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(
      MeetingFacts meeting, Held held, Held.Difference difference, Consumer<Detail> found) {
    if (difference.cause() == Held.Cause.REFUSED || difference.cause() == Held.Cause.LATE) {
      found.accept(Findings.onDifference(this, meeting, held, difference));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.heldAndDecided(found) + Findings.why(found);
  }
}
