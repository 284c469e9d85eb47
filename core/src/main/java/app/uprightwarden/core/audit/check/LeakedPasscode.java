package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** The title or description holds the passcode, or a link with it. */
@AutoService(Check.class)
public final class LeakedPasscode implements MeetingCheck {
  @Override
  public String id() {
    return "leaked-passcode";
  }

  @Override
  public String title() {
    return "Passcode written in the open";
  }

  @Override
  public String summary() {
    return "The title or description holds the passcode, or a link with it.";
  }

  @Override
  public String why() {
    return "Whoever reads the calendar entry has the passcode, and a public entry "
        + "is read by anybody.";
  }

  @Override
  public String mend() {
    return "Take the passcode out of the text and give the meeting a new one.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  private static final int WHERE_PUBLIC = 4;

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (meeting.passcode() == null || !meeting.passcode().leaked()) {
      return;
    }
    Value listing = meeting.values().get(Control.LISTING);
    boolean isPublic = listing != null && meeting.values().is(Control.LISTING, "public");
    Detail detail = Detail.of(this, isPublic ? "public" : "not public", null);
    found.accept(isPublic ? detail.withSeverity(WHERE_PUBLIC) : detail);
  }

  @Override
  public String text(FindingArguments found) {
    return "public".equals(found.value())
        ? "The passcode stands in the title or description, where anybody can read it."
        : "The passcode stands in the title or description; whoever sees the entry has it.";
  }
}
