package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** Presenters go by name, and nobody is named. */
@AutoService(Check.class)
public final class NoPresenter implements MeetingCheck {
  @Override
  public String id() {
    return "no-presenter";
  }

  @Override
  public String title() {
    return "No presenter named";
  }

  @Override
  public String summary() {
    return "Presenters go by name, and nobody is named.";
  }

  @Override
  public String why() {
    return "Only hosts can present then, which is rarely meant.";
  }

  @Override
  public String mend() {
    return "Name the presenters, or set the presenter role to hosts.";
  }

  @Override
  public int baseSeverity() {
    return 1;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    // everyone is the loosest, so that a role that is not evidenced is never by name
    if (meeting.presenters() == 0 && meeting.values().is(Control.PRESENTER_ROLE, "named")) {
      found.accept(Detail.of(this, 0, null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "Presenters go by name, but the list of presenters is empty.";
  }
}
