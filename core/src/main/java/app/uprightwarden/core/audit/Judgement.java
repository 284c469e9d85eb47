package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Effects;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.exposure.MatrixState;
import app.uprightwarden.core.meeting.Reach;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.jspecify.annotations.Nullable;

/**
 * How a set of values stands under a resolved rulebook: exposure, and what the rule checks found.
 * Shared by all meetings with equal values, rules and reach.
 */
public record Judgement(ResolvedRulebook rules, Basis basis, List<Detail> details) {

  private static final Asking[] ASKED =
      Auditor.select(RuleCheck.class).stream().map(Asking::of).toArray(Asking[]::new);

  /**
   * A check by what it looks at: one of the three. Sorted once, so that a judgement need not ask
   * each check for its interface.
   */
  private record Asking(
      @Nullable ControlCheck onRules,
      @Nullable GuaranteeCheck onGuarantees,
      @Nullable ValuesCheck onValues) {
    static Asking of(RuleCheck check) {
      return new Asking(
          check instanceof ControlCheck onRules ? onRules : null,
          check instanceof GuaranteeCheck onGuarantees ? onGuarantees : null,
          check instanceof ValuesCheck onValues ? onValues : null);
    }
  }

  /** What is judged, with what is computed of it once for all checks. */
  public static final class Basis {
    private final ControlValues values;
    private final Reach reach;
    private final MatrixState state;
    private final Matrix matrix;
    private final Exposure exposure;
    private final boolean forwardingBlocked;
    private Effects.@Nullable Around around;

    /** Takes what is judged; the matrix and the exposure are computed at once. */
    public Basis(ControlValues values, Reach reach) {
      this.values = values;
      this.reach = reach;
      this.state = new MatrixState(values);
      this.matrix = state.matrix();
      this.exposure = Exposure.of(matrix);
      this.forwardingBlocked = values.is(Control.FORWARDING, "blocked");
    }

    /** The control values judged. */
    public ControlValues values() {
      return values;
    }

    /** Who can do what under them. */
    public Matrix matrix() {
      return matrix;
    }

    /** How exposed that makes a meeting. */
    public Exposure exposure() {
      return exposure;
    }

    /** The controls that keep this one from having an effect; empty where it has one. */
    public List<Control> defeatedBy(Control control) {
      Effects.Around known = around;
      if (known == null) {
        known = new Effects.Around(state);
        around = known;
      }
      return known.defeatedBy(control);
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

  /** Judges values under rules, for meetings whose names reach so far. */
  public static Judgement of(ResolvedRulebook rules, ControlValues values, Reach reach) {
    Basis basis = new Basis(values, reach);
    List<Detail> details = new ArrayList<>();
    Consumer<Detail> found = details::add;
    for (Asking asked : ASKED) {
      ControlCheck onRules = asked.onRules();
      GuaranteeCheck onGuarantees = asked.onGuarantees();
      ValuesCheck onValues = asked.onValues();
      if (onRules != null) {
        List<ResolvedRule> among = onRules.among(rules);
        for (int i = 0; i < among.size(); i++) {
          onRules.check(basis, among.get(i), found);
        }
      } else if (onGuarantees != null) {
        for (ResolvedRulebook.Given given : rules.guarantees()) {
          onGuarantees.check(basis, given, found);
        }
      } else if (onValues != null) {
        onValues.check(basis, found);
      }
    }
    return new Judgement(rules, basis, List.copyOf(details));
  }

  /** What is wrong by one rule. */
  public static List<Detail> byRule(Basis basis, ResolvedRule rule) {
    List<Detail> details = new ArrayList<>();
    for (Asking asked : ASKED) {
      ControlCheck onRules = asked.onRules();
      if (onRules != null) {
        onRules.check(basis, rule, details::add);
      }
    }
    return details;
  }

  /** What is wrong by one guarantee. */
  public static List<Detail> byGuarantee(Basis basis, ResolvedRulebook.Given given) {
    List<Detail> details = new ArrayList<>();
    for (Asking asked : ASKED) {
      GuaranteeCheck onGuarantees = asked.onGuarantees();
      if (onGuarantees != null) {
        onGuarantees.check(basis, given, details::add);
      }
    }
    return details;
  }

  /** A value in plain form, or null. */
  public static @Nullable Object plain(Control control, @Nullable Value value) {
    return value == null ? null : control.plain(value);
  }
}
