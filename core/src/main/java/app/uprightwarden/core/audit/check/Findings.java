package app.uprightwarden.core.audit.check;

import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Held;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
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

  private static final DateTimeFormatter TIME =
      DateTimeFormatter.ofPattern("d MMMM uuuu, HH:mm 'UTC'", Locale.ENGLISH)
          .withZone(ZoneOffset.UTC);

  /** What is held is the value, what was decided is what is allowed. */
  static Detail onDifference(
      Check check, MeetingFacts meeting, Held held, Held.Difference difference) {
    Control control = difference.control();
    ResolvedRule rule = meeting.rules().rule(control);
    boolean binds = rule != null && rule.governs();
    Value holds = difference.held();
    Instant at = difference.at();
    return new Detail(
        check,
        binds && rule != null ? rule.importance() : check.baseSeverity(),
        control,
        binds ? rule : null,
        null,
        holds == null ? null : control.plain(holds),
        control.plain(difference.decided()),
        null,
        List.of(),
        new FindingArguments.There(
            held.service(),
            difference.by(),
            at == null ? null : at.toString(),
            difference.why().isEmpty() ? null : difference.why()));
  }

  private static FindingArguments.There there(FindingArguments found) {
    return Objects.requireNonNull(found.there(), "the finding concerns a service");
  }

  static String service(FindingArguments found) {
    return there(found).service();
  }

  /** The time that a finding about a service has. */
  static String at(FindingArguments found) {
    return TIME.format(Instant.parse(Objects.requireNonNull(there(found).at())));
  }

  static String heldAndDecided(FindingArguments found) {
    return service(found)
        + " holds "
        + title(found)
        + " as “"
        + label(found, found.value())
        + "”; “"
        + label(found, found.allowed())
        + "” was decided.";
  }

  /** Who changed it there and when, as far as that is known; begins with a space. */
  static String changedThere(FindingArguments found) {
    FindingArguments.There there = there(found);
    String by = there.by();
    String at = there.at();
    return " "
        + (by == null || by.isEmpty() ? "It was changed there" : by + " changed it there")
        + (at == null ? "." : " on " + TIME.format(Instant.parse(at)) + ".");
  }

  /** Why it was not taken; begins with a space. */
  static String why(FindingArguments found) {
    String why = there(found).why();
    return why == null
        ? " It has not been confirmed yet."
        : " " + why.substring(0, 1).toUpperCase(Locale.ROOT) + why.substring(1) + ".";
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
