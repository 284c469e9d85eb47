package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import com.google.auto.service.AutoService;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/** The host has two meetings at one time, no co-host, and people may be in without a host. */
@AutoService(Check.class)
public final class HostDoubleBooked implements RegisterCheck {
  @Override
  public String id() {
    return "host-double-booked";
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
  public void check(Register register, BiConsumer<MeetingFacts, Detail> found) {
    List<MeetingFacts> meetings = register.meetings();
    int[] groups = Groups.of(meetings, MeetingFacts::host);
    int[] order = register.sortedByGroupAndStart(groups);
    Map<MeetingFacts, Integer> clashes = new LinkedHashMap<>();
    int longest = -1; // the occurrence of this host that ends last so far
    for (int occurrence : order) {
      boolean sameHost =
          longest >= 0
              && groups[register.meetingOf(longest)] == groups[register.meetingOf(occurrence)];
      if (sameHost && register.start(occurrence) < register.end(longest)) {
        note(clashes, meetings.get(register.meetingOf(occurrence)));
        note(clashes, meetings.get(register.meetingOf(longest)));
      }
      if (!sameHost || register.end(occurrence) > register.end(longest)) {
        longest = occurrence;
      }
    }
    clashes.forEach((meeting, times) -> found.accept(meeting, Detail.of(this, times, null)));
  }

  private static void note(Map<MeetingFacts, Integer> clashes, MeetingFacts meeting) {
    boolean unwatched =
        meeting.coHosts() == 0
            && !meeting.values().effective(Control.EARLY_ENTRY).equals(new Value.Amount(0));
    if (unwatched) {
      clashes.merge(meeting, 1, Integer::sum);
    }
  }

  @Override
  public String text(Detail detail) {
    return Findings.times(detail.value())
        + " the host is due in another meeting at the same time, with no co-host to stand in.";
  }
}
