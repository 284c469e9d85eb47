package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.ValuesCheck;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.rulebook.Level;
import com.google.auto.service.AutoService;
import java.util.function.Consumer;

/** Early entry is set, yet nobody but hosts can pass the waiting room. */
@AutoService(Check.class)
public final class EarlyEntryIdle implements ValuesCheck {
  @Override
  public String id() {
    return "early-entry-idle";
  }

  @Override
  public String title() {
    return "Early entry helps nobody";
  }

  @Override
  public String summary() {
    return "Early entry is set, yet nobody but hosts can pass the waiting room.";
  }

  @Override
  public String why() {
    return "Early entry does nothing while everyone is held.";
  }

  @Override
  public String mend() {
    return "Set early entry to 0, or let some people past the waiting room.";
  }

  @Override
  public int baseSeverity() {
    return 1;
  }

  @Override
  public void check(Judgement.Basis basis, Consumer<Detail> found) {
    ControlValues values = basis.values();
    Value early = values.effective(Control.EARLY_ENTRY);
    boolean allHeld =
        values.is(Control.WAITING_ROOM, "on") && values.is(Control.LOBBY_BYPASS, "hosts");
    if (allHeld && !early.equals(new Value.Amount(0)) && !phonesPass(basis.matrix())) {
      found.accept(Detail.of(this, Control.EARLY_ENTRY.plain(early), 0));
    }
  }

  private static boolean phonesPass(Matrix matrix) {
    return matrix.entry(Persona.PHONE_CALLER).compareTo(Level.FREE) >= 0;
  }

  @Override
  public String text(FindingArguments found) {
    return "Early entry is set, but everybody is held at the door anyway, so it does nothing.";
  }
}
