package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import com.google.auto.service.AutoService;

/** Two occurrences on one reusable number are less than 15 minutes apart. */
@AutoService(Check.class)
public final class NumberSpillover implements RegisterCheck {
  @Override
  public String id() {
    return "number-spillover";
  }

  @Override
  public String title() {
    return "Too close together on one number";
  }

  @Override
  public String summary() {
    return "Two occurrences on one reusable number are less than 15 minutes apart.";
  }

  @Override
  public String why() {
    return "People still in the first meeting, or early for the second, find "
        + "themselves in the wrong one.";
  }

  @Override
  public String mend() {
    return "Give one of them a number of its own, or move one.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  private static final int APART = 15;

  @Override
  public void check(Register register, Register.Sink found) {
    int[] groups = register.byReusableNumber();
    int[] close = new int[register.meetings()];
    int lastEnd = Integer.MIN_VALUE;
    int group = -1;
    for (int occurrence : register.sortedByGroupAndStart(groups)) {
      int meeting = register.meetingOf(occurrence);
      boolean sameNumber = groups[meeting] == group;
      if (sameNumber && register.start(occurrence) - lastEnd < APART) {
        close[meeting]++;
      }
      lastEnd = sameNumber ? Math.max(lastEnd, register.end(occurrence)) : register.end(occurrence);
      group = groups[meeting];
    }
    for (int meeting = 0; meeting < close.length; meeting++) {
      if (close[meeting] > 0) {
        found.found(meeting, Detail.of(this, close[meeting], APART));
      }
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.times(found.value())
        + " it begins less than 15 minutes after another meeting on the same number ends.";
  }
}
