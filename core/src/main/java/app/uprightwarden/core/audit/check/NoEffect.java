package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.ControlCheck;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import com.google.auto.service.AutoService;
import java.util.List;
import java.util.function.Consumer;

/** A governed control is set, and another setting keeps it from doing anything. */
@AutoService(Check.class)
public final class NoEffect implements ControlCheck {
  @Override
  public String id() {
    return "no-effect";
  }

  @Override
  public String title() {
    return "Has no effect";
  }

  @Override
  public String summary() {
    return "A governed control is set, and another setting keeps it from doing " + "anything.";
  }

  @Override
  public String why() {
    return "Settings that depend on each other are set in good faith and do " + "nothing.";
  }

  @Override
  public String mend() {
    return "Tighten one of the controls named; then this one matters.";
  }

  @Override
  public int baseSeverity() {
    return 0;
  }

  @Override
  public List<ResolvedRule> among(ResolvedRulebook rules) {
    return rules.governingMatrix();
  }

  @Override
  public void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found) {
    Value value = basis.values().get(rule.control());
    if (value == null || !rule.governs()) {
      return;
    }
    List<Control> by = basis.defeatedBy(rule.control());
    if (!by.isEmpty()) {
      found.accept(
          Findings.onRule(
              this, basis.bumped(rule.importance()), rule, rule.control().plain(value), by));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return Findings.title(found)
        + " is “"
        + Findings.label(found, found.value())
        + "” and changes nothing here, because of "
        + Findings.titles(found.defeatedBy())
        + ".";
  }
}
