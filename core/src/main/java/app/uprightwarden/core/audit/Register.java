package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/**
 * What checks between meetings need, of each meeting and its occurrences in a window: flat arrays
 * of numbers, so that a million series fit beside everything else. Times are minutes since
 * 1970-01-01T00:00Z.
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
  private int meetings;
  private int[] meeting = new int[1024];
  private int[] start = new int[1024];
  private int[] end = new int[1024];
  private int size;

  /** Takes what is found, by the place of the meeting among those added. */
  @FunctionalInterface
  public interface Sink {
    /** Takes a finding in the meeting at a place, from 0. */
    void found(int meeting, Detail detail);
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

  private void addOccurrences(int index, int[] starts, int[] ends) {
    int needed = size + starts.length;
    if (needed > start.length) {
      int capacity = grown(start.length, needed);
      meeting = Arrays.copyOf(meeting, capacity);
      start = Arrays.copyOf(start, capacity);
      end = Arrays.copyOf(end, capacity);
    }
    Arrays.fill(meeting, size, needed, index);
    System.arraycopy(starts, 0, start, size, starts.length);
    System.arraycopy(ends, 0, end, size, starts.length);
    size = needed;
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
    return size;
  }

  /** The place of an occurrence's meeting, from 0. */
  public int meetingOf(int occurrence) {
    return meeting[occurrence];
  }

  /** The start of an occurrence, in minutes since the epoch. */
  public int start(int occurrence) {
    return start[occurrence];
  }

  /** The end of an occurrence, in minutes since the epoch. */
  public int end(int occurrence) {
    return end[occurrence];
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
   * The occurrences of the meetings that belong to a group, by group and then by start.
   *
   * @param groupOfMeeting a group's number for each meeting, negative for none
   * @return occurrence numbers
   */
  public int[] sortedByGroupAndStart(int[] groupOfMeeting) {
    int most = Arrays.stream(groupOfMeeting).max().orElse(NO_GROUP);
    int[] ends = new int[most + 2];
    for (int i = 0; i < size; i++) {
      ends[groupOfMeeting[meeting[i]] + 1]++;
    }
    ends[0] = 0; // those without a group
    for (int group = 1; group < ends.length; group++) {
      ends[group] += ends[group - 1];
    }
    int[] order = new int[ends[most + 1]];
    int[] next = Arrays.copyOf(ends, ends.length);
    for (int i = 0; i < size; i++) {
      int group = groupOfMeeting[meeting[i]];
      if (group >= 0) {
        order[next[group]++] = i;
      }
    }
    for (int group = 0; group <= most; group++) {
      sortByStart(order, ends[group], ends[group + 1]);
    }
    return order;
  }

  private void sortByStart(int[] order, int from, int to) {
    if (to - from < 2) {
      return;
    }
    long[] sortable = new long[to - from];
    for (int i = from; i < to; i++) {
      sortable[i - from] = (long) start[order[i]] << 32 | order[i];
    }
    Arrays.sort(sortable);
    for (int i = from; i < to; i++) {
      order[i] = (int) sortable[i - from];
    }
  }
}
