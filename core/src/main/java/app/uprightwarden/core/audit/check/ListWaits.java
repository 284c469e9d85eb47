package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** The waiting room lets in by name only, and some are invited only through a list or space. */
@AutoService(Check.class)
public final class ListWaits implements MeetingCheck {
  @Override
  public String id() {
    return "list-waits";
  }

  @Override
  public String title() {
    return "People on a list wait";
  }

  @Override
  public String summary() {
    return "The waiting room lets in by name only, and some are invited only "
        + "through a list or space.";
  }

  @Override
  public String why() {
    return "A name on a distribution list is not a named invitee: these people wait "
        + "until somebody lets them in.";
  }

  @Override
  public String mend() {
    return "Invite them by their own address, or have somebody at the door.";
  }

  @Override
  public int baseSeverity() {
    return 1;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (meeting.listedOnly() > 0
        && meeting.values().is(Control.WAITING_ROOM, "on")
        && meeting.values().is(Control.LOBBY_BYPASS, "named")) {
      found.accept(Detail.of(this, meeting.listedOnly(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return found.value()
        + " invited only through a list or space will be held: the waiting room lets in by name.";
  }
}
