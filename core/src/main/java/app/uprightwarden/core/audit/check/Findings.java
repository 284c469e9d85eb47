package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/** Making details, and the words that several checks share. */
final class Findings {
  private Findings() {}

  static Detail onRule(Check check, int severity, ResolvedRule rule, @Nullable Object value) {
    return onRule(check, severity, rule, value, List.of());
  }

  static Detail onRule(
      Check check, int severity, ResolvedRule rule, @Nullable Object value, List<Control> by) {
    Object allowed = rule.limit() == null ? null : rule.control().plain(rule.limit());
    return new Detail(check, severity, rule.control(), rule, null, value, allowed, null, by);
  }

  static Detail onGuarantee(
      Check check, int severity, ResolvedRulebook.Given given, Matrix.Cell worst) {
    Object value = worst.level().id();
    Object allowed = given.guarantee().ceiling().id();
    return new Detail(check, severity, null, null, given, value, allowed, worst, List.of());
  }

  private static Control control(FindingArguments found) {
    return Objects.requireNonNull(found.control(), "the finding concerns a control");
  }

  static String title(FindingArguments found) {
    return control(found).title();
  }

  static String risk(FindingArguments found) {
    return control(found).risk();
  }

  /** A plain value of the finding's control as people read it. */
  static String label(FindingArguments found, @Nullable Object plain) {
    return plain == null ? "not known" : control(found).label(control(found).parse(plain));
  }

  static String isAndAllowed(FindingArguments found) {
    return title(found)
        + " is “"
        + label(found, found.value())
        + "”; the rule "
        + (found.isFix() ? "says" : "allows no looser than")
        + " “"
        + label(found, found.allowed())
        + "”.";
  }

  static String titles(List<Control> controls) {
    return controls.stream().map(Control::title).collect(Collectors.joining(", "));
  }

  static String joined(@Nullable Object value) {
    return value instanceof List<?> list
        ? list.stream().map(String::valueOf).collect(Collectors.joining(", "))
        : String.valueOf(value);
  }

  /** How often something happens, to begin a sentence with. */
  static String times(@Nullable Object count) {
    return Objects.equals(count, 1) ? "Once" : count + " times";
  }

  static String decapitalised(String sentence) {
    return sentence.substring(0, 1).toLowerCase(Locale.ROOT) + sentence.substring(1);
  }
}
