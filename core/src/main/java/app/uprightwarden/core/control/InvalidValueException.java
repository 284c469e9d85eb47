package app.uprightwarden.core.control;

import org.jspecify.annotations.Nullable;

/**
 * A value that its control's table does not have. The message names the value and what may stand.
 */
public final class InvalidValueException extends IllegalArgumentException {
  /** Names a value, and says what may stand. */
  public InvalidValueException(@Nullable Object value, String allowed) {
    super("%s is not %s".formatted(shown(value), allowed));
  }

  private static String shown(@Nullable Object value) {
    if (value == null) {
      return "null";
    }
    String text = value instanceof String ? "\"" + value + "\"" : value.toString();
    return text.length() > 60 ? text.substring(0, 60) + "…" : text;
  }
}
