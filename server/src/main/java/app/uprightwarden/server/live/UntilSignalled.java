package app.uprightwarden.server.live;

import com.github.benmanes.caffeine.cache.Cache;
import com.github.benmanes.caffeine.cache.Caffeine;
import java.util.Set;
import java.util.function.LongSupplier;
import java.util.function.Supplier;

/**
 * Answers that take long to make, kept until something is signalled that may change them, a minute
 * at most. Any server's signals count, and they come with what they tell of: who reads a change
 * reads its signal too.
 *
 * @param <K> what is asked for
 * @param <V> the answer; never null
 */
public final class UntilSignalled<K, V> {
  private static final int TIMES = 3;

  private final Signals signals;
  private final Set<Signals.Topic> topics;
  private final boolean isGoodForAMoment;
  private final LongSupplier nanos;
  private final Cache<K, Made<V>> kept;

  private record Made<V>(V value, Signals.Mark mark, long begun, long took) {}

  private UntilSignalled(
      Signals signals,
      Set<Signals.Topic> topics,
      int most,
      boolean isGoodForAMoment,
      LongSupplier nanos) {
    this.signals = signals;
    this.topics = topics;
    this.isGoodForAMoment = isGoodForAMoment;
    this.nanos = nanos;
    this.kept =
        Caffeine.newBuilder().maximumSize(most).expireAfterWrite(Signals.KEPT_ANSWER).build();
  }

  /**
   * Answers that are right whenever they are given.
   *
   * @param most how many are kept
   */
  public static <K, V> UntilSignalled<K, V> exact(
      Signals signals, Set<Signals.Topic> topics, int most) {
    return new UntilSignalled<>(signals, topics, most, false, System::nanoTime);
  }

  /**
   * Answers that may be a moment old: three times as long as they took, so that where something is
   * signalled all the time making them takes no more than a part of it.
   */
  public static <K, V> UntilSignalled<K, V> orAMomentOld(
      Signals signals, Set<Signals.Topic> topics, int most) {
    return orAMomentOld(signals, topics, most, System::nanoTime);
  }

  static <K, V> UntilSignalled<K, V> orAMomentOld(
      Signals signals, Set<Signals.Topic> topics, int most, LongSupplier nanos) {
    return new UntilSignalled<>(signals, topics, most, true, nanos);
  }

  /** The answer. Of several who ask at once one makes it. */
  public V get(K key, Supplier<V> maker) {
    Made<V> made = kept.getIfPresent(key);
    if (made == null || !isGood(made)) {
      made = kept.asMap().compute(key, (k, v) -> v != null && isGood(v) ? v : make(maker));
    }
    return made.value();
  }

  private boolean isGood(Made<V> made) {
    boolean isFresh =
        isGoodForAMoment && nanos.getAsLong() - made.begun() < (TIMES + 1) * made.took();
    return isFresh || signals.isAsBefore(made.mark());
  }

  private Made<V> make(Supplier<V> maker) {
    // before it is made: what is signalled meanwhile makes it old
    Signals.Mark mark = signals.mark(topics);
    long begun = nanos.getAsLong();
    V value = maker.get();
    return new Made<>(value, mark, begun, nanos.getAsLong() - begun);
  }
}
