package app.uprightwarden.core.drafting;

import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A register in short: each meeting as a few numbers and the cohort it belongs to. Immutable; a
 * changed register is a new index that shares what stayed.
 */
public final class RegisterIndex {
  public static final RegisterIndex EMPTY = new RegisterIndex(List.of(), List.of());

  /**
   * A meeting.
   *
   * @param row the store's number for it
   * @param version the store's count of its changes
   * @param cohort its place among {@link #cohorts}
   * @param next its next start in minutes since 1970-01-01T00:00Z, or −1 where none is coming
   * @param occurrences how many are coming in the window the index was made for
   */
  public record Entry(long row, long version, int cohort, String host, int next, int occurrences) {}

  /** A meeting to put into an index. */
  public record Fresh(
      long row, long version, Cohort cohort, String host, int next, int occurrences) {}

  private final List<Cohort> cohorts;
  private final List<Entry> entries;

  private RegisterIndex(List<Cohort> cohorts, List<Entry> entries) {
    this.cohorts = cohorts;
    this.entries = entries;
  }

  public List<Cohort> cohorts() {
    return cohorts;
  }

  public List<Entry> entries() {
    return entries;
  }

  public Cohort cohort(Entry entry) {
    return cohorts.get(entry.cohort());
  }

  /** The index with some meetings put in place and some taken out, by row. */
  public RegisterIndex with(Collection<Fresh> put, Set<Long> removed) {
    Set<Long> replaced = new HashSet<>(removed);
    put.forEach(fresh -> replaced.add(fresh.row()));
    List<Entry> kept = new ArrayList<>(entries.size() + put.size());
    for (Entry entry : entries) {
      if (!replaced.contains(entry.row())) {
        kept.add(entry);
      }
    }
    List<Cohort> all = new ArrayList<>(cohorts);
    Map<Cohort, Integer> numbers = new HashMap<>();
    for (int i = 0; i < all.size(); i++) {
      numbers.put(all.get(i), i);
    }
    Map<String, String> hosts = new HashMap<>(); // one text for each host
    kept.forEach(entry -> hosts.put(entry.host(), entry.host()));
    for (Fresh fresh : put) {
      Integer number = numbers.get(fresh.cohort());
      if (number == null) {
        number = all.size();
        all.add(fresh.cohort());
        numbers.put(fresh.cohort(), number);
      }
      String host = hosts.computeIfAbsent(fresh.host(), h -> h);
      kept.add(
          new Entry(fresh.row(), fresh.version(), number, host, fresh.next(), fresh.occurrences()));
    }
    return new RegisterIndex(List.copyOf(all), List.copyOf(kept));
  }
}
