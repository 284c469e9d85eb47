package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.exposure.Posture;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * How a set of values stands under a resolved rulebook: exposure, and what the rule checks found.
 * Shared by all meetings with equal values, rules and reach.
 */
public record Judgement(Basis basis, List<Detail> details) {

  /** What is judged, with what is computed of it once for all checks. */
  public static final class Basis {
    private final ResolvedRulebook rules;
    private final ControlValues values;
    private final Reach reach;
    private final Posture posture;
    private final Matrix matrix;
    private final Exposure exposure;
    private final boolean forwardingBlocked;

    Basis(ResolvedRulebook rules, ControlValues values, Reach reach) {
      this.rules = rules;
      this.values = values;
      this.reach = reach;
      this.posture = new Posture(values);
      this.matrix = posture.matrix();
      this.exposure = Exposure.of(matrix);
      this.forwardingBlocked = values.is(Control.FORWARDING, "blocked");
    }

    public ResolvedRulebook rules() {
      return rules;
    }

    public ControlValues values() {
      return values;
    }

    public Matrix matrix() {
      return matrix;
    }

    public Exposure exposure() {
      return exposure;
    }

    /** A scratch posture at these values; whoever moves it puts it back. */
    public Posture posture() {
      return posture;
    }

    /** Whether a found value keeps the rule's limit, for this meeting. */
    public boolean within(ResolvedRule rule, Value value) {
      return rule.limit() == null
          || reach.within(rule.control(), value, rule.limit(), forwardingBlocked);
    }

    /** Whether a fix is kept more strictly than it asks. */
    public boolean stricterThanFix(ResolvedRule rule, Value value) {
      return rule.mode() == Mode.FIX && within(rule, value) && !value.equals(rule.limit());
    }

    /** A base severity, one more where exposure is 50 or more, one less below 10; within 1 to 5. */
    public int bumped(int base) {
      int tenths = exposure.scoreTenths();
      int bump = tenths >= 500 ? 1 : tenths < 100 ? -1 : 0;
      return Math.max(1, Math.min(5, base + bump));
    }
  }

  static Judgement of(
      List<RuleCheck> checks, ResolvedRulebook rules, ControlValues values, Reach reach) {
    Basis basis = new Basis(rules, values, reach);
    List<Detail> details = new ArrayList<>();
    for (RuleCheck check : checks) {
      check.check(basis, details::add);
    }
    return new Judgement(basis, List.copyOf(details));
  }

  /** A value in plain form, or null. */
  public static @Nullable Object plain(Control control, @Nullable Value value) {
    return value == null ? null : control.plain(value);
  }
}
