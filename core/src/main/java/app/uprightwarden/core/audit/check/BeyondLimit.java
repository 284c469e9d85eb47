package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.ControlCheck;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A control is looser than its rule allows, or not what a fixed neutral one says. */
@AutoService(Check.class)
public final class BeyondLimit implements ControlCheck {
  @Override
  public String id() {
    return "beyond-limit";
  }

  @Override
  public String title() {
    return "Looser than the rule";
  }

  @Override
  public String summary() {
    return "A control is looser than its rule allows, or not what a fixed neutral " + "one says.";
  }

  @Override
  public String why() {
    return "The rulebook says how far a host may go. Past that, what the rule was "
        + "made against can happen.";
  }

  @Override
  public String mend() {
    return "Move the control to the limit.";
  }

  @Override
  public int baseSeverity() {
    return 0;
  }

  @Override
  public void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found) {
    Value value = basis.values().get(rule.control());
    if (value != null && !basis.within(rule, value)) {
      found.accept(
          Findings.onRule(
              this, basis.bumped(rule.importance()), rule, rule.control().plain(value)));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.isAndAllowed(found) + " " + Findings.risk(found);
  }
}
