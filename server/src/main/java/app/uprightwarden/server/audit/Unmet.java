package app.uprightwarden.server.audit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/** The findings of before that were not found again so far: of millions their numbers alone. */
final class Unmet {
  private final long[] ids;
  private final BitSet met = new BitSet();
  private int at;

  /** Those of before, in order. */
  Unmet(long[] ids) {
    this.ids = ids;
  }

  boolean isEmpty() {
    return ids.length == 0;
  }

  void meet(long id) {
    int place = Arrays.binarySearch(ids, id);
    if (place >= 0) {
      met.set(place);
    }
  }

  /** The next of them; empty after the last. */
  List<Long> next(int most) {
    List<Long> some = new ArrayList<>();
    for (; at < ids.length && some.size() < most; at++) {
      if (!met.get(at)) {
        some.add(ids[at]);
      }
    }
    return some;
  }
}
