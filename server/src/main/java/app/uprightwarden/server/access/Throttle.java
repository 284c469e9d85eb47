package app.uprightwarden.server.access;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.Map;
import org.springframework.stereotype.Component;

/**
 * Slows down guessing at sign-in. After {@link #FREE} failures from one place on one address each
 * further one doubles the wait, up to a quarter of an hour. It counts address and place together,
 * so that nobody can shut another person out from elsewhere.
 */
@Component
class Throttle {
  private static final int FREE = 5;
  private static final Duration LONGEST = Duration.ofMinutes(15);
  private static final int MOST_REMEMBERED = 10_000;

  private record Failures(int count, Instant until) {}

  private final Clock clock;
  private final Map<String, Failures> failures =
      new LinkedHashMap<>(16, 0.75f, true) {
        @Override
        protected boolean removeEldestEntry(Map.Entry<String, Failures> eldest) {
          return size() > MOST_REMEMBERED;
        }
      };

  Throttle(Clock clock) {
    this.clock = clock;
  }

  /** How long this address must wait at this place; zero where it need not. */
  synchronized Duration waitFor(String email, String place) {
    Failures known = failures.get(key(email, place));
    if (known == null) {
      return Duration.ZERO;
    }
    Duration left = Duration.between(clock.instant(), known.until());
    return left.isNegative() ? Duration.ZERO : left;
  }

  synchronized void failed(String email, String place) {
    Failures known = failures.get(key(email, place));
    int count = known == null ? 1 : known.count() + 1;
    Duration wait =
        count < FREE ? Duration.ZERO : Duration.ofSeconds(1L << Math.min(count - FREE + 1, 10));
    Duration capped = wait.compareTo(LONGEST) > 0 ? LONGEST : wait;
    failures.put(key(email, place), new Failures(count, clock.instant().plus(capped)));
  }

  synchronized void succeeded(String email, String place) {
    failures.remove(key(email, place));
  }

  private static String key(String email, String place) {
    return email + "|" + place;
  }
}
