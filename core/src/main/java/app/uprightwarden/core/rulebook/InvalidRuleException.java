package app.uprightwarden.core.rulebook;

/** A rule that the model refuses; {@link #part} names the part that is wrong. */
public final class InvalidRuleException extends IllegalArgumentException {
  private final String part;

  /** Names the part that is wrong, and says why. */
  public InvalidRuleException(String part, String message) {
    super(message);
    this.part = part;
  }

  /** The part that is wrong: {@code limit}. */
  public String part() {
    return part;
  }
}
