package app.uprightwarden.core.drafting;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.IntStream;
import org.jspecify.annotations.Nullable;

/** Counts over a register what a draft would change. */
public final class ImpactStudy {
  /**
   * What to list.
   *
   * @param subject only what changes by this control or guarantee; null for all
   * @param from the first touched meeting listed, from 0
   * @param size how many at most
   */
  public record Page(@Nullable String subject, int from, int size) {}

  private static final int MAX_HOSTS = 12;

  private final RegisterIndex index;
  private final Page page;
  private final int[] weights;
  private final List<List<FindingChange>> changes;
  private final Map<String, Tally> checks = new TreeMap<>();
  private final Map<String, Tally> subjects = new TreeMap<>();
  private final Map<String, int[]> units = new HashMap<>();
  private final Map<String, int[]> hosts = new HashMap<>();
  private final int[] before = new int[6];
  private final int[] after = new int[6];
  private final Tally total = new Tally();
  private int touched;

  private static final class Tally {
    int before;
    int appeared;
    int gone;
    int regraded;
    int meetings;

    Impact.Count count() {
      return new Impact.Count(before, appeared, gone, regraded);
    }

    void add(FindingChange change, int weight) {
      if (change.appears()) {
        appeared += weight;
      } else if (change.goes()) {
        gone += weight;
      } else {
        regraded += weight;
      }
    }
  }

  private ImpactStudy(RegisterIndex index, BaselineFindings inForce, Layers draft, Page page) {
    this.index = index;
    this.page = page;
    int cohorts = index.cohorts().size();
    weights = new int[cohorts];
    index.entries().forEach(entry -> weights[entry.cohort()]++);
    DraftImpact draftImpact = new DraftImpact(inForce.layers(), draft);
    changes =
        IntStream.range(0, cohorts)
            .parallel()
            .mapToObj(
                i -> weights[i] == 0 ? List.<FindingChange>of() : changes(draftImpact, inForce, i))
            .toList();
    for (int i = 0; i < cohorts; i++) {
      if (weights[i] > 0) {
        count(inForce.of(index.cohorts().get(i)), changes.get(i), weights[i]);
      }
    }
  }

  private List<FindingChange> changes(
      DraftImpact draftImpact, BaselineFindings inForce, int cohort) {
    inForce.of(index.cohorts().get(cohort)); // judged here, where there are more hands
    return draftImpact.changes(index.cohorts().get(cohort));
  }

  /** Holds a draft against the rulebook in force. */
  public static Impact of(RegisterIndex index, BaselineFindings inForce, Layers draft, Page page) {
    return new ImpactStudy(index, inForce, draft, page).impact();
  }

  private void count(List<BaselineFindings.Mark> marks, List<FindingChange> changes, int weight) {
    for (BaselineFindings.Mark mark : marks) {
      before[mark.severity()] += weight;
      after[mark.severity()] += weight;
      total.before += weight;
      checks.computeIfAbsent(mark.check(), id -> new Tally()).before += weight;
      subjects.computeIfAbsent(mark.subject(), id -> new Tally()).before += weight;
    }
    if (changes.isEmpty()) {
      return;
    }
    Set<Tally> met = new HashSet<>();
    for (FindingChange change : changes) {
      if (change.before() != null) {
        after[change.before().severity()] -= weight;
      }
      if (change.after() != null) {
        after[change.after().severity()] += weight;
      }
      Tally check = checks.computeIfAbsent(change.detail().check().id(), id -> new Tally());
      Tally subject = subjects.computeIfAbsent(change.detail().subject(), id -> new Tally());
      for (Tally tally : List.of(total, check, subject)) {
        tally.add(change, weight);
        met.add(tally);
      }
    }
    met.forEach(tally -> tally.meetings += weight);
  }

  private Impact impact() {
    PriorityQueue<Ranked> best = new PriorityQueue<>(Ranked.ORDER.reversed());
    int wanted = page.from() + page.size();
    List<Impact.@Nullable Meeting> ofCohort = new ArrayList<>();
    changes.forEach(list -> ofCohort.add(list.isEmpty() ? null : summary(list)));
    for (RegisterIndex.Entry entry : index.entries()) {
      Impact.Meeting summary = ofCohort.get(entry.cohort());
      if (summary == null) {
        continue;
      }
      touched++;
      String unit = index.cohort(entry).unit();
      touch(units, unit == null ? "" : unit, summary);
      touch(hosts, entry.host(), summary);
      best.add(new Ranked(entry, summary));
      if (best.size() > wanted) {
        best.poll();
      }
    }
    List<Ranked> ranked = new ArrayList<>(best);
    ranked.sort(Ranked.ORDER);
    List<Impact.Touched> allHosts = sorted(hosts);
    return new Impact(
        index.entries().size(),
        touched,
        total.count(),
        IntStream.rangeClosed(1, 5)
            .mapToObj(s -> new Impact.Severity(s, before[s], after[s]))
            .toList(),
        groups(checks),
        groups(subjects),
        sorted(units),
        allHosts.subList(0, Math.min(MAX_HOSTS, allHosts.size())),
        allHosts.size(),
        ranked.stream().skip(page.from()).map(Ranked::meeting).toList());
  }

  /** What changes for one meeting of a cohort; null where nothing does by the subject asked for. */
  private Impact.@Nullable Meeting summary(List<FindingChange> changes) {
    Tally tally = new Tally();
    int worst = 0;
    for (FindingChange change : changes) {
      if (page.subject() == null || page.subject().equals(change.detail().subject())) {
        tally.add(change, 1);
        worst = change.appears() ? Math.max(worst, change.detail().severity()) : worst;
      }
    }
    boolean nothing = tally.appeared + tally.gone + tally.regraded == 0;
    return nothing
        ? null
        : new Impact.Meeting(0, tally.appeared, tally.gone, tally.regraded, worst);
  }

  private record Ranked(RegisterIndex.Entry entry, Impact.Meeting summary) {
    /** The worst that appears first, then the most, then the soonest. */
    static final Comparator<Ranked> ORDER =
        Comparator.<Ranked>comparingInt(r -> -r.summary().worst())
            .thenComparingInt(r -> -r.summary().appeared())
            .thenComparingInt(r -> -r.summary().gone())
            .thenComparingInt(r -> r.entry().next() < 0 ? Integer.MAX_VALUE : r.entry().next())
            .thenComparingLong(r -> r.entry().row());

    Impact.Meeting meeting() {
      return new Impact.Meeting(
          entry.row(), summary.appeared(), summary.gone(), summary.regraded(), summary.worst());
    }
  }

  private static void touch(Map<String, int[]> groups, String id, Impact.Meeting meeting) {
    int[] counts = groups.computeIfAbsent(id, key -> new int[3]);
    counts[0]++;
    counts[1] += meeting.appeared();
    counts[2] += meeting.gone();
  }

  private static List<Impact.Touched> sorted(Map<String, int[]> groups) {
    return groups.entrySet().stream()
        .map(g -> new Impact.Touched(g.getKey(), g.getValue()[0], g.getValue()[1], g.getValue()[2]))
        .sorted(
            Comparator.comparingInt(Impact.Touched::meetings)
                .reversed()
                .thenComparing(Impact.Touched::id))
        .toList();
  }

  private static List<Impact.Group> groups(Map<String, Tally> tallies) {
    return tallies.entrySet().stream()
        .map(t -> new Impact.Group(t.getKey(), t.getValue().count(), t.getValue().meetings))
        .toList();
  }
}
