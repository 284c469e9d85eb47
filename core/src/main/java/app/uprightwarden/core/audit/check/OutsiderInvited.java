package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** The kind is confidential, and somebody invited is no one the directory knows. */
@AutoService(Check.class)
public final class OutsiderInvited implements MeetingCheck {
  @Override
  public String id() {
    return "outsider-invited";
  }

  @Override
  public String title() {
    return "Outsider invited";
  }

  @Override
  public String summary() {
    return "The kind is confidential, and somebody invited is no one the directory " + "knows.";
  }

  @Override
  public String why() {
    return "What is said in confidence leaves the organisation.";
  }

  @Override
  public String mend() {
    return "Take them off the invitation, or have them entered as a guest first.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (!meeting.strangers().isEmpty()) {
      found.accept(Detail.of(this, meeting.strangers(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "Invited to a confidential meeting, but unknown to the directory: "
        + Findings.joined(found.value())
        + ".";
  }
}
