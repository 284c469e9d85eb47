package app.uprightwarden.core.calendar;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertThrows;
import static org.testng.Assert.assertTrue;

import java.time.DayOfWeek;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneId;
import java.time.ZonedDateTime;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.Comparator;
import java.util.EnumSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** Interval arithmetic, working hours and openings, each against minute by minute. */
public class IntervalsTest {
  private static final int HORIZON = 400;

  @DataProvider
  public Object[][] seeds() {
    return new Random(42).longs(60).mapToObj(seed -> new Object[] {seed}).toArray(Object[][]::new);
  }

  @Test(dataProvider = "seeds")
  public void setsAreWhatTheirMinutesAre(long seed) {
    Random random = new Random(seed);
    List<Intervals.Span> first = spans(random);
    List<Intervals.Span> second = spans(random);
    BitSet a = minutes(first);
    BitSet b = minutes(second);
    Intervals one = Intervals.of(first);
    Intervals two = Intervals.of(second);
    assertEquals(one, intervals(a));
    BitSet or = (BitSet) a.clone();
    or.or(b);
    assertEquals(one.union(two), intervals(or));
    BitSet and = (BitSet) a.clone();
    and.and(b);
    assertEquals(one.intersect(two), intervals(and));
    BitSet without = (BitSet) a.clone();
    without.andNot(b);
    assertEquals(one.minus(two), intervals(without));
    assertEquals(one.length(), a.cardinality());
    for (int i = 0; i < 50; i++) {
      int from = random.nextInt(HORIZON);
      int to = from + random.nextInt(30);
      assertEquals(one.touches(from, to), !a.get(from, to).isEmpty());
    }
  }

  @Test(dataProvider = "seeds")
  public void openingsAreThoseThatTryingEveryMinuteFinds(long seed) {
    Random random = new Random(seed);
    BitSet allowed = minutes(spans(random));
    allowed.flip(0, HORIZON);
    BitSet busy = minutes(spans(random));
    List<BitSet> optional =
        List.of(minutes(spans(random)), minutes(spans(random)), minutes(spans(random)));
    int length = 1 + random.nextInt(40);
    int step = 1 + random.nextInt(15);
    int most = 1 + random.nextInt(8);
    var found =
        Openings.find(
            new Openings.Wish(
                intervals(allowed),
                intervals(busy),
                optional.stream().map(IntervalsTest::intervals).toList(),
                length,
                step,
                most));
    assertEquals(found, byTrying(allowed, busy, optional, length, step, most));
  }

  private static List<Openings.Opening> byTrying(
      BitSet allowed, BitSet busy, List<BitSet> optional, int length, int step, int most) {
    List<Openings.Opening> candidates = new ArrayList<>();
    for (int start = 0; start + length <= HORIZON + 100; start++) {
      boolean fits = start % step == 0;
      for (int minute = start; minute < start + length; minute++) {
        fits &= allowed.get(minute) && !busy.get(minute);
      }
      if (fits) {
        List<Integer> missing = new ArrayList<>();
        for (int i = 0; i < optional.size(); i++) {
          if (!optional.get(i).get(start, start + length).isEmpty()) {
            missing.add(i);
          }
        }
        candidates.add(new Openings.Opening(start, start + length, missing));
      }
    }
    candidates.sort(Comparator.comparingInt(o -> o.missing().size())); // stable: by start within
    List<Openings.Opening> best = new ArrayList<>();
    BitSet taken = new BitSet();
    for (Openings.Opening candidate : candidates) {
      if (best.size() < most && taken.get((int) candidate.from(), (int) candidate.to()).isEmpty()) {
        taken.set((int) candidate.from(), (int) candidate.to());
        best.add(candidate);
      }
    }
    return best;
  }

  @DataProvider
  public Object[][] hours() {
    return new Object[][] {
      // over a clock change forward and back, on the half hour, across midnight UTC
      {"Europe/Dublin", "2027-03-26T00:00:00Z", "09:00", "17:00"},
      {"Europe/Dublin", "2027-10-29T00:00:00Z", "00:30", "02:30"},
      {"America/St_Johns", "2027-03-12T00:00:00Z", "08:00", "16:30"},
      {"Pacific/Auckland", "2027-04-02T00:00:00Z", "09:00", "00:00"},
      {"Asia/Kathmandu", "2027-01-01T00:00:00Z", "10:00", "18:00"},
    };
  }

  @Test(dataProvider = "hours")
  public void workingHoursAreWhatEachMinutesClockSays(
      String zone, String from, String opens, String closes) {
    ZoneId id = ZoneId.of(zone);
    Set<DayOfWeek> days = EnumSet.range(DayOfWeek.MONDAY, DayOfWeek.SATURDAY);
    long begin = Instant.parse(from).getEpochSecond() / 60;
    long end = begin + 5 * 24 * 60;
    LocalTime first = LocalTime.parse(opens);
    LocalTime last = LocalTime.parse(closes);
    Intervals found = new WorkingHours(id, first, last, days).between(begin, end);
    for (long minute = begin; minute < end; minute++) {
      ZonedDateTime local = Instant.ofEpochSecond(minute * 60).atZone(id);
      LocalTime clock = local.toLocalTime();
      boolean works =
          days.contains(local.getDayOfWeek())
              && !clock.isBefore(first)
              && (last.equals(LocalTime.MIN) || clock.isBefore(last));
      boolean twice = id.getRules().getValidOffsets(local.toLocalDateTime()).size() > 1;
      if (!twice) { // an hour that comes twice is one stretch, from the first opening on
        assertEquals(found.touches(minute, minute + 1), works, local.toString());
      }
    }
  }

  @Test
  public void anEmptySpanIsNoTime() {
    assertTrue(Intervals.of(5, 5).isEmpty());
    assertFalse(Intervals.of(0, 10).touches(3, 3));
    assertThrows(IllegalArgumentException.class, () -> Intervals.of(6, 5));
  }

  private static List<Intervals.Span> spans(Random random) {
    List<Intervals.Span> spans = new ArrayList<>();
    for (int i = random.nextInt(12); i > 0; i--) {
      int from = random.nextInt(HORIZON);
      spans.add(new Intervals.Span(from, from + random.nextInt(60)));
    }
    return spans;
  }

  private static BitSet minutes(List<Intervals.Span> spans) {
    BitSet minutes = new BitSet();
    spans.forEach(s -> minutes.set((int) s.from(), (int) s.to()));
    return minutes;
  }

  private static Intervals intervals(BitSet minutes) {
    List<Intervals.Span> spans = new ArrayList<>();
    int from = minutes.nextSetBit(0);
    while (from >= 0) {
      int to = minutes.nextClearBit(from);
      spans.add(new Intervals.Span(from, to));
      from = minutes.nextSetBit(to);
    }
    return new Intervals(spans);
  }

  @Test
  public void spansThatOnlyMeetHaveNothingInCommon() {
    Intervals first = Intervals.of(0, 60);
    Intervals next = Intervals.of(60, 90);
    assertEquals(first.intersect(next).spans(), List.of());
    assertTrue(first.intersect(next).isEmpty());
    assertFalse(first.isEmpty());
    assertEquals(first.minus(next).spans(), first.spans());
    assertEquals(next.minus(first).spans(), next.spans());
    assertEquals(
        Intervals.of(0, 90).minus(Intervals.of(0, 30)).spans(),
        List.of(new Intervals.Span(30, 90)),
        "nothing is left before it");
  }

  /** A better one does not drive out those that end as it begins, or begin as it ends. */
  @Test
  public void openingsMayMeet() {
    Openings.Wish wish =
        new Openings.Wish(
            Intervals.of(0, 90),
            Intervals.of(List.of()),
            List.of(Intervals.of(List.of(new Intervals.Span(0, 30), new Intervals.Span(60, 90)))),
            30,
            30,
            9);
    assertEquals(
        Openings.find(wish),
        List.of(
            new Openings.Opening(30, 60, List.of()),
            new Openings.Opening(0, 30, List.of(0)),
            new Openings.Opening(60, 90, List.of(0))));
  }

  @DataProvider
  public Object[][] lengths() {
    return new Object[][] {{1, 1, 0, true}, {0, 1, 1, false}, {1, 0, 1, false}, {1, 1, -1, false}};
  }

  @Test(dataProvider = "lengths")
  public void aWishHasALengthAndAStep(int minutes, int step, int most, boolean isWish) {
    Intervals any = Intervals.of(0, 90);
    if (isWish) {
      assertEquals(
          Openings.find(new Openings.Wish(any, any, List.of(), minutes, step, most)), List.of());
    } else {
      assertThrows(
          IllegalArgumentException.class,
          () -> new Openings.Wish(any, any, List.of(), minutes, step, most));
    }
  }
}
