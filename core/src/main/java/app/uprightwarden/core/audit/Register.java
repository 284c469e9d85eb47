package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * What checks between meetings need, of each meeting and its occurrences in a window: flat arrays
 * of numbers, four bytes an occurrence, so that a million series fit beside everything else. Times
 * are minutes since 1970-01-01T00:00Z.
 *
 * <p>Hosts, numbers and passcodes are kept as 64-bit keys of their text. Two different texts have
 * the same key with a chance of one in 30 million over a million meetings.
 */
public final class Register {
  private static final int NO_GROUP = -1;

  private long[] host = new long[256];
  private long[] number = new long[256];
  private long[] passcode = new long[256];
  private boolean[] unwatched = new boolean[256];
  private int[] first = new int[257];
  private int[] minutes = new int[256];
  private int meetings;
  private final Column starts = new Column();

  /** The ends in those few meetings whose occurrences are not all of one length. */
  private final Map<Integer, int[]> unequalEnds = new HashMap<>();

  /** Takes what is found, by the place of the meeting among those added. */
  @FunctionalInterface
  public interface Sink {
    /** Takes a finding in the meeting at a place, from 0. */
    void found(int meeting, Detail detail);
  }

  /** Takes occurrences in an order. */
  @FunctionalInterface
  public interface Visitor {
    /**
     * Takes an occurrence.
     *
     * @param group the group of its meeting
     * @param meeting its meeting's place, from 0
     * @param start minutes since the epoch, as its end
     */
    void visit(int group, int meeting, int start, int end);
  }

  /** Numbers one after the other; it grows without copying what it holds. */
  private static final class Column {
    private static final int BITS = 14;
    private int[][] chunks = new int[16][];
    private int size;

    void addAll(int[] numbers) {
      int done = 0;
      while (done < numbers.length) {
        int at = size & (1 << BITS) - 1;
        int some = Math.min(numbers.length - done, (1 << BITS) - at);
        System.arraycopy(numbers, done, chunk(size >> BITS), at, some);
        done += some;
        size += some;
      }
    }

    private int[] chunk(int index) {
      if (index == chunks.length) {
        chunks = Arrays.copyOf(chunks, 2 * index);
      }
      if (chunks[index] == null) {
        chunks[index] = new int[1 << BITS];
      }
      return chunks[index];
    }

    int get(int index) {
      return chunks[index >> BITS][index & (1 << BITS) - 1];
    }
  }

  /**
   * Adds a meeting with the starts and ends of its occurrences.
   *
   * @param starts minutes since the epoch, as many as ends
   * @return its place: 0, 1, 2, …
   */
  public int add(MeetingFacts facts, int[] starts, int[] ends) {
    int index = meetings++;
    if (meetings > host.length) {
      int capacity = grown(host.length, meetings);
      host = Arrays.copyOf(host, capacity);
      number = Arrays.copyOf(number, capacity);
      passcode = Arrays.copyOf(passcode, capacity);
      unwatched = Arrays.copyOf(unwatched, capacity);
      minutes = Arrays.copyOf(minutes, capacity);
      first = Arrays.copyOf(first, capacity + 1);
    }
    host[index] = key(facts.host());
    number[index] = reusableNumber(facts);
    passcode[index] = passcodeKey(facts);
    unwatched[index] = isUnwatched(facts);
    addOccurrences(index, starts, ends);
    return index;
  }

  // numbers whose reuse is not evidenced count as reusable, the loosest
  private static long reusableNumber(MeetingFacts facts) {
    return facts.values().is(Control.MEETING_NUMBER, "reusable") ? key(facts.number()) : 0;
  }

  private static long passcodeKey(MeetingFacts facts) {
    return facts.passcode() == null ? 0 : key(facts.passcode().fingerprint());
  }

  private static boolean isUnwatched(MeetingFacts facts) {
    return facts.coHosts() == 0
        && !facts.values().effective(Control.EARLY_ENTRY).equals(new Value.Amount(0));
  }

  /**
   * One number for all that is kept here of a meeting. While it stays, the meeting changes nothing
   * of what is found between meetings, in itself or in others.
   *
   * @param starts as for {@link #add}
   */
  public static long sharedKey(MeetingFacts facts, int[] starts, int[] ends) {
    long mixed = mix(key(facts.host()), reusableNumber(facts));
    mixed = mix(mixed, passcodeKey(facts));
    mixed = mix(mixed, isUnwatched(facts) ? 1 : 0);
    for (int i = 0; i < starts.length; i++) {
      mixed = mix(mixed, (long) starts[i] << 32 | ends[i]);
    }
    return mixed;
  }

  private static long mix(long hash, long more) {
    long mixed = (hash ^ more) * 0x9e3779b97f4a7c15L;
    return mixed ^ mixed >>> 32;
  }

  private void addOccurrences(int index, int[] begin, int[] end) {
    int length = begin.length == 0 ? 0 : end[0] - begin[0];
    minutes[index] = length;
    for (int i = 1; i < begin.length; i++) {
      if (end[i] - begin[i] != length) {
        unequalEnds.put(index, end.clone());
        break;
      }
    }
    starts.addAll(begin);
    first[index + 1] = starts.size;
  }

  private static int grown(int capacity, int needed) {
    return Math.max(needed, capacity + capacity / 2);
  }

  /** A text's key, never 0 for one that is there: FNV-1a (64 bit), then mixed once more. */
  static long key(@Nullable String text) {
    if (text == null) {
      return 0;
    }
    long hash = 0xcbf29ce484222325L;
    for (int i = 0; i < text.length(); i++) {
      hash = (hash ^ text.charAt(i)) * 0x100000001b3L;
    }
    hash = (hash ^ hash >>> 30) * 0xbf58476d1ce4e5b9L;
    hash ^= hash >>> 27;
    return hash == 0 ? 1 : hash;
  }

  /** How many meetings there are. */
  public int meetings() {
    return meetings;
  }

  /** How many occurrences there are. */
  public int size() {
    return starts.size;
  }

  /** Whether people can be in it while its host is elsewhere: no co-host, and they may be early. */
  public boolean isUnwatched(int meeting) {
    return unwatched[meeting];
  }

  /** The group of each meeting: those with the same host. */
  public int[] byHost() {
    return groups(host);
  }

  /** The group of each meeting with a reusable number: those with the same; others have none. */
  public int[] byReusableNumber() {
    return groups(number);
  }

  /** The group of each meeting with a passcode: those with the same; others have none. */
  public int[] byPasscode() {
    return groups(passcode);
  }

  private int[] groups(long[] keys) {
    long[] distinct = Arrays.copyOf(keys, meetings);
    Arrays.sort(distinct);
    int count = 0;
    for (int i = 0; i < distinct.length; i++) {
      if (distinct[i] != 0 && (count == 0 || distinct[i] != distinct[count - 1])) {
        distinct[count++] = distinct[i];
      }
    }
    int[] groups = new int[meetings];
    for (int i = 0; i < meetings; i++) {
      groups[i] = keys[i] == 0 ? NO_GROUP : Arrays.binarySearch(distinct, 0, count, keys[i]);
    }
    return groups;
  }

  /**
   * Goes through the occurrences of the meetings that belong to a group, by group and then by
   * start; those that start together in the order of their meetings.
   *
   * @param groupOfMeeting a group's number for each meeting, negative for none
   */
  public void byGroupAndStart(int[] groupOfMeeting, Visitor visitor) {
    int[] members = byGroup(groupOfMeeting);
    int from = 0;
    for (int to = 1; to <= members.length; to++) {
      if (to == members.length || groupOfMeeting[members[to]] != groupOfMeeting[members[from]]) {
        byStart(members, from, to, groupOfMeeting[members[from]], visitor);
        from = to;
      }
    }
  }

  /** The meetings that belong to a group, by group and then by their place. */
  private static int[] byGroup(int[] groupOfMeeting) {
    int most = Arrays.stream(groupOfMeeting).max().orElse(NO_GROUP);
    int[] next = new int[most + 2];
    for (int group : groupOfMeeting) {
      next[group + 1]++;
    }
    next[0] = 0; // those without a group
    for (int group = 1; group < next.length; group++) {
      next[group] += next[group - 1];
    }
    int[] members = new int[next[most + 1]];
    for (int meeting = 0; meeting < groupOfMeeting.length; meeting++) {
      int group = groupOfMeeting[meeting];
      if (group >= 0) {
        members[next[group]++] = meeting;
      }
    }
    return members;
  }

  private void byStart(int[] members, int from, int to, int group, Visitor visitor) {
    int count = 0;
    for (int i = from; i < to; i++) {
      count += first[members[i] + 1] - first[members[i]];
    }
    int[] meeting = new int[count];
    int[] end = new int[count];
    long[] sorted = new long[count];
    int size = 0;
    for (int i = from; i < to; i++) {
      int of = members[i];
      int[] unequal = unequalEnds.get(of);
      for (int k = first[of]; k < first[of + 1]; k++) {
        int start = starts.get(k);
        meeting[size] = of;
        end[size] = unequal == null ? start + minutes[of] : unequal[k - first[of]];
        sorted[size] = (long) start << 32 | size;
        size++;
      }
    }
    Arrays.sort(sorted);
    for (long each : sorted) {
      int occurrence = (int) each;
      visitor.visit(group, meeting[occurrence], (int) (each >> 32), end[occurrence]);
    }
  }
}
