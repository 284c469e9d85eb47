package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Register;
import app.uprightwarden.core.audit.RegisterCheck;
import com.google.auto.service.AutoService;

/** Two or more meetings share a passcode. */
@AutoService(Check.class)
public final class ReusedPasscode implements RegisterCheck {
  @Override
  public String id() {
    return "reused-passcode";
  }

  @Override
  public String title() {
    return "Passcode of several meetings";
  }

  @Override
  public String summary() {
    return "Two or more meetings share a passcode.";
  }

  @Override
  public String why() {
    return "Whoever was let into one can come into the others.";
  }

  @Override
  public String mend() {
    return "Give each meeting a passcode of its own.";
  }

  @Override
  public int baseSeverity() {
    return 2;
  }

  @Override
  public void check(Register register, Register.Sink found) {
    int[] groups = register.byPasscode();
    int[] sharing = new int[groups.length];
    for (int group : groups) {
      if (group >= 0) {
        sharing[group]++;
      }
    }
    for (int meeting = 0; meeting < groups.length; meeting++) {
      if (groups[meeting] >= 0 && sharing[groups[meeting]] > 1) {
        found.found(meeting, Detail.of(this, sharing[groups[meeting]], 1));
      }
    }
  }

  @Override
  public String text(FindingArguments found) {
    return found.value() + " meetings share this passcode.";
  }
}
