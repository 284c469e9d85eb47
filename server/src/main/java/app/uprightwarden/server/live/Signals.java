package app.uprightwarden.server.live;

import app.uprightwarden.server.jobs.RecurringJob;
import java.time.Clock;
import java.time.Duration;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Set;
import org.springframework.context.annotation.Bean;
import org.springframework.context.annotation.Configuration;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/**
 * What happened, for pages that are open. A signal is a row written with what it tells of, so that
 * every server hears of it, and only of what was committed.
 */
@Service
public class Signals {
  private static final Duration OVERLAP = Duration.ofSeconds(10);
  private static final Duration KEPT = Duration.ofMinutes(5);

  private final SignalRepository signals;
  private final Clock clock;

  Signals(SignalRepository signals, Clock clock) {
    this.signals = signals;
    this.clock = clock;
  }

  /** What a signal is about. */
  public enum Topic {
    STANDING,
    RUNS,
    WAIVERS,
    REQUESTS,
    REMEDIES,
    FLOOR,
    SERVICES;

    /** As it is written. */
    public String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  @Transactional
  public void send(Topic topic) {
    SignalSentEntity row = new SignalSentEntity();
    row.topic = topic.id();
    row.at = clock.instant();
    signals.insert(row);
  }

  /**
   * Reads what is new. Rows are committed out of the order of their numbers, so that the last
   * seconds are read again each time and known ones left out. The first time, the last seconds are
   * all new: rather once too often than something unheard.
   */
  public final class Reader {
    private Set<Long> known = new HashSet<>();

    private Reader() {}

    /** The topics of what is new. */
    public Set<String> next() {
      Set<String> topics = new LinkedHashSet<>();
      Set<Long> seen = new HashSet<>();
      for (SignalSentEntity sent : signals.since(clock.instant().minus(OVERLAP))) {
        seen.add(sent.id);
        if (!known.contains(sent.id)) {
          topics.add(sent.topic);
        }
      }
      known = seen;
      return topics;
    }
  }

  /** One that has read nothing so far. */
  public Reader reader() {
    return new Reader();
  }

  void forgetOld() {
    signals.deleteBefore(clock.instant().minus(KEPT));
  }

  /** Done again and again by one of the servers. */
  @Configuration(proxyBeanMethods = false)
  static class Recurring {
    @Bean
    RecurringJob signalsPassing(Signals signals) {
      return new RecurringJob(
          "signals", "Forgetting old signals", Duration.ofMinutes(1), signals::forgetOld);
    }
  }
}
