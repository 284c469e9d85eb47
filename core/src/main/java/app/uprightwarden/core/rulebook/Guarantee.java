package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import java.util.List;
import java.util.stream.Collectors;

/** No persona of the set may hold a right of the set above the ceiling. */
public record Guarantee(
    String id,
    List<Persona> who,
    List<Right> rights,
    Level ceiling,
    int importance,
    String reason) {
  public Guarantee {
    who = List.copyOf(who);
    rights = List.copyOf(rights);
    if (importance < 1 || importance > 4) {
      throw new InvalidRuleException("importance", "importance must be 1 to 4");
    }
    if (who.isEmpty() || rights.isEmpty()) {
      throw new InvalidRuleException(
          who.isEmpty() ? "who" : "rights", "a guarantee names at least one persona and one right");
    }
  }

  /** It as a sentence: who must not do what. */
  public String sentence() {
    String whoever = who.stream().map(Persona::phrase).collect(Collectors.joining(" or "));
    String what = rights.stream().map(Right::phrase).collect(Collectors.joining(" or "));
    return ceiling == Level.NEVER
        ? "Nobody who " + whoever + " may " + what + "."
        : "Nobody who " + whoever + " may " + what + ", except " + ceiling.phrase() + ".";
  }

  /** The rights as a mask of {@link Right#bit}. */
  public int rightsMask() {
    int mask = 0;
    for (Right right : rights) {
      mask |= right.bit();
    }
    return mask;
  }
}
