package app.uprightwarden.core.audit;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collections;
import java.util.List;

/**
 * Meetings with their occurrences in a window, held as flat arrays so that a year of 100,000 series
 * fits. Times are minutes since 1970-01-01T00:00Z.
 */
public final class Register {
  private final List<MeetingFacts> meetings = new ArrayList<>();
  private int[] meeting = new int[1024];
  private int[] start = new int[1024];
  private int[] end = new int[1024];
  private int size;

  /**
   * Adds a meeting with the starts and ends of its occurrences.
   *
   * @param starts minutes since the epoch, as many as ends
   */
  public void add(MeetingFacts facts, int[] starts, int[] ends) {
    int index = meetings.size();
    meetings.add(facts);
    int needed = size + starts.length;
    if (needed > start.length) {
      int capacity = Math.max(needed, start.length * 2);
      meeting = Arrays.copyOf(meeting, capacity);
      start = Arrays.copyOf(start, capacity);
      end = Arrays.copyOf(end, capacity);
    }
    for (int i = 0; i < starts.length; i++) {
      meeting[size] = index;
      start[size] = starts[i];
      end[size] = ends[i];
      size++;
    }
  }

  public List<MeetingFacts> meetings() {
    return Collections.unmodifiableList(meetings);
  }

  /** How many occurrences there are. */
  public int size() {
    return size;
  }

  public int meetingOf(int occurrence) {
    return meeting[occurrence];
  }

  public int start(int occurrence) {
    return start[occurrence];
  }

  public int end(int occurrence) {
    return end[occurrence];
  }

  /**
   * The occurrences of the meetings that belong to a group, by group and then by start.
   *
   * @param groupOfMeeting a group's number for each meeting, negative for none
   * @return occurrence numbers
   */
  public int[] sortedByGroupAndStart(int[] groupOfMeeting) {
    long[] keys = new long[size];
    int count = 0;
    for (int i = 0; i < size; i++) {
      if (groupOfMeeting[meeting[i]] >= 0) {
        keys[count++] = i;
      }
    }
    // group and start decide the order; the occurrence's own number rides along in a second pass
    int[] order = new int[count];
    long[] sortable = new long[count];
    for (int i = 0; i < count; i++) {
      int occurrence = (int) keys[i];
      sortable[i] =
          ((long) groupOfMeeting[meeting[occurrence]] << 32) | (start[occurrence] & 0xFFFFFFFFL);
      order[i] = occurrence;
    }
    sort(sortable, order);
    return order;
  }

  /** Merge sort of keys, carrying the companions: stable, n log n. */
  private static void sort(long[] keys, int[] companions) {
    int n = keys.length;
    long[] fromKeys = keys;
    int[] from = companions;
    long[] toKeys = new long[n];
    int[] to = new int[n];
    for (int width = 1; width < n; width *= 2) {
      for (int low = 0; low < n; low += 2 * width) {
        int middle = Math.min(low + width, n);
        int high = Math.min(low + 2 * width, n);
        int a = low;
        int b = middle;
        for (int k = low; k < high; k++) {
          boolean takeA = a < middle && (b >= high || fromKeys[a] <= fromKeys[b]);
          int source = takeA ? a++ : b++;
          toKeys[k] = fromKeys[source];
          to[k] = from[source];
        }
      }
      long[] spareKeys = fromKeys;
      int[] spare = from;
      fromKeys = toKeys;
      from = to;
      toKeys = spareKeys;
      to = spare;
    }
    if (from != companions) {
      System.arraycopy(from, 0, companions, 0, n);
    }
  }
}
