package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A listed presenter is neither invited, host nor co-host. */
@AutoService(Check.class)
public final class PresenterNotInvited implements MeetingCheck {
  @Override
  public String id() {
    return "presenter-not-invited";
  }

  @Override
  public String title() {
    return "Presenter not invited";
  }

  @Override
  public String summary() {
    return "A listed presenter is neither invited, host nor co-host.";
  }

  @Override
  public String why() {
    return "Presenters picked by name must have been invited, or they stand at the "
        + "door when they are called.";
  }

  @Override
  public String mend() {
    return "Invite them, or take them off the list of presenters.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (!meeting.strayPresenters().isEmpty()) {
      found.accept(Detail.of(this, meeting.strayPresenters(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "On the list of presenters but not invited: " + Findings.joined(found.value()) + ".";
  }
}
