package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.ControlValues;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A session as it is stored.
 *
 * @param occurrence the original local start of its meeting's occurrence
 * @param coHosts those named before it began
 * @param clockFrom where its clock stood at {@code wallFrom}; it runs {@code speed} times as fast
 * @param script how the stand-in plays it, with how many {@code strangers}
 * @param edition the rulebook in force when it was opened
 * @param state {@code asked}, {@code open}, {@code ended} or {@code lost}, where the service knows
 *     it no more
 * @param service the linked service that holds it; null for none
 * @param folded the last event that its book has taken in
 */
record FloorSession(
    String id,
    String meeting,
    String occurrence,
    String title,
    String host,
    List<String> coHosts,
    Instant starts,
    Instant ends,
    Instant clockFrom,
    Instant wallFrom,
    double speed,
    boolean practice,
    String script,
    int strangers,
    int edition,
    @Nullable String kind,
    ControlValues controls,
    String state,
    long folded,
    String madeBy,
    @Nullable Long service,
    @Nullable Instant endedAt) {

  boolean isOver() {
    return state.equals("ended") || state.equals("lost");
  }

  /** Where its clock stands. */
  Instant clock(Instant wall) {
    if (endedAt != null) {
      return endedAt;
    }
    return clockFrom.plusMillis(Math.round(Duration.between(wallFrom, wall).toMillis() * speed));
  }
}
