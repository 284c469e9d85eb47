package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** The host is missing from the directory or disabled. */
@AutoService(Check.class)
public final class HostGone implements MeetingCheck {
  @Override
  public String id() {
    return "host-gone";
  }

  @Override
  public String title() {
    return "Host has left";
  }

  @Override
  public String summary() {
    return "The host is missing from the directory or disabled.";
  }

  @Override
  public String why() {
    return "Nobody who answers for the meeting can let people in, lock it or end " + "it.";
  }

  @Override
  public String mend() {
    return "Hand the meeting to another host, or cancel it.";
  }

  @Override
  public int baseSeverity() {
    return 4;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (meeting.hostGone()) {
      found.accept(Detail.of(this, meeting.host(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "The host, " + found.value() + ", is no longer in the directory or is disabled.";
  }
}
