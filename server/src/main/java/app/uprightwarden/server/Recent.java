package app.uprightwarden.server;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.LongSupplier;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;

/**
 * What takes long to make is made once for everybody who asks within a moment: the moment is as
 * many times what it took, so that making it never takes more than a part of the time. While it is
 * made anew, whoever else asks is given what was made last.
 *
 * @param <K> what is asked for
 * @param <V> the answer; never null
 */
public final class Recent<K, V> {
  private static final int TIMES = 3;
  private static final int MOST = 200;

  private record Made<V>(V value, long at, long took) {}

  private final LongSupplier nanos;
  private final Set<K> making = ConcurrentHashMap.newKeySet();
  private final Map<K, Made<V>> made =
      Collections.synchronizedMap(
          new LinkedHashMap<>(16, 0.75f, true) {
            private static final long serialVersionUID = 1;

            @Override
            protected boolean removeEldestEntry(Map.Entry<K, Made<V>> eldest) {
              return size() > MOST;
            }
          });

  public Recent() {
    this(System::nanoTime);
  }

  Recent(LongSupplier nanos) {
    this.nanos = nanos;
  }

  /** The answer as it is, or was a moment ago. */
  public V get(K key, Supplier<V> maker) {
    @Nullable Made<V> known = made.get(key);
    if (known != null && nanos.getAsLong() - known.at() < TIMES * known.took()) {
      return known.value();
    }
    boolean isOurs = making.add(key);
    if (known != null && !isOurs) {
      return known.value();
    }
    try {
      long begun = nanos.getAsLong();
      V value = maker.get();
      long done = nanos.getAsLong();
      made.put(key, new Made<>(value, done, done - begun));
      return value;
    } finally {
      if (isOurs) {
        making.remove(key);
      }
    }
  }
}
