package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Wire;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The conference service of meetings that no linked service holds: what remedies ask of it. */
public interface ConferenceBridge extends SessionHolder {
  /**
   * A change of a meeting's settings.
   *
   * @param id the same whenever the same command is sent again
   * @param occurrence the original local start of the one concerned, empty for all
   * @param controls control → value in plain form; null takes a value away
   * @param newPasscode whether a new passcode goes with it, {@code newNumber} a new number
   */
  record Command(
      String id,
      String meeting,
      String occurrence,
      Map<String, @Nullable Object> controls,
      boolean newPasscode,
      boolean newNumber) {}

  /**
   * Carries a command out, once however often it is sent.
   *
   * @throws Away where nobody knows whether it was; send it again later
   */
  Wire.Answered change(Command command) throws Away;
}
