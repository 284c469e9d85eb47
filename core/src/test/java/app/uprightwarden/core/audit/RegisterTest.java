package app.uprightwarden.core.audit;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertNotEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.meeting.Weakness;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Random;
import java.util.Set;
import java.util.TreeSet;
import java.util.stream.IntStream;
import org.testng.annotations.DataProvider;
import org.testng.annotations.Test;

/** The checks between meetings against the plainest reading of what they say, pair by pair. */
public class RegisterTest {

  private record Timed(int meeting, int start, int end) {}

  private static final class Sample {
    final Register register = new Register();
    final List<MeetingFacts> facts = new ArrayList<>();
    final List<Timed> occurrences = new ArrayList<>();

    Sample(long seed, int meetings) {
      Random random = new Random(seed);
      for (int i = 0; i < meetings; i++) {
        MeetingFacts meeting = meeting(i, random);
        int[] starts = new int[random.nextInt(5)];
        int[] ends = new int[starts.length];
        for (int k = 0; k < starts.length; k++) {
          starts[k] = random.nextInt(4000);
          ends[k] = starts[k] + 5 + random.nextInt(120);
          occurrences.add(new Timed(i, starts[k], ends[k]));
        }
        assertEquals(register.add(meeting, starts, ends), i);
        facts.add(meeting);
      }
    }

    private static MeetingFacts meeting(int i, Random random) {
      ControlValues values = ControlValues.NONE;
      if (random.nextInt(3) == 0) {
        values = values.with(Control.MEETING_NUMBER, Control.MEETING_NUMBER.parse("one-off"));
      }
      if (random.nextInt(3) == 0) {
        values = values.with(Control.EARLY_ENTRY, Control.EARLY_ENTRY.parse(0));
      }
      PasscodeFacts passcode =
          random.nextInt(3) == 0
              ? null
              : new PasscodeFacts(
                  9,
                  Control.PASSCODE_MAKEUP.parse("mixed"),
                  Weakness.NONE,
                  false,
                  "print-" + random.nextInt(12));
      return new MeetingFacts(
          "m" + i,
          "host-" + random.nextInt(6) + "@saltmarsh.example",
          new Subject(ResolvedRulebook.of(List.of()), values, Reach.NOBODY),
          Reach.NOBODY,
          new MeetingFacts.Plan(100, 240),
          passcode,
          random.nextInt(4) == 0 ? null : "482 119 " + random.nextInt(8),
          60,
          false,
          false,
          random.nextInt(4) == 0 ? 1 : 0,
          0,
          1,
          0,
          List.of(),
          List.of(),
          List.of(),
          List.of());
    }

    Set<String> found(String check) {
      return foundIn(register, check);
    }
  }

  private static Set<String> foundIn(Register register, String check) {
    Set<String> found = new TreeSet<>();
    new Auditor()
        .auditTogether(
            register,
            (meeting, detail) -> {
              if (detail.check().id().equals(check)) {
                found.add(meeting + " " + detail.value());
              }
            });
    return found;
  }

  @DataProvider
  public Object[][] seeds() {
    Object[][] seeds = new Object[40][];
    for (int i = 0; i < seeds.length; i++) {
      seeds[i] = new Object[] {(long) i, 1 + i * 3};
    }
    return seeds;
  }

  private static boolean reusable(MeetingFacts facts) {
    return facts.number() != null && facts.values().is(Control.MEETING_NUMBER, "reusable");
  }

  @Test(dataProvider = "seeds")
  public void twoTooCloseOnOneNumber(long seed, int meetings) {
    Sample sample = new Sample(seed, meetings);
    int[] close = new int[meetings];
    for (int i = 0; i < sample.occurrences.size(); i++) {
      Timed now = sample.occurrences.get(i);
      MeetingFacts of = sample.facts.get(now.meeting());
      boolean follows = false;
      int lastEnd = Integer.MIN_VALUE;
      for (int j = 0; j < sample.occurrences.size(); j++) {
        Timed other = sample.occurrences.get(j);
        MeetingFacts its = sample.facts.get(other.meeting());
        boolean before = other.start() < now.start() || other.start() == now.start() && j < i;
        if (before && reusable(of) && reusable(its) && of.number().equals(its.number())) {
          follows = true;
          lastEnd = Math.max(lastEnd, other.end());
        }
      }
      if (follows && now.start() - lastEnd < 15) {
        close[now.meeting()]++;
      }
    }
    Set<String> expected = new TreeSet<>();
    for (int i = 0; i < meetings; i++) {
      if (close[i] > 0) {
        expected.add(i + " " + close[i]);
      }
    }
    assertEquals(sample.found("number-spillover"), expected);
  }

  @Test(dataProvider = "seeds")
  public void aHostInTwoPlaces(long seed, int meetings) {
    Sample sample = new Sample(seed, meetings);
    Set<Integer> expected = new HashSet<>();
    for (int i = 0; i < sample.occurrences.size(); i++) {
      for (int j = 0; j < sample.occurrences.size(); j++) {
        Timed a = sample.occurrences.get(i);
        Timed b = sample.occurrences.get(j);
        MeetingFacts of = sample.facts.get(a.meeting());
        boolean sameHost = of.host().equals(sample.facts.get(b.meeting()).host());
        boolean unwatched =
            of.coHosts() == 0
                && !of.values().effective(Control.EARLY_ENTRY).equals(Control.EARLY_ENTRY.parse(0));
        if (i != j && sameHost && unwatched && a.start() < b.end() && b.start() < a.end()) {
          expected.add(a.meeting());
        }
      }
    }
    Set<Integer> found = new HashSet<>();
    sample
        .found("host-double-booked")
        .forEach(f -> found.add(Integer.valueOf(f.substring(0, f.indexOf(' ')))));
    assertEquals(found, expected);
  }

  @Test(dataProvider = "seeds")
  public void onePasscodeForSeveral(long seed, int meetings) {
    Sample sample = new Sample(seed, meetings);
    Set<String> expected = new TreeSet<>();
    for (int i = 0; i < meetings; i++) {
      PasscodeFacts passcode = sample.facts.get(i).passcode();
      if (passcode != null) {
        long sharing =
            sample.facts.stream()
                .filter(
                    f ->
                        f.passcode() != null
                            && f.passcode().fingerprint().equals(passcode.fingerprint()))
                .count();
        if (sharing > 1) {
          expected.add(i + " " + sharing);
        }
      }
    }
    assertEquals(sample.found("reused-passcode"), expected);
  }

  private static Object number(String text) {
    return text.matches("\\d+") ? Integer.valueOf(text) : text;
  }

  private static MeetingFacts with(
      String host, String number, String passcode, int coHosts, String... controls) {
    ControlValues values = ControlValues.NONE;
    for (int i = 0; i < controls.length; i += 2) {
      Control control = java.util.Objects.requireNonNull(Control.byId(controls[i]));
      values = values.with(control, control.parse(number(controls[i + 1])));
    }
    return new MeetingFacts(
        "m",
        host,
        new Subject(ResolvedRulebook.of(List.of()), values, Reach.NOBODY),
        Reach.NOBODY,
        new MeetingFacts.Plan(100, 240),
        new PasscodeFacts(
            9, Control.PASSCODE_MAKEUP.parse("mixed"), Weakness.NONE, false, passcode),
        number,
        60,
        false,
        false,
        coHosts,
        0,
        1,
        0,
        List.of(),
        List.of(),
        List.of(),
        List.of());
  }

  /** One every 100 minutes for an hour; beside the last ten of them others begin in between. */
  @Test
  public void seriesOfVeryManyOccurrences() {
    Register register = new Register();
    int[] starts = IntStream.range(0, 40_000).map(i -> 100 * i).toArray();
    int[] ends = IntStream.of(starts).map(start -> start + 60).toArray();
    int[] between = IntStream.range(39_990, 40_000).map(i -> 100 * i + 50).toArray();
    int[] until = IntStream.of(between).map(start -> start + 60).toArray();
    until[9]++; // not all of one length
    register.add(with("a@x.example", "482 119", "one", 0), starts, ends);
    register.add(with("b@x.example", "482 118", "two", 0), starts, ends);
    register.add(with("a@x.example", "482 119", "three", 0), between, until);
    register.add(with("c@x.example", "482 117", "four", 0), new int[0], new int[0]);
    assertEquals(register.size(), 80_010);
    assertEquals(register.meetings(), 4);
    assertEquals(foundIn(register, "host-double-booked"), Set.of("0 19", "2 19"));
    assertEquals(foundIn(register, "number-spillover"), Set.of("0 9", "2 10"));
    assertEquals(foundIn(register, "reused-passcode"), Set.of());
  }

  /** Three hosts take turns hour by hour; of a fourth's meetings each two overlap. */
  @Test
  public void veryManySeries() {
    Register register = new Register();
    int count = 3_000;
    for (int i = 0; i < count; i++) {
      int begin = 60 * i;
      int[] starts = IntStream.range(0, 100).map(k -> begin + 60 * count * k).toArray();
      int[] ends = IntStream.of(starts).map(start -> start + 60).toArray();
      String host = "h" + i % 3 + "@x.example";
      assertEquals(register.add(with(host, "n" + i, "p" + i, 0), starts, ends), i);
    }
    int last = 60 * count * 100;
    register.add(
        with("d@x.example", "o1", "p7", 0), new int[] {0, last}, new int[] {30, last + 30});
    register.add(with("d@x.example", "o2", "q2", 0), new int[] {last + 29}, new int[] {last + 31});
    assertEquals(register.meetings(), count + 2);
    assertEquals(register.size(), 100 * count + 3);
    assertEquals(foundIn(register, "host-double-booked"), Set.of(count + " 1", (count + 1) + " 1"));
    assertEquals(foundIn(register, "number-spillover"), Set.of());
    assertEquals(foundIn(register, "reused-passcode"), Set.of("7 2", count + " 2"));
  }

  @Test
  public void oneNumberForAllThatChecksBetweenMeetingsRead() {
    int[] starts = {100, 200};
    int[] ends = {160, 260};
    MeetingFacts plain = with("a@x.example", "482 119", "print", 0);
    long key = Register.sharedKey(plain, starts, ends);
    // what they do not read
    assertEquals(
        Register.sharedKey(with("a@x.example", "482 119", "print", 0, "chat", "off"), starts, ends),
        key);
    assertEquals(
        Register.sharedKey(
            with("a@x.example", "482 119", "print", 0, "early-entry", "15"), starts, ends),
        key,
        "early is early");
    Set<Long> others = new HashSet<>(Set.of(key));
    assertTrue(
        others.add(Register.sharedKey(with("b@x.example", "482 119", "print", 0), starts, ends)));
    assertTrue(
        others.add(Register.sharedKey(with("a@x.example", "482 118", "print", 0), starts, ends)));
    assertTrue(
        others.add(Register.sharedKey(with("a@x.example", "482 119", "other", 0), starts, ends)));
    assertTrue(
        others.add(Register.sharedKey(with("a@x.example", "482 119", "print", 1), starts, ends)));
    assertTrue(
        others.add(
            Register.sharedKey(
                with("a@x.example", "482 119", "print", 0, "meeting-number", "one-off"),
                starts,
                ends)));
    assertTrue(others.add(Register.sharedKey(plain, new int[] {100, 201}, ends)));
    assertTrue(others.add(Register.sharedKey(plain, starts, new int[] {160, 261})));
    assertTrue(others.add(Register.sharedKey(plain, new int[] {100}, new int[] {160})));
  }

  @Test
  public void keysOfDifferentTextsDiffer() {
    Set<Long> keys = new HashSet<>();
    for (int i = 0; i < 200_000; i++) {
      assertTrue(keys.add(Register.key("m-" + i + "@saltmarsh.example")), "number " + i);
    }
    assertEquals(Register.key(null), 0);
    assertNotEquals(Register.key(""), 0L);
  }
}
