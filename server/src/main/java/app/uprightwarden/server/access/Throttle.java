package app.uprightwarden.server.access;

import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.scheduling.annotation.Scheduled;
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

  private final JdbcClient jdbc;
  private final Clock clock;

  Throttle(JdbcClient jdbc, Clock clock) {
    this.jdbc = jdbc;
    this.clock = clock;
  }

  private record Count(String key, int free) {}

  private static List<Count> counts(String email, String place, boolean known) {
    Count both = new Count(AccessHash.sha256("both " + email + " " + place), FREE_BOTH);
    Count at = new Count(AccessHash.sha256("place " + place), FREE_PLACE);
    Count on = new Count(AccessHash.sha256("address " + email), FREE_ADDRESS);
    return known ? List.of(both, at) : List.of(both, at, on);
  }

  private LocalDateTime now() {
    return LocalDateTime.ofInstant(clock.instant(), ZoneOffset.UTC);
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
    LocalDateTime now = now();
    Duration longest = Duration.ZERO;
    for (Count count : counts(email, place, known)) {
      Duration left =
          jdbc.sql("select until_at from sign_in_failure where key_hash = ? and until_at > ?")
              .params(count.key(), now)
              .query(LocalDateTime.class)
              .optional()
              .map(until -> Duration.between(now, until))
              .orElse(Duration.ZERO);
      longest = longest.compareTo(left) < 0 ? left : longest;
    }
    if (longest.isZero()) {
      counts(email, place, known).forEach(count -> failed(count, now));
    }
    return longest;
  }

  private void failed(Count count, LocalDateTime now) {
    // one statement: servers that count at once do not lose each other's
    jdbc.sql(
            "insert into sign_in_failure (key_hash, failures, until_at, at) values (:key, 1, :now,"
                + " :now) on duplicate key update failures = if(at < :old, 1, failures + 1), at ="
                + " :now, until_at = if(failures < :free, :now, :now + interval least(:longest,"
                + " pow(2, least(failures - :free + 1, 12))) second)")
        .param("key", count.key())
        .param("now", now)
        .param("old", now.minus(FORGOTTEN))
        .param("free", count.free())
        .param("longest", LONGEST.toSeconds())
        .update();
  }

  /** The try was right: its address has a clean slate here, and others' counts lose this one. */
  @Transactional(propagation = Propagation.NOT_SUPPORTED)
  void succeeded(String email, String place, boolean known) {
    List<Count> counts = counts(email, place, known);
    jdbc.sql("delete from sign_in_failure where key_hash = ?").param(counts.get(0).key()).update();
    for (Count count : counts.subList(1, counts.size())) {
      jdbc.sql(
              "update sign_in_failure set failures = greatest(failures - 1, 0), until_at = at"
                  + " where key_hash = ?")
          .param(count.key())
          .update();
    }
  }

  @Scheduled(fixedDelay = 600_000)
  void forget() {
    Instant old = clock.instant().minus(FORGOTTEN);
    jdbc.sql("delete from sign_in_failure where at < ?")
        .param(LocalDateTime.ofInstant(old, ZoneOffset.UTC))
        .update();
  }
}
