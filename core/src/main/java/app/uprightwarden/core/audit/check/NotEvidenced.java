package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.ControlCheck;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.rulebook.ResolvedRule;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** A rule binds a control, and nothing says how the meeting has it. */
@AutoService(Check.class)
public final class NotEvidenced implements ControlCheck {
  @Override
  public String id() {
    return "not-evidenced";
  }

  @Override
  public String title() {
    return "Not known";
  }

  @Override
  public String summary() {
    return "A rule binds a control, and nothing says how the meeting has it.";
  }

  @Override
  public String why() {
    return "What is not known must be taken to stand at its loosest.";
  }

  @Override
  public String mend() {
    return "Look the setting up and enter it, or set it to what the rule says.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(Judgement.Basis basis, ResolvedRule rule, Consumer<Detail> found) {
    if (rule.notEvidencedIn(basis.values())) {
      found.accept(Findings.onRule(this, baseSeverity(), rule, null));
    }
  }

  @Override
  public String text(FindingArguments found) {
    return "Nothing says how "
        + Findings.title(found)
        + " is set. It may stand at its loosest: "
        + Findings.decapitalised(Findings.risk(found));
  }
}
