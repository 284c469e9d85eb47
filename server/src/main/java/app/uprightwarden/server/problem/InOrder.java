package app.uprightwarden.server.problem;

import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Small maps that keep the order in which they are written down. {@code Map.of} has another order
 * in each run of the program, so that whatever is written out of one differs from run to run.
 */
public final class InOrder {
  private InOrder() {}

  /** Two entries. */
  public static <K, V> Map<K, V> map(K k1, V v1, K k2, V v2) {
    return of(k1, v1, k2, v2);
  }

  /** Three entries. */
  public static <K, V> Map<K, V> map(K k1, V v1, K k2, V v2, K k3, V v3) {
    return of(k1, v1, k2, v2, k3, v3);
  }

  /** Four entries. */
  public static <K, V> Map<K, V> map(K k1, V v1, K k2, V v2, K k3, V v3, K k4, V v4) {
    return of(k1, v1, k2, v2, k3, v3, k4, v4);
  }

  /** Five entries. */
  public static <K, V> Map<K, V> map(K k1, V v1, K k2, V v2, K k3, V v3, K k4, V v4, K k5, V v5) {
    return of(k1, v1, k2, v2, k3, v3, k4, v4, k5, v5);
  }

  /** Six entries. */
  public static <K, V> Map<K, V> map(
      K k1, V v1, K k2, V v2, K k3, V v3, K k4, V v4, K k5, V v5, K k6, V v6) {
    return of(k1, v1, k2, v2, k3, v3, k4, v4, k5, v5, k6, v6);
  }

  /** The same map, unmodifiable, in the order it has. */
  public static <K, V> Map<K, V> copy(Map<K, V> of) {
    return Collections.unmodifiableMap(new LinkedHashMap<>(of));
  }

  @SuppressWarnings("unchecked")
  private static <K, V> Map<K, V> of(Object... entries) {
    Map<K, V> map = new LinkedHashMap<>();
    for (int i = 0; i < entries.length; i += 2) {
      map.put((K) entries[i], (V) entries[i + 1]);
    }
    return Collections.unmodifiableMap(map);
  }
}
