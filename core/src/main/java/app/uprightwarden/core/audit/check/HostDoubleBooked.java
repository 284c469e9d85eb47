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
    int[] groups = register.byHost();
    int[] clashes = new int[register.meetings()];
    int longest = -1; // the occurrence of this host that ends last so far
    for (int occurrence : register.sortedByGroupAndStart(groups)) {
      boolean sameHost =
          longest >= 0
              && groups[register.meetingOf(longest)] == groups[register.meetingOf(occurrence)];
      if (sameHost && register.start(occurrence) < register.end(longest)) {
        clashes[register.meetingOf(occurrence)]++;
        clashes[register.meetingOf(longest)]++;
      }
      if (!sameHost || register.end(occurrence) > register.end(longest)) {
        longest = occurrence;
      }
    }
    for (int meeting = 0; meeting < clashes.length; meeting++) {
      if (clashes[meeting] > 0 && register.isUnwatched(meeting)) {
        found.found(meeting, Detail.of(this, clashes[meeting], null));
      }
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.times(found.value())
        + " the host is due in another meeting at the same time, with no co-host to stand in.";
  }
}
