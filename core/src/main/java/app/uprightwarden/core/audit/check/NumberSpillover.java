package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import app.uprightwarden.core.control.Control;
import com.google.auto.service.AutoService;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiConsumer;

/** Two occurrences on one reusable number are less than 15 minutes apart. */
@AutoService(Check.class)
public final class NumberSpillover implements RegisterCheck {
  @Override
  public String id() {
    return "number-spillover";
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
  public void check(Register register, BiConsumer<MeetingFacts, Detail> found) {
    List<MeetingFacts> meetings = register.meetings();
    int[] groups = Groups.of(meetings, m -> reusable(m) ? m.number() : null);
    int[] order = register.sortedByGroupAndStart(groups);
    Map<MeetingFacts, Integer> close = new LinkedHashMap<>();
    int lastEnd = Integer.MIN_VALUE;
    int group = -1;
    for (int occurrence : order) {
      MeetingFacts meeting = meetings.get(register.meetingOf(occurrence));
      boolean sameNumber = groups[register.meetingOf(occurrence)] == group;
      if (sameNumber && register.start(occurrence) - lastEnd < APART) {
        close.merge(meeting, 1, Integer::sum);
      }
      lastEnd = sameNumber ? Math.max(lastEnd, register.end(occurrence)) : register.end(occurrence);
      group = groups[register.meetingOf(occurrence)];
    }
    close.forEach((meeting, times) -> found.accept(meeting, Detail.of(this, times, APART)));
  }

  /** Numbers whose reuse is not evidenced count as reusable, the loosest. */
  private static boolean reusable(MeetingFacts meeting) {
    return meeting.values().is(Control.MEETING_NUMBER, "reusable");
  }

  @Override
  public String text(Detail detail) {
    return Findings.times(detail.value())
        + " it begins less than 15 minutes after another meeting on the same number ends.";
  }
}
