package app.uprightwarden.server.retention;

import app.uprightwarden.server.jobs.RecurringJob;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** Lets go of what has been kept long enough, some rows at a time, each hour. */
@Service
public class RetentionService {
  private static final Logger LOG = LoggerFactory.getLogger(RetentionService.class);
  private static final int AT_ONCE = 500;
  private static final Duration EVERY = Duration.ofHours(1);

  private final RetentionRepository rows;
  private final List<Retention> kept;
  private final Clock clock;

  RetentionService(RetentionRepository rows, List<Retention> kept, Clock clock) {
    this.rows = rows;
    this.kept = kept;
    this.clock = clock;
  }

  /**
   * A rule.
   *
   * @param what it is about
   * @param days how long it is kept; null for ever
   * @param ranAt when it was last looked for, and
   * @param forgot how many rows have gone so far
   */
  public record RetentionRule(
      @Worded String what, @Nullable Integer days, @Nullable Instant ranAt, long forgot) {}

  @Transactional(readOnly = true)
  public List<RetentionRule> rules() {
    return rows.all().stream()
        .map(row -> new RetentionRule(row.what, row.days, row.ranAt, row.forgot))
        .toList();
  }

  /**
   * Sets how long something is kept.
   *
   * @param days null for ever
   */
  @Transactional
  public List<RetentionRule> set(String what, @Nullable Integer days) {
    int known = rows.setDays(what, days);
    if (known == 0) {
      throw ProblemException.invalid(
          "Nothing called " + what + " is kept.", List.of(new Fault("/what", "is not known")));
    }
    return rules();
  }

  void round() {
    Instant now = clock.instant();
    for (Retention keeping : kept) {
      if (isDue(keeping, now)) {
        letGo(keeping, now);
      }
    }
  }

  /** Of several servers one takes each turn. */
  private boolean isDue(Retention keeping, Instant now) {
    return rows.take(keeping.what(), now, now.minus(EVERY)) == 1;
  }

  /** Lets go of everything that is due by now. */
  long letGo(Instant now) {
    return kept.stream().mapToLong(keeping -> letGo(keeping, now)).sum();
  }

  private long letGo(Retention keeping, Instant now) {
    Integer days = rows.find(keeping.what()).map(row -> row.days).orElse(null);
    if (days == null) {
      return 0;
    }
    Instant before = now.minus(Duration.ofDays(days));
    long all = 0;
    int some = keeping.letGo(before, AT_ONCE);
    while (some > 0) {
      all += some;
      some = keeping.letGo(before, AT_ONCE);
    }
    if (all > 0) {
      LOG.info("{} rows of {} were kept for {} days and are gone", all, keeping.what(), days);
      rows.forgot(keeping.what(), all);
    }
    return all;
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob keepingPassing(RetentionService keeping) {
      return new RecurringJob(
          "keeping",
          "Letting go of what was kept long enough",
          Duration.ofMinutes(1),
          keeping::round);
    }
  }
}
