package app.uprightwarden.core.drafting;

import app.uprightwarden.core.meeting.Reach;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.RandomAccess;
import java.util.Set;

/**
 * A register in short: each meeting as a few numbers and the cohort it belongs to. Immutable; a
 * changed register is a new index that shares what stayed. In columns, 32 bytes a meeting, so that
 * a million fit beside everything else.
 */
public final class RegisterIndex {
  public static final RegisterIndex EMPTY = new Builder().build();

  /**
   * A meeting.
   *
   * @param row the store's number for it
   * @param version the store's count of its changes
   * @param cohort its place among {@link #cohorts}
   * @param reach whom its names reach, under whatever values; the cohort has what its own ask
   * @param next its next start in minutes since 1970-01-01T00:00Z, or −1 where none is coming
   * @param occurrences how many are coming in the window the index was made for
   */
  public record Entry(
      long row, long version, int cohort, Reach reach, String host, int next, int occurrences) {}

  /**
   * A meeting to put into an index.
   *
   * @param reach whom its names reach, under whatever values
   */
  public record Fresh(
      long row, long version, Cohort cohort, Reach reach, String host, int next, int occurrences) {
    /** A meeting of which nothing more is asked than its own values do. */
    public Fresh(long row, long version, Cohort cohort, String host, int next, int occurrences) {
      this(row, version, cohort, cohort.reach(), host, next, occurrences);
    }
  }

  private final List<Cohort> cohorts;
  private final List<String> hosts;
  private final long[] rows;
  private final long[] versions;
  private final List<Reach> reaches;
  private final int[] cohort;
  private final int[] reach;
  private final int[] host;
  private final int[] next;
  private final int[] occurrences;
  private final List<Entry> entries = new Entries();

  private RegisterIndex(Builder made) {
    cohorts = List.copyOf(made.cohorts.all);
    hosts = List.copyOf(made.hosts.all);
    rows = Arrays.copyOf(made.rows, made.size);
    versions = Arrays.copyOf(made.versions, made.size);
    reaches = List.copyOf(made.reaches.all);
    cohort = Arrays.copyOf(made.cohort, made.size);
    reach = Arrays.copyOf(made.reach, made.size);
    host = Arrays.copyOf(made.host, made.size);
    next = Arrays.copyOf(made.next, made.size);
    occurrences = Arrays.copyOf(made.occurrences, made.size);
  }

  /** The cohorts that the meetings fall into, each once. */
  public List<Cohort> cohorts() {
    return cohorts;
  }

  /** All meetings in the order of their rows; each entry is made when it is asked for. */
  public List<Entry> entries() {
    return entries;
  }

  /** The cohort of a meeting. */
  public Cohort cohort(Entry entry) {
    return cohorts.get(entry.cohort());
  }

  /** The index with some meetings put in place and some taken out, by row. */
  public RegisterIndex with(Collection<Fresh> put, Set<Long> removed) {
    List<Fresh> coming = put.stream().sorted(Comparator.comparingLong(Fresh::row)).toList();
    Builder made = new Builder();
    made.cohorts.addAll(cohorts);
    made.hosts.addAll(hosts);
    made.reaches.addAll(reaches);
    int at = 0;
    for (Fresh fresh : coming) {
      at = made.copy(this, at, fresh.row(), removed);
      made.add(fresh);
      if (at < rows.length && rows[at] == fresh.row()) {
        at++;
      }
    }
    made.copy(this, at, Long.MAX_VALUE, removed);
    return made.build();
  }

  private final class Entries extends AbstractList<Entry> implements RandomAccess {
    @Override
    public Entry get(int i) {
      return new Entry(
          rows[i],
          versions[i],
          cohort[i],
          reaches.get(reach[i]),
          hosts.get(host[i]),
          next[i],
          occurrences[i]);
    }

    @Override
    public int size() {
      return rows.length;
    }
  }

  /** Things by number, each once. */
  private static final class Numbered<T> {
    final List<T> all = new ArrayList<>();
    private final Map<T, Integer> numbers = new HashMap<>();

    int of(T one) {
      Integer known = numbers.putIfAbsent(one, all.size());
      if (known == null) {
        all.add(one);
        return all.size() - 1;
      }
      return known;
    }

    void addAll(List<T> some) {
      some.forEach(this::of);
    }
  }

  /** Gathers an index meeting by meeting, in the order of their rows. */
  public static final class Builder {
    private final Numbered<Cohort> cohorts = new Numbered<>();
    private final Numbered<String> hosts = new Numbered<>();
    private final Numbered<Reach> reaches = new Numbered<>();
    private long[] rows = new long[1024];
    private long[] versions = new long[1024];
    private int[] cohort = new int[1024];
    private int[] reach = new int[1024];
    private int[] host = new int[1024];
    private int[] next = new int[1024];
    private int[] occurrences = new int[1024];
    private int size;

    /**
     * Puts a meeting behind those added before.
     *
     * @throws IllegalArgumentException where its row does not come after theirs
     */
    public Builder add(Fresh fresh) {
      if (size > 0 && rows[size - 1] >= fresh.row()) {
        throw new IllegalArgumentException(
            "row " + fresh.row() + " does not come after " + rows[size - 1]);
      }
      put(
          fresh.row(),
          fresh.version(),
          cohorts.of(fresh.cohort()),
          reaches.of(fresh.reach()),
          hosts.of(fresh.host()),
          fresh.next(),
          fresh.occurrences());
      return this;
    }

    /** The index of all that was added. */
    public RegisterIndex build() {
      return new RegisterIndex(this);
    }

    /** Takes over an index's meetings before a row, whose cohorts and hosts are here already. */
    private int copy(RegisterIndex from, int start, long before, Set<Long> removed) {
      int i = start;
      while (i < from.rows.length && from.rows[i] < before) {
        if (!removed.contains(from.rows[i])) {
          put(
              from.rows[i],
              from.versions[i],
              from.cohort[i],
              from.reach[i],
              from.host[i],
              from.next[i],
              from.occurrences[i]);
        }
        i++;
      }
      return i;
    }

    private void put(
        long row, long version, int itsCohort, int itsReach, int itsHost, int start, int coming) {
      if (size == rows.length) {
        int more = size + size / 2;
        rows = Arrays.copyOf(rows, more);
        versions = Arrays.copyOf(versions, more);
        cohort = Arrays.copyOf(cohort, more);
        reach = Arrays.copyOf(reach, more);
        host = Arrays.copyOf(host, more);
        next = Arrays.copyOf(next, more);
        occurrences = Arrays.copyOf(occurrences, more);
      }
      rows[size] = row;
      versions[size] = version;
      cohort[size] = itsCohort;
      reach[size] = itsReach;
      host[size] = itsHost;
      next[size] = start;
      occurrences[size++] = coming;
    }
  }
}
