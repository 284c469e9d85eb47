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
    for (Retention retention : kept) {
      if (isDue(retention, now)) {
        letGo(retention, now);
      }
    }
  }

  /** Of several servers one takes each turn. */
  private boolean isDue(Retention retention, Instant now) {
    return rows.take(retention.what(), now, now.minus(EVERY)) == 1;
  }

  /** Lets go of everything that is due by now. */
  long letGo(Instant now) {
    return kept.stream().mapToLong(retention -> letGo(retention, now)).sum();
  }

  private long letGo(Retention retention, Instant now) {
    Integer days = rows.find(retention.what()).map(row -> row.days).orElse(null);
    if (days == null) {
      return 0;
    }
    Instant before = now.minus(Duration.ofDays(days));
    long all = 0;
    int some = retention.letGo(before, AT_ONCE);
    while (some > 0) {
      all += some;
      some = retention.letGo(before, AT_ONCE);
    }
    if (all > 0) {
      LOG.info("{} rows of {} were kept for {} days and are gone", all, retention.what(), days);
      rows.forgot(retention.what(), all);
    }
    return all;
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob keepingPassing(RetentionService retention) {
      return new RecurringJob(
          "keeping",
          "Letting go of what was kept long enough",
          Duration.ofMinutes(1),
          retention::round);
    }
  }
}
