package app.uprightwarden.server.persistence;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import com.github.benmanes.caffeine.cache.Expiry;
import com.github.benmanes.caffeine.cache.Ticker;
import java.time.Duration;
import java.util.function.Supplier;

/**
 * What takes long to make is made once for everybody who asks within a moment: the moment is as
 * many times what it took, so that making it never takes more than a part of the time.
 *
 * @param <K> what is asked for
 * @param <V> the answer; never null
 */
public final class AnswerCache<K, V> {
  private static final int TIMES = 3;
  private static final int MAX = 200;

  private record Made<V>(V value, long tookNanos) {}

  private final Ticker ticker;
  private final Cache<K, Made<V>> made;

  public AnswerCache() {
    this(Ticker.systemTicker());
  }

  AnswerCache(Ticker ticker) {
    this.ticker = ticker;
    this.made =
        Caffeine.newBuilder()
            .maximumSize(MAX)
            .ticker(ticker)
            .expireAfter(
                Expiry.creating(
                    (K key, Made<V> answer) -> Duration.ofNanos(TIMES * answer.tookNanos())))
            .build();
  }

  /** The answer as it is, or was a moment ago. Of several who ask at once one makes it. */
  public V get(K key, Supplier<V> maker) {
    return made.get(
            key,
            k -> {
              long begun = ticker.read();
              V value = maker.get();
              return new Made<>(value, ticker.read() - begun);
            })
        .value();
  }
}
