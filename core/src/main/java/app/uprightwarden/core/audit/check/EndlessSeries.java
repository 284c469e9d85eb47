package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A series recurs with no end. */
@AutoService(Check.class)
public final class EndlessSeries implements MeetingCheck {
  @Override
  public String id() {
    return "endless-series";
  }

  @Override
  public String title() {
    return "Series without an end";
  }

  @Override
  public String summary() {
    return "A series recurs with no end.";
  }

  @Override
  public String why() {
    return "Nobody looks at it again, and its number and link stay good for ever.";
  }

  @Override
  public String mend() {
    return "Give the series a last date.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    if (meeting.endless()) {
      found.accept(Detail.of(this, null, null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "The series has no last date.";
  }
}
