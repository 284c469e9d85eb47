package app.uprightwarden.server.rulebook;

import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.util.List;

/** A layer as requests name it. */
public final class LayerName {
  private LayerName() {}

  /**
   * @throws ProblemException 422 where the text names no layer
   */
  public static Scope parse(String text) {
    try {
      return Scope.parse(text);
    } catch (IllegalArgumentException e) {
      throw ProblemException.invalid(
          "There is no such layer.", List.of(new Fault("/layer", String.valueOf(e.getMessage()))));
    }
  }
}
