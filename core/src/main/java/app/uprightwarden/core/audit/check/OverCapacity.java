package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** More people are invited than the plan allows in. */
@AutoService(Check.class)
public final class OverCapacity implements MeetingCheck {
  @Override
  public String id() {
    return "over-capacity";
  }

  @Override
  public String title() {
    return "More people than fit";
  }

  @Override
  public String summary() {
    return "More people are invited than the plan allows in.";
  }

  @Override
  public String why() {
    return "The last ones to come find the door shut.";
  }

  @Override
  public String mend() {
    return "Invite fewer people, or ask for a larger plan.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    int most = meeting.plan().maxParticipants();
    if (meeting.invited() > most) {
      found.accept(Detail.of(this, meeting.invited(), most));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return found.value() + " people are invited; the plan lets " + found.allowed() + " in.";
  }
}
