package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import com.google.auto.service.AutoService;

/** The host has two meetings at one time, no co-host, and people may be in without a host. */
@AutoService(Check.class)
public final class HostDoubleBooked implements RegisterCheck {
  @Override
  public String id() {
    return "host-double-booked";
  }

  @Override
  public String title() {
    return "Host in two meetings at once";
  }

  @Override
  public String summary() {
    return "The host has two meetings at one time, no co-host, and people may be in "
        + "without a host.";
  }

  @Override
  public String why() {
    return "One of the two runs with nobody to keep order.";
  }

  @Override
  public String mend() {
    return "Name a co-host, move one of them, or let nobody in before the host.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(Register register, Register.Sink found) {
    int[] clashes = new int[register.meetings()];
    register.byGroupAndStart(register.byHost(), new Clashes(clashes));
    for (int meeting = 0; meeting < clashes.length; meeting++) {
      if (clashes[meeting] > 0 && register.isUnwatched(meeting)) {
        found.found(meeting, Detail.of(this, clashes[meeting], null));
      }
    }
  }

  /** Counts, of occurrences by host and start, those that begin before another has ended. */
  private static final class Clashes implements Register.Visitor {
    private final int[] clashes;
    private int host = -1;

    /** The meeting whose occurrence ends last of this host's so far, and when it ends. */
    private int longest;

    private int lastEnd;

    Clashes(int[] clashes) {
      this.clashes = clashes;
    }

    @Override
    public void visit(int group, int meeting, int start, int end) {
      boolean isSameHost = group == host;
      if (isSameHost && start < lastEnd) {
        clashes[meeting]++;
        clashes[longest]++;
      }
      if (!isSameHost || end > lastEnd) {
        longest = meeting;
        lastEnd = end;
      }
      host = group;
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.times(found.value())
        + " the host is due in another meeting at the same time, with no co-host to stand in.";
  }
}
