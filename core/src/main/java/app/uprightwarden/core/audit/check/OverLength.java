package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A meeting is longer than the plan allows. */
@AutoService(Check.class)
public final class OverLength implements MeetingCheck {
  @Override
  public String id() {
    return "over-length";
  }

  @Override
  public String title() {
    return "Longer than the plan allows";
  }

  @Override
  public String summary() {
    return "A meeting is longer than the plan allows.";
  }

  @Override
  public String why() {
    return "The session ends in the middle.";
  }

  @Override
  public String mend() {
    return "Shorten it, or split it in two.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    int most = meeting.plan().maxMinutes();
    int longest = meeting.minutes();
    for (MeetingFacts.Change change : meeting.changes()) {
      longest = Math.max(longest, change.minutes());
    }
    if (longest > most) {
      found.accept(Detail.of(this, longest, most));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "It lasts " + found.value() + " minutes; the plan allows " + found.allowed() + ".";
  }
}
