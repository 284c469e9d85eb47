package app.uprightwarden.server.live;

import app.uprightwarden.server.jobs.RecurringJob;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.Set;
import java.util.stream.Collectors;
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

  /** Both together are shorter than signals are kept, or their number would fall by itself. */
  private static final Duration COMPARED = Duration.ofMinutes(3);

  static final Duration KEPT_ANSWER = Duration.ofMinutes(1);

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
    SERVICES,
    /** Meetings changed, or what belongs with them; pages are told once they are judged. */
    REGISTER;

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

  /** The topics of the last seconds. */
  Set<String> recent() {
    return signals.since(clock.instant().minus(OVERLAP)).stream()
        .map(sent -> sent.topic)
        .collect(Collectors.toCollection(LinkedHashSet::new));
  }

  /** One that has read nothing so far. */
  public Reader reader() {
    return new Reader();
  }

  /**
   * How much was signalled of some topics, as far back as signals are compared: whoever keeps an
   * answer compares it with {@link #isAsBefore}.
   */
  record Mark(Set<String> topics, Instant since, long signals) {}

  Mark mark(Set<Topic> topics) {
    Set<String> ids = topics.stream().map(Topic::id).collect(Collectors.toUnmodifiableSet());
    // a long transaction commits a signal long after it was written
    Instant since = clock.instant().minus(COMPARED);
    return new Mark(ids, since, signals.count(ids, since));
  }

  /** Whether nothing was signalled since; true of a mark of the last minute alone. */
  boolean isAsBefore(Mark mark) {
    return clock.instant().isBefore(mark.since().plus(COMPARED).plus(KEPT_ANSWER))
        && signals.count(mark.topics(), mark.since()) == mark.signals();
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
