package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.Detail;
import java.time.LocalDateTime;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What becomes of one finding between two rulebooks: new, gone, or found again with another
 * severity.
 *
 * @param before null where it is new
 * @param after null where it is gone
 * @param occurrence null for the series
 */
public record FindingChange(
    @Nullable LocalDateTime occurrence, @Nullable Detail before, @Nullable Detail after) {

  /** Whether it is new. */
  public boolean appears() {
    return before == null;
  }

  /** Whether it is gone. */
  public boolean goes() {
    return after == null;
  }

  /** The finding's check, control and all, whichever side has it. */
  public Detail detail() {
    return after != null ? after : Objects.requireNonNull(before);
  }
}
