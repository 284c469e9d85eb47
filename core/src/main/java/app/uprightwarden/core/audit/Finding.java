package app.uprightwarden.core.audit;

import java.time.LocalDateTime;
import org.jspecify.annotations.Nullable;

/**
 * Something wrong with one meeting.
 *
 * @param occurrence the original local start of the occurrence concerned, null for the series
 */
public record Finding(MeetingFacts meeting, @Nullable LocalDateTime occurrence, Detail detail) {
  /**
   * What makes this finding the same one in two audits: meeting, occurrence, check, and control or
   * guarantee.
   */
  public String identity() {
    return String.join(
        "|",
        meeting.id(),
        occurrence == null ? "" : occurrence.toString(),
        detail.check().id(),
        detail.subject());
  }
}
