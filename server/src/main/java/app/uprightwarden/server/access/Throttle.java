package app.uprightwarden.server.access;

import app.uprightwarden.server.jobs.RecurringJob;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Slows down guessing at sign-in, and cannot be used to shut somebody out.
 *
 * <p>Failures are counted three ways: by address and place together, by place over all addresses
 * (one who tries a common password on many accounts), and by address over all places (one who
 * guesses from many). The last does not hold where the account's owner has signed in before, so a
 * stranger who fails on purpose keeps strangers away, never the owner. Each count has so many free
 * tries; after them every further failure doubles the wait, up to a quarter of an hour. Counts are
 * in the database: several servers share them. A try is counted before the password is looked at,
 * or many at once would all be the first.
 */
@Component
class Throttle {
  static final int FREE_BOTH = 5;
  static final int FREE_PLACE = 40;
  static final int FREE_ADDRESS = 25;
  private static final Duration LONGEST = Duration.ofMinutes(15);
  private static final Duration FORGOTTEN = Duration.ofHours(24);

  private final SignInFailureRepository failures;
  private final Clock clock;

  Throttle(SignInFailureRepository failures, Clock clock) {
    this.failures = failures;
    this.clock = clock;
  }

  private record Count(String key, int free) {}

  private static List<Count> counts(String email, String place, boolean known) {
    Count both = new Count(AccessHash.sha256("both " + email + " " + place), FREE_BOTH);
    Count at = new Count(AccessHash.sha256("place " + place), FREE_PLACE);
    Count on = new Count(AccessHash.sha256("address " + email), FREE_ADDRESS);
    return known ? List.of(both, at) : List.of(both, at, on);
  }

  /**
   * Takes a try, or says how long to wait for the next.
   *
   * @param known whether the address's owner has signed in from this place before
   * @return zero where the try may be made; it counts as failed until {@link #succeeded}, however
   *     the transaction ends that asks
   */
  @Transactional(propagation = Propagation.NOT_SUPPORTED)
  Duration take(String email, String place, boolean known) {
    Instant now = clock.instant();
    Duration longest = Duration.ZERO;
    for (Count count : counts(email, place, known)) {
      Duration left =
          failures
              .until(count.key(), now)
              .map(until -> Duration.between(now, until))
              .orElse(Duration.ZERO);
      longest = longest.compareTo(left) < 0 ? left : longest;
    }
    if (longest.isZero()) {
      counts(email, place, known)
          .forEach(count -> failures.count(count.key(), now, row -> failed(row, count, now)));
    }
    return longest;
  }

  private static void failed(SignInFailureEntity row, Count count, Instant now) {
    row.failures = row.at.isBefore(now.minus(FORGOTTEN)) ? 1 : row.failures + 1;
    row.at = now;
    row.untilAt = now;
    if (row.failures >= count.free()) {
      long doubled = 1L << Math.min(row.failures - count.free() + 1, 12);
      row.untilAt = now.plusSeconds(Math.min(LONGEST.toSeconds(), doubled));
    }
  }

  /** The try was right: its address has a clean slate here, and others' counts lose this one. */
  @Transactional(propagation = Propagation.NOT_SUPPORTED)
  void succeeded(String email, String place, boolean known) {
    List<Count> counts = counts(email, place, known);
    failures.delete(counts.get(0).key());
    for (Count count : counts.subList(1, counts.size())) {
      failures.forgive(count.key());
    }
  }

  void forget() {
    failures.deleteBefore(clock.instant().minus(FORGOTTEN));
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob throttlePassing(Throttle throttle) {
      return new RecurringJob(
          "throttle",
          "Forgetting old sign-ins that failed",
          Duration.ofMinutes(10),
          throttle::forget);
    }
  }
}
