package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Weakness;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/**
 * The passcode is common, a run, one character repeated, or a word of the title or of the host’s
 * address.
 */
@AutoService(Check.class)
public final class WeakPasscode implements MeetingCheck {
  @Override
  public String id() {
    return "weak-passcode";
  }

  @Override
  public String title() {
    return "Weak passcode";
  }

  @Override
  public String summary() {
    return "The passcode is common, a run, one character repeated, or a word of the "
        + "title or of the host’s address.";
  }

  @Override
  public String why() {
    return "Such passcodes are the first that anybody tries.";
  }

  @Override
  public String mend() {
    return "Give the meeting a new passcode that was made for it, and send the "
        + "invitation anew.";
  }

  @Override
  public int baseSeverity() {
    return 3;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    PasscodeFacts passcode = meeting.passcode();
    if (passcode != null && passcode.weakness() != Weakness.NONE) {
      found.accept(Detail.of(this, passcode.weakness().phrase(), null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "The passcode " + found.value() + ", so it is soon guessed.";
  }
}
