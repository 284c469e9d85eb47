package app.uprightwarden.core.drafting;

import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * What one rulebook in place of another would change for a cohort. Only the rules and guarantees
 * that differ for the cohort's layers are judged, so that moving one limit costs one rule's work a
 * cohort. The sum over a register equals the difference of two whole audits. Thread-safe.
 */
public final class DraftImpact {
  private final Layers before;
  private final Layers after;
  private final Map<Path, Shift> shifts = new ConcurrentHashMap<>();

  private record Path(@Nullable String unit, @Nullable String kind) {}

  /** What differs for the meetings that the same layers apply to. */
  private record Shift(
      ResolvedRulebook before,
      ResolvedRulebook after,
      List<Control> controls,
      List<String> guarantees) {}

  /** Compares the layers in force with those of a draft. */
  public DraftImpact(Layers before, Layers after) {
    this.before = before;
    this.after = after;
  }

  /** What becomes of the cohort's findings; those that stay as they are are left out. */
  public List<FindingChange> changes(Cohort cohort) {
    Shift shift = shifts.computeIfAbsent(new Path(cohort.unit(), cohort.kind()), this::shift);
    if (shift.controls().isEmpty() && shift.guarantees().isEmpty()) {
      return List.of();
    }
    List<Judgement.Basis> bases = new ArrayList<>();
    bases.add(new Judgement.Basis(cohort.values(), cohort.reach()));
    cohort.changes().forEach(c -> bases.add(new Judgement.Basis(c.values(), cohort.reach())));
    List<FindingChange> changes = new ArrayList<>();
    for (Control control : shift.controls()) {
      ResolvedRule old = shift.before().rule(control);
      ResolvedRule fresh = shift.after().rule(control);
      collect(
          cohort,
          bases,
          basis -> old == null ? List.of() : Judgement.byRule(basis, old),
          basis -> fresh == null ? List.of() : Judgement.byRule(basis, fresh),
          changes);
    }
    for (String id : shift.guarantees()) {
      ResolvedRulebook.Given old = given(shift.before(), id);
      ResolvedRulebook.Given fresh = given(shift.after(), id);
      collect(
          cohort,
          bases,
          basis -> old == null ? List.of() : Judgement.byGuarantee(basis, old),
          basis -> fresh == null ? List.of() : Judgement.byGuarantee(basis, fresh),
          changes);
    }
    return changes;
  }

  private static void collect(
      Cohort cohort,
      List<Judgement.Basis> bases,
      Function<Judgement.Basis, List<Detail>> before,
      Function<Judgement.Basis, List<Detail>> after,
      List<FindingChange> changes) {
    List<Detail> oldSeries = before.apply(bases.get(0));
    List<Detail> newSeries = after.apply(bases.get(0));
    pair(null, oldSeries, newSeries, changes);
    for (int i = 0; i < cohort.changes().size(); i++) {
      MeetingFacts.Change change = cohort.changes().get(i);
      if (!change.values().equals(cohort.values())) {
        Judgement.Basis basis = bases.get(i + 1);
        pair(
            change,
            unlike(before.apply(basis), oldSeries),
            unlike(after.apply(basis), newSeries),
            changes);
      }
    }
  }

  /** The details of an occurrence that its series does not have in the same way. */
  private static List<Detail> unlike(List<Detail> ofOccurrence, List<Detail> ofSeries) {
    if (ofOccurrence.isEmpty() || ofSeries.isEmpty()) {
      return ofOccurrence;
    }
    Set<String> known = new HashSet<>();
    ofSeries.forEach(detail -> known.add(detail.likeness()));
    return ofOccurrence.stream().filter(detail -> !known.contains(detail.likeness())).toList();
  }

  private static void pair(
      MeetingFacts.@Nullable Change change,
      List<Detail> before,
      List<Detail> after,
      List<FindingChange> changes) {
    for (Detail old : before) {
      Detail fresh = same(old, after);
      if (fresh == null || fresh.severity() != old.severity()) {
        changes.add(new FindingChange(change == null ? null : change.at(), old, fresh));
      }
    }
    for (Detail fresh : after) {
      if (same(fresh, before) == null) {
        changes.add(new FindingChange(change == null ? null : change.at(), null, fresh));
      }
    }
  }

  /** Both sides are about one control or guarantee, so that the check tells them apart. */
  private static @Nullable Detail same(Detail detail, List<Detail> among) {
    for (Detail other : among) {
      if (other.check() == detail.check()) {
        return other;
      }
    }
    return null;
  }

  private Shift shift(Path path) {
    ResolvedRulebook old = before.of(path.unit(), path.kind());
    ResolvedRulebook fresh = after.of(path.unit(), path.kind());
    List<Control> controls =
        Control.all().stream().filter(c -> judgesOtherwise(old.rule(c), fresh.rule(c))).toList();
    Set<String> ids = new LinkedHashSet<>();
    old.guarantees().forEach(g -> ids.add(g.guarantee().id()));
    fresh.guarantees().forEach(g -> ids.add(g.guarantee().id()));
    List<String> guarantees =
        ids.stream().filter(id -> judgesOtherwise(given(old, id), given(fresh, id))).toList();
    return new Shift(old, fresh, controls, guarantees);
  }

  /** Starts, seals and reasons judge no meeting. */
  private static boolean judgesOtherwise(@Nullable ResolvedRule a, @Nullable ResolvedRule b) {
    boolean binds = a != null && a.governs();
    if (binds != (b != null && b.governs())) {
      return true;
    }
    return binds
        && a != null
        && b != null
        && !(a.mode() == b.mode()
            && a.importance() == b.importance()
            && Objects.equals(a.limit(), b.limit()));
  }

  private static boolean judgesOtherwise(
      ResolvedRulebook.@Nullable Given a, ResolvedRulebook.@Nullable Given b) {
    if (a == null || b == null) {
      return true;
    }
    Guarantee x = a.guarantee();
    Guarantee y = b.guarantee();
    return !(Set.copyOf(x.who()).equals(Set.copyOf(y.who()))
        && x.rightsMask() == y.rightsMask()
        && x.ceiling() == y.ceiling()
        && x.importance() == y.importance());
  }

  private static ResolvedRulebook.@Nullable Given given(ResolvedRulebook rules, String id) {
    for (ResolvedRulebook.Given given : rules.guarantees()) {
      if (given.guarantee().id().equals(id)) {
        return given;
      }
    }
    return null;
  }
}
