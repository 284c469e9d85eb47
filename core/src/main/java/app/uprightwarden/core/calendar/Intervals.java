package app.uprightwarden.core.calendar;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;

/**
 * A set of moments as half-open intervals [from, to), disjoint, not touching, in order. The unit is
 * the caller's: minutes or seconds since the epoch. Two sets of the same moments are equal.
 */
public record Intervals(List<Span> spans) {
  public static final Intervals NONE = new Intervals(List.of());

  /** From a moment up to, and without, another; one that ends before it begins is refused. */
  public record Span(long from, long to) {
    public Span {
      if (to < from) {
        throw new IllegalArgumentException("ends at " + to + ", before it begins at " + from);
      }
    }

    /** In the caller's unit; 0 where it is empty. */
    public long length() {
      return to - from;
    }
  }

  public Intervals {
    spans = List.copyOf(spans);
  }

  /** The moments of any of these spans, which may overlap, touch, be empty and in any order. */
  public static Intervals of(Collection<Span> spans) {
    List<Span> sorted = new ArrayList<>(spans);
    sorted.sort(Comparator.comparingLong(Span::from));
    List<Span> joined = new ArrayList<>();
    for (Span span : sorted) {
      if (span.length() == 0) {
        continue;
      }
      Span last = joined.isEmpty() ? null : joined.get(joined.size() - 1);
      if (last != null && span.from() <= last.to()) {
        joined.set(joined.size() - 1, new Span(last.from(), Math.max(last.to(), span.to())));
      } else {
        joined.add(span);
      }
    }
    return new Intervals(joined);
  }

  /** The moments from one up to, and without, another. */
  public static Intervals of(long from, long to) {
    return of(List.of(new Span(from, to)));
  }

  /** The moments of either. */
  public Intervals union(Intervals other) {
    List<Span> all = new ArrayList<>(spans);
    all.addAll(other.spans);
    return of(all);
  }

  /** The moments of both. */
  public Intervals intersect(Intervals other) {
    List<Span> common = new ArrayList<>();
    int i = 0;
    int j = 0;
    while (i < spans.size() && j < other.spans.size()) {
      Span a = spans.get(i);
      Span b = other.spans.get(j);
      long from = Math.max(a.from(), b.from());
      long to = Math.min(a.to(), b.to());
      if (from < to) {
        common.add(new Span(from, to));
      }
      if (a.to() < b.to()) {
        i++;
      } else {
        j++;
      }
    }
    return new Intervals(common);
  }

  /** These moments without the other's. */
  public Intervals minus(Intervals other) {
    List<Span> left = new ArrayList<>();
    int j = 0;
    for (Span span : spans) {
      long from = span.from();
      while (j < other.spans.size() && other.spans.get(j).to() <= from) {
        j++;
      }
      for (int k = j; k < other.spans.size() && other.spans.get(k).from() < span.to(); k++) {
        Span cut = other.spans.get(k);
        if (cut.from() > from) {
          left.add(new Span(from, cut.from()));
        }
        from = Math.max(from, cut.to());
      }
      if (from < span.to()) {
        left.add(new Span(from, span.to()));
      }
    }
    return new Intervals(left);
  }

  /** Whether any moment of the span is in the set; an empty span has none. */
  public boolean touches(long from, long to) {
    int low = 0;
    int high = spans.size();
    while (low < high) {
      int middle = (low + high) >>> 1;
      if (spans.get(middle).to() <= from) {
        low = middle + 1;
      } else {
        high = middle;
      }
    }
    return from < to && low < spans.size() && spans.get(low).from() < to;
  }

  /** Whether there is no moment in it. */
  public boolean isEmpty() {
    return spans.isEmpty();
  }

  /** All moments together. */
  public long length() {
    return spans.stream().mapToLong(Span::length).sum();
  }
}
