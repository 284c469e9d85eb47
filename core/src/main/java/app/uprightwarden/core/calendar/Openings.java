package app.uprightwarden.core.calendar;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Common openings: times at which all who must come are free, best first. Best is the one that most
 * of those who may come can make; among equals, the earliest.
 */
public final class Openings {
  private Openings() {}

  /**
   * What is wanted. All times are minutes since the epoch.
   *
   * @param allowed the moments a meeting may cover: working hours of all zones concerned, and the
   *     window
   * @param busy what everybody who must come, and the room, is taken up with
   * @param optional the busy times of each who may come
   * @param minutes how long the meeting is; at least 1
   * @param step starts are multiples of this; at least 1
   * @param most how many to give
   */
  public record Wish(
      Intervals allowed,
      Intervals busy,
      List<Intervals> optional,
      int minutes,
      int step,
      int most) {
    public Wish {
      optional = List.copyOf(optional);
      if (minutes < 1 || step < 1 || most < 0) {
        throw new IllegalArgumentException("length and step are at least one minute");
      }
    }
  }

  /**
   * One opening.
   *
   * @param missing which of the optional cannot come, by their place in the list
   */
  public record Opening(long from, long to, List<Integer> missing) {}

  /** Openings that do not overlap one another, best first. */
  public static List<Opening> find(Wish wish) {
    List<Opening> all = new ArrayList<>();
    for (Intervals.Span gap : wish.allowed().minus(wish.busy()).spans()) {
      long start = -Math.floorDiv(-gap.from(), (long) wish.step()) * wish.step();
      for (; start + wish.minutes() <= gap.to(); start += wish.step()) {
        all.add(opening(wish, start));
      }
    }
    all.sort(
        Comparator.comparingInt((Opening o) -> o.missing().size())
            .thenComparingLong(Opening::from));
    List<Opening> best = new ArrayList<>();
    for (Opening next : all) {
      if (best.size() == wish.most()) {
        break;
      }
      if (best.stream().noneMatch(o -> o.from() < next.to() && next.from() < o.to())) {
        best.add(next);
      }
    }
    return List.copyOf(best);
  }

  private static Opening opening(Wish wish, long start) {
    long end = start + wish.minutes();
    List<Integer> missing = new ArrayList<>();
    for (int i = 0; i < wish.optional().size(); i++) {
      if (wish.optional().get(i).touches(start, end)) {
        missing.add(i);
      }
    }
    return new Opening(start, end, List.copyOf(missing));
  }
}
