package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.service.Held;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** What a service holds was read longer ago than is allowed. */
@AutoService(Check.class)
public final class LongUnread implements MeetingCheck {
  private static final int SOON = 3;

  @Override
  public String id() {
    return "long-unread";
  }

  @Override
  public String title() {
    return "Service not read for long";
  }

  @Override
  public String summary() {
    return "The conference service was not read for longer than is allowed.";
  }

  @Override
  public String why() {
    return "Somebody may have changed the meeting there, and nobody here would know.";
  }

  @Override
  public String mend() {
    return "See on House why the service is not read. Until then, look at the meeting there.";
  }

  @Override
  public int baseSeverity() {
    return 1;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    Held held = meeting.held();
    Held.Unread unread = held == null ? null : held.unread();
    if (held != null && unread != null) {
      found.accept(
          Detail.of(this, null, null)
              .withSeverity(unread.soon() ? SOON : baseSeverity())
              .at(
                  new FindingArguments.There(
                      held.service(), null, unread.since().toString(), null)));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.service(found) + " was read last on " + Findings.at(found) + ".";
  }
}
