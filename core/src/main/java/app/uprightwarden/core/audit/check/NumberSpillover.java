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
    int[] close = new int[register.meetings()];
    register.byGroupAndStart(register.byReusableNumber(), new Close(close));
    for (int meeting = 0; meeting < close.length; meeting++) {
      if (close[meeting] > 0) {
        found.found(meeting, Detail.of(this, close[meeting], APART));
      }
    }
  }

  /** Counts, of occurrences by number and start, those that begin too soon after one before. */
  private static final class Close implements Register.Visitor {
    private final int[] close;
    private int number = -1;
    private int lastEnd;

    Close(int[] close) {
      this.close = close;
    }

    @Override
    public void visit(int group, int meeting, int start, int end) {
      boolean isSameNumber = group == number;
      if (isSameNumber && start - lastEnd < APART) {
        close[meeting]++;
      }
      lastEnd = isSameNumber ? Math.max(lastEnd, end) : end;
      number = group;
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.times(found.value())
        + " it begins less than 15 minutes after another meeting on the same number ends.";
  }
}
