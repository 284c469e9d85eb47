package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A co-host is not a member of the organisation. */
@AutoService(Check.class)
public final class CoHostNotMember implements MeetingCheck {
  @Override
  public String id() {
    return "co-host-not-member";
  }

  @Override
  public String title() {
    return "Co-host from outside";
  }

  @Override
  public String summary() {
    return "A co-host is not a member of the organisation.";
  }

  @Override
  public String why() {
    return "A co-host can do what the host can. Somebody outside cannot be held to "
        + "the organisation’s rules.";
  }

  @Override
  public String mend() {
    return "Take them off the co-hosts; name them as a presenter if they speak.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (!meeting.foreignCoHosts().isEmpty()) {
      found.accept(Detail.of(this, meeting.foreignCoHosts(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "Co-host, but no member of the organisation: " + Findings.joined(found.value()) + ".";
  }
}
