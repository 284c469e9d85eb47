package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingCheck;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.service.Held;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A rule binds a control that the meeting's service cannot hold strictly enough. */
@AutoService(Check.class)
public final class BeyondMeans implements MeetingCheck {
  @Override
  public String id() {
    return "beyond-means";
  }

  @Override
  public String title() {
    return "Beyond what the service can hold";
  }

  @Override
  public String summary() {
    return "A rule binds a control that the meeting's conference service cannot hold strictly enough.";
  }

  @Override
  public String why() {
    return "No setting of this meeting can keep the rule for as long as it is held there.";
  }

  @Override
  public String mend() {
    return "Set another control of the service that keeps people out, hold the meeting in another service, or waive the rule for it.";
  }

  @Override
  public int baseSeverity() {
    return 0;
  }

  @Override
  public void check(MeetingFacts meeting, Consumer<Detail> found) {
    Held held = meeting.held();
    if (held == null) {
      return;
    }
    for (ResolvedRule rule : meeting.rules().rules()) {
      if (!held.means().canKeep(rule)) {
        Value value = meeting.values().get(rule.control());
        found.accept(
            Findings.onRule(
                    this,
                    rule.importance(),
                    rule,
                    value == null ? null : rule.control().plain(value))
                .at(new FindingArguments.There(held.service(), null, null, null)));
      }
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.service(found)
        + " cannot hold "
        + Findings.title(found)
        + " as strictly as the rule asks, “"
        + Findings.label(found, found.allowed())
        + "”.";
  }
}
