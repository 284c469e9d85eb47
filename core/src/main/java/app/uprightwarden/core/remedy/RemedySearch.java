package app.uprightwarden.core.remedy;

import app.uprightwarden.core.audit.Judgement;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.exposure.MatrixState;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Means;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * Finds the cheapest remedy, exactly.
 *
 * <p>Friction does not depend on how far a control moves, and tightening never raises a level, so a
 * set of controls can keep the guarantees exactly when it does so with every control at its
 * strictest: sets are tried in the order of the model, and only the set found is then loosened
 * value by value. Two controls are the exception and have all their values tried: {@code
 * lobby-bypass}, because letting in by name covers people whom no standing covers, and {@code
 * presenter-role}, because a name may or may not be within a standing.
 */
public final class RemedySearch {
  private static final int MAX_CHANGES = 4;
  private static final int MAX_FRICTION = 3 * MAX_CHANGES;

  private record Candidate(Control control, List<Value> stricter) {
    boolean trustsStrictest() {
      return control != Control.LOBBY_BYPASS && control != Control.PRESENTER_ROLE;
    }

    Value strictest() {
      return stricter.get(stricter.size() - 1);
    }
  }

  private final ResolvedRulebook rules;
  private final Reach reach;
  private final Set<String> waived;
  private final MatrixState state;
  private final boolean asksMoreOfPasscode;
  private final List<Candidate> candidates = new ArrayList<>();
  private final Candidate[] chosen = new Candidate[MAX_CHANGES];

  private RemedySearch(
      ResolvedRulebook rules,
      ControlValues afterRules,
      Reach reach,
      Set<String> waived,
      @Nullable Means means) {
    this.waived = waived;
    this.rules = rules;
    this.reach = reach;
    this.state = new MatrixState(afterRules);
    ControlValues withPasscode =
        afterRules.with(Control.PASSCODE, Control.PASSCODE.parse("required"));
    this.asksMoreOfPasscode =
        rules.rules().stream()
            .anyMatch(
                r ->
                    r.control() != Control.PASSCODE
                        && !waived.contains(r.control().id())
                        && r.control().family() == Control.PASSCODE.family()
                        && !r.control().inMatrix()
                        && r.notEvidencedIn(withPasscode));
    for (Control control : Control.matrix()) {
      ResolvedRule rule = rules.rule(control);
      List<Value> stricter =
          settable(control, control.tightenings(afterRules.effective(control)), means);
      boolean fixed = rule != null && rule.mode() == Mode.FIX;
      if (!fixed && !stricter.isEmpty()) {
        candidates.add(new Candidate(control, stricter));
      }
    }
  }

  private static List<Value> settable(Control control, List<Value> some, @Nullable Means means) {
    return means == null
        ? some
        : some.stream().filter(value -> means.canSet(control, value)).toList();
  }

  /** The cheapest remedy of a meeting as judged. */
  public static Remedy cheapest(Judgement judgement, Reach reach) {
    return cheapest(judgement, reach, Set.of());
  }

  /**
   * The cheapest remedy of what may not stand.
   *
   * @param waived controls and guarantees, by their ids, of which what is found may stand
   */
  public static Remedy cheapest(Judgement judgement, Reach reach, Set<String> waived) {
    return cheapest(judgement, reach, waived, null);
  }

  /**
   * The same among what a conference service can hold. A rule that it cannot keep stays broken: the
   * meeting is to be held elsewhere then.
   *
   * @param means of the service that holds the meeting; null where none does
   */
  public static Remedy cheapest(
      Judgement judgement, Reach reach, Set<String> waived, @Nullable Means means) {
    ResolvedRulebook rules = judgement.rules();
    ControlValues found = judgement.basis().values();
    Map<Control, Remedy.Change> changes = new EnumMap<>(Control.class);
    ControlValues values = found;
    for (ResolvedRule rule : rules.rules()) {
      Value value = found.get(rule.control());
      boolean forced =
          value == null ? rule.notEvidencedIn(values) : !judgement.basis().within(rule, value);
      Value limit = means == null ? rule.limit() : means.keeping(rule);
      if (forced && limit != null && !waived.contains(rule.control().id())) {
        // passcode comes first in the table, so that a passcode forced here asks for its length too
        values = values.with(rule.control(), limit);
        changes.put(rule.control(), new Remedy.Change(rule.control(), value, limit, true));
      }
    }
    RemedySearch search = new RemedySearch(rules, values, reach, waived, means);
    Map<Control, Value> extra = search.guaranteesKept() ? Map.of() : search.search();
    boolean kept = extra != null;
    if (extra != null) {
      for (Map.Entry<Control, Value> change : extra.entrySet()) {
        Control control = change.getKey();
        values = values.with(control, change.getValue());
        changes.put(
            control, new Remedy.Change(control, found.get(control), change.getValue(), false));
      }
    }
    int friction = changes.keySet().stream().mapToInt(Control::friction).sum();
    return new Remedy(List.copyOf(changes.values()), friction, kept && search.rulesKept(values));
  }

  private boolean guaranteesKept() {
    Matrix matrix = state.matrix();
    for (ResolvedRulebook.Given given : rules.guarantees()) {
      if (!waived.contains(given.guarantee().id()) && matrix.breaks(given.guarantee())) {
        return false;
      }
    }
    return true;
  }

  /** Whether no rule is broken or not evidenced by these values. */
  private boolean rulesKept(ControlValues values) {
    boolean blocked = values.is(Control.FORWARDING, "blocked");
    for (ResolvedRule rule : rules.rules()) {
      Value limit = rule.limit();
      Value value = values.get(rule.control());
      boolean kept =
          value == null || limit == null
              ? !rule.notEvidencedIn(values)
              : reach.within(rule.control(), value, limit, blocked);
      if (!kept && !waived.contains(rule.control().id())) {
        return false;
      }
    }
    return true;
  }

  /** The cheapest set of further changes, or null where none of at most four keeps them all. */
  private @Nullable Map<Control, Value> search() {
    for (int friction = 1; friction <= MAX_FRICTION; friction++) {
      for (int size = 1; size <= MAX_CHANGES && size <= friction; size++) {
        if (choose(0, 0, size, friction)) {
          return leastTightening(size);
        }
      }
    }
    return null;
  }

  /** Tries the sets of a size and a friction in the order of the table. */
  private boolean choose(int from, int taken, int size, int friction) {
    if (taken == size) {
      return friction == 0 && possible(0, size);
    }
    int left = size - taken;
    for (int i = from; i <= candidates.size() - left; i++) {
      Candidate candidate = candidates.get(i);
      int rest = friction - candidate.control().friction();
      if (rest < left - 1 || rest > 3 * (left - 1)) {
        continue;
      }
      chosen[taken] = candidate;
      if (choose(i + 1, taken + 1, size, rest)) {
        return true;
      }
    }
    return false;
  }

  /** Whether the chosen controls from a place on can be set so that everything is kept. */
  private boolean possible(int from, int size) {
    if (from == size) {
      return guaranteesKept() && passcodeEvidenced() && namesKept();
    }
    Candidate candidate = chosen[from];
    List<Value> values =
        candidate.trustsStrictest() ? List.of(candidate.strictest()) : candidate.stricter();
    for (Value value : values) {
      if (with(candidate, value, from, size)) {
        return true;
      }
    }
    return false;
  }

  private boolean with(Candidate candidate, Value value, int from, int size) {
    int before = state.set(candidate.control(), value);
    boolean possible = possible(from + 1, size);
    state.set(candidate.control(), before);
    return possible;
  }

  /** A passcode that is asked for must have a known length and makeup where rules bind them. */
  private boolean passcodeEvidenced() {
    return !asksMoreOfPasscode || state.word(Control.PASSCODE).equals("none");
  }

  /** Whether the two controls that go by name are within their limits as the values stand. */
  private boolean namesKept() {
    return nameKept(Control.LOBBY_BYPASS) && nameKept(Control.PRESENTER_ROLE);
  }

  private boolean nameKept(Control control) {
    ResolvedRule rule = rules.rule(control);
    Value limit = rule == null ? null : rule.limit();
    if (limit == null || waived.contains(control.id())) {
      return true;
    }
    Value value = control.parse(state.word(control));
    return reach.within(control, value, limit, state.word(Control.FORWARDING).equals("blocked"));
  }

  /** Of the chosen controls, the values that tighten least, control by control in order. */
  private Map<Control, Value> leastTightening(int size) {
    Map<Control, Value> least = new EnumMap<>(Control.class);
    for (int i = 0; i < size; i++) {
      Candidate candidate = chosen[i];
      Value value = candidate.strictest();
      for (Value milder : candidate.stricter()) {
        if (with(candidate, milder, i, size)) {
          value = milder;
          break;
        }
      }
      state.set(candidate.control(), value);
      chosen[i] = new Candidate(candidate.control(), List.of(value));
      least.put(candidate.control(), value);
    }
    return least;
  }
}
