package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.HeldCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.service.Held;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A service holds something looser than was decided, since somebody changed it there. */
@AutoService(Check.class)
public final class ChangedThere implements HeldCheck {
  @Override
  public String id() {
    return "changed-there";
  }

  @Override
  public String title() {
    return "Changed at the service";
  }

  @Override
  public String summary() {
    return "The conference service holds something looser than was decided: somebody changed it there.";
  }

  @Override
  public String why() {
    return "What the service holds is what happens at the door, whatever was decided here.";
  }

  @Override
  public String mend() {
    return "Set it back, or decide anew that it may be as it is.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(
      MeetingFacts meeting, Held held, Held.Difference difference, Consumer<Detail> found) {
    if (difference.cause() == Held.Cause.CHANGED_THERE && difference.isLooser()) {
      found.accept(Findings.onDifference(this, meeting, held, difference));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.heldAndDecided(found) + Findings.changedThere(found);
  }
}
