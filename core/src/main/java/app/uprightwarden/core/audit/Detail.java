package app.uprightwarden.core.audit;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What a check found, without the meeting it found it in. Values are in their plain form (see
 * {@link Control#plain}).
 *
 * @param rule that was broken, where a control is concerned
 * @param given the guarantee that was broken
 * @param value as found; null where nothing was
 * @param allowed what may stand; null where that is no value
 * @param worst the worst hold that breaks the guarantee
 * @param defeatedBy the controls to blame for a control without effect
 * @param there what a conference service has to do with it
 */
public record Detail(
    Check check,
    int severity,
    @Nullable Control control,
    @Nullable ResolvedRule rule,
    ResolvedRulebook.@Nullable Given given,
    @Nullable Object value,
    @Nullable Object allowed,
    Matrix.@Nullable Cell worst,
    List<Control> defeatedBy,
    FindingArguments.@Nullable There there) {

  /** A finding with which no conference service has to do. */
  public Detail(
      Check check,
      int severity,
      @Nullable Control control,
      @Nullable ResolvedRule rule,
      ResolvedRulebook.@Nullable Given given,
      @Nullable Object value,
      @Nullable Object allowed,
      Matrix.@Nullable Cell worst,
      List<Control> defeatedBy) {
    this(check, severity, control, rule, given, value, allowed, worst, defeatedBy, null);
  }

  /** A finding with the check's own base severity, on no rule. */
  public static Detail of(Check check, @Nullable Object value, @Nullable Object allowed) {
    return new Detail(
        check, check.baseSeverity(), null, null, null, value, allowed, null, List.of());
  }

  /** The same with another severity. */
  public Detail withSeverity(int other) {
    return new Detail(check, other, control, rule, given, value, allowed, worst, defeatedBy, there);
  }

  /** The same, with what a conference service has to do with it. */
  public Detail at(FindingArguments.There service) {
    return new Detail(
        check, severity, control, rule, given, value, allowed, worst, defeatedBy, service);
  }

  /** Control or guarantee, or empty where the check concerns neither. */
  public String subject() {
    if (control != null) {
      return control.id();
    }
    return given == null ? "" : given.guarantee().id();
  }

  /** What two details share that say the same of a series and of one of its occurrences. */
  public String likeness() {
    return check.id() + "|" + subject() + "|" + value;
  }

  /** The layer that says what is allowed, or null. */
  public @Nullable String layer() {
    if (rule != null) {
      return rule.source().toString();
    }
    return given == null ? null : given.layer().toString();
  }

  /** What its words are made of. */
  public FindingArguments arguments() {
    boolean isFix = rule != null && Objects.equals(rule.start(), rule.limit());
    return new FindingArguments(control, isFix, value, allowed, worst, defeatedBy, there);
  }

  /** What was found, in words a host understands. */
  public String text() {
    return check.text(arguments());
  }
}
