package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.GuaranteeCheck;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import com.google.auto.service.AutoService;
import java.util.Objects;
import java.util.function.Consumer;

/** Somebody can do what a guarantee says they must not. */
@AutoService(Check.class)
public final class GuaranteeBroken implements GuaranteeCheck {
  @Override
  public String id() {
    return "guarantee-broken";
  }

  @Override
  public String title() {
    return "Guarantee broken";
  }

  @Override
  public String summary() {
    return "Somebody can do what a guarantee says they must not.";
  }

  @Override
  public String why() {
    return "A guarantee says what must never happen, whatever the settings are " + "called.";
  }

  @Override
  public String mend() {
    return "Apply the cheapest remedy, or choose other controls that keep the " + "guarantee.";
  }

  @Override
  public int baseSeverity() {
    return 0;
  }

  @Override
  public void check(Judgement.Basis basis, ResolvedRulebook.Given given, Consumer<Detail> found) {
    if (!basis.matrix().breaks(given.guarantee())) {
      return;
    }
    Matrix.Cell worst = basis.matrix().worst(given.guarantee());
    if (worst != null) {
      int bump = worst.level() == Level.UNATTENDED ? 1 : 0;
      int severity = Math.min(5, given.guarantee().importance() + bump);
      found.accept(Findings.onGuarantee(this, severity, given, worst));
    }
  }

  @Override
  public String text(FindingArguments found) {
    Matrix.Cell worst =
        Objects.requireNonNull(found.worst(), "a broken guarantee has a worst cell");
    return "Someone who "
        + worst.persona().phrase()
        + " can "
        + worst.right().phrase()
        + " "
        + worst.level().phrase()
        + ".";
  }
}
