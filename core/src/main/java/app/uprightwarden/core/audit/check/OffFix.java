package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.ControlCheck;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import com.google.auto.service.AutoService;
import java.util.List;
import java.util.function.Consumer;

/** A fixed control is stricter than its fixed value. */
@AutoService(Check.class)
public final class OffFix implements ControlCheck {
  @Override
  public String id() {
    return "off-fix";
  }

  @Override
  public String title() {
    return "Not as fixed";
  }

  @Override
  public String summary() {
    return "A fixed control is stricter than its fixed value.";
  }

  @Override
  public String why() {
    return "Nothing can go wrong by it. It only differs from what everybody else "
        + "has, and may surprise people.";
  }

  @Override
  public String mend() {
    return "Put the fixed value in place, or leave it.";
  }

  @Override
  public int baseSeverity() {
    return 1;
  }

  @Override
  public List<ResolvedRule> among(ResolvedRulebook rules) {
    return rules.fixed();
  }

  @Override
  public void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found) {
    Value value = basis.values().get(rule.control());
    if (value != null && basis.stricterThanFix(rule, value)) {
      found.accept(Findings.onRule(this, baseSeverity(), rule, rule.control().plain(value)));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.isAndAllowed(found) + " That is stricter than asked and lets nothing happen.";
  }
}
