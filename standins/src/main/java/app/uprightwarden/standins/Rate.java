package app.uprightwarden.standins;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.concurrent.atomic.AtomicInteger;

/** A second's requests at once, and from then on as many as the rate gives back. */
final class Rate {
  private final int perSecond;
  private final AtomicInteger tooMany = new AtomicInteger();
  private final Clock clock;
  private double room;
  private Instant last;

  Rate(int perSecond, Clock clock) {
    this.perSecond = perSecond;
    this.clock = clock;
    room = perSecond;
    last = clock.instant();
  }

  /** How many requests came beyond it. */
  int tooMany() {
    return tooMany.get();
  }

  /** Whether there is room for one more, which has it then. */
  synchronized boolean take() {
    Instant now = clock.instant();
    double gone = Math.max(0, Duration.between(last, now).toNanos() / 1e9);
    room = Math.min(perSecond, room + gone * perSecond);
    last = now;
    if (room < 1) {
      tooMany.incrementAndGet();
      return false;
    }
    room--;
    return true;
  }
}
