package app.uprightwarden.server.judging;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.audit.FindingArguments;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.DoorReason;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.rulebook.TraceStep;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * What a row keeps of a finding beside its columns: the arguments, and no words. It is worded when
 * it is read, so that what was found long ago is told as it would be told now. Rows of before keep
 * a whole {@link FindingView} with its words, and are read as they are.
 *
 * @param v the version of this form: 2
 * @param control the control concerned
 * @param guarantee the guarantee that was broken
 * @param value as found, in plain form
 * @param fix whether the rule allows one value only; null for no
 * @param layer the layer that says what is allowed
 * @param reason the reason its writer gave for the rule or guarantee
 * @param persona with {@code right} and {@code level}: the worst hold that breaks a guarantee
 * @param trace how the rule came about, layer by layer
 * @param trail the worst persona's way through the door
 * @param there what a conference service has to do with it
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
record StoredFinding(
    int v,
    @Nullable String control,
    @Nullable String guarantee,
    @Nullable Object value,
    @Nullable Object allowed,
    @Nullable Boolean fix,
    @Nullable String layer,
    @Nullable String reason,
    @Nullable String persona,
    @Nullable String right,
    @Nullable String level,
    @Nullable List<String> defeatedBy,
    @Nullable List<Step> trace,
    @Nullable List<Asked> trail,
    FindingArguments.@Nullable There there) {
  private static final int VERSION = 2;
  private static final String BEGINNING = "{\"v\":";

  /**
   * What one layer's rule did.
   *
   * @param value the start of a suggestion, the limit of any other rule, in plain form
   */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Step(
      String layer, String mode, @Nullable Object value, @Nullable Boolean sealed, String action) {}

  /** A step of the way through the door, and why it went as it did. */
  @JsonInclude(JsonInclude.Include.NON_NULL)
  record Asked(
      String step,
      @Nullable String control,
      @Nullable Object value,
      String outcome,
      String reason) {}

  /** Whether a row's text is of this form, and not of the one before. */
  static boolean isOne(String text) {
    return text.startsWith(BEGINNING);
  }

  static String write(JsonMapper json, Detail detail, ControlValues values) {
    Control control = detail.control();
    Matrix.Cell worst = detail.worst();
    var rule = detail.rule();
    var given = detail.given();
    return json.writeValueAsString(
        new StoredFinding(
            VERSION,
            control == null ? null : control.id(),
            given == null ? null : given.guarantee().id(),
            detail.value(),
            detail.allowed(),
            detail.arguments().isFix() ? true : null,
            detail.layer(),
            rule != null ? rule.reason() : given != null ? given.guarantee().reason() : null,
            worst == null ? null : worst.persona().id(),
            worst == null ? null : worst.right().id(),
            worst == null ? null : worst.level().id(),
            detail.defeatedBy().isEmpty()
                ? null
                : detail.defeatedBy().stream().map(Control::id).toList(),
            rule == null ? null : rule.trace().stream().map(StoredFinding::step).toList(),
            worst == null
                ? null
                : FindingView.passage(worst, values).trail().stream()
                    .map(StoredFinding::asked)
                    .toList(),
            detail.there()));
  }

  private static Step step(TraceStep step) {
    TraceStep.Said said = step.said();
    return new Step(
        said.layer().toString(),
        said.mode().name().toLowerCase(Locale.ROOT),
        said.value() == null ? null : said.control().plain(said.value()),
        said.sealed() ? true : null,
        said.action().id());
  }

  private static Asked asked(Passage.Trace trace) {
    Control control = trace.control();
    return new Asked(
        trace.step().id(),
        control == null ? null : control.id(),
        control == null || trace.value() == null ? null : control.plain(trace.value()),
        trace.outcome().id(),
        trace.reason().id());
  }

  /** The finding in words, with what its row's columns say. */
  FindingView worded(FindingView.Columns columns) {
    Check check = check(columns.check());
    Control of = control == null ? null : Control.byId(control);
    return new FindingView(
        columns.check(),
        control,
        guarantee,
        columns.family(),
        columns.severity(),
        value,
        allowed,
        layer,
        reason,
        persona,
        right,
        level,
        defeatedBy,
        columns.occurrence().isEmpty() ? null : columns.occurrence(),
        FindingTexts.of(
            check,
            new FindingArguments(
                of,
                Boolean.TRUE.equals(fix),
                value,
                allowed,
                worst(),
                defeatedBy == null
                    ? List.of()
                    : defeatedBy.stream().map(Control::byId).filter(Objects::nonNull).toList(),
                there)),
        trace == null || of == null ? null : trace.stream().map(step -> words(step, of)).toList(),
        trail == null ? null : trail.stream().map(StoredFinding::worded).toList());
  }

  private static Check check(String id) {
    return Auditor.catalogue().stream()
        .filter(check -> check.id().equals(id))
        .findFirst()
        .orElseThrow(() -> new IllegalStateException("no check is called " + id));
  }

  private Matrix.@Nullable Cell worst() {
    return persona == null || right == null || level == null
        ? null
        : new Matrix.Cell(
            Objects.requireNonNull(Persona.byId(persona)),
            Objects.requireNonNull(Right.byId(right)),
            Objects.requireNonNull(Level.byId(level)));
  }

  private static String words(Step step, Control control) {
    return FindingTexts.of(
        new TraceStep.Said(
            Scope.parse(step.layer()),
            control,
            Mode.valueOf(step.mode().toUpperCase(Locale.ROOT)),
            step.value() == null ? null : control.parse(step.value()),
            Boolean.TRUE.equals(step.sealed()),
            Stream.of(TraceStep.Action.values())
                .filter(action -> action.id().equals(step.action()))
                .findFirst()
                .orElseThrow()));
  }

  private static FindingView.TrailStep worded(Asked asked) {
    return new FindingView.TrailStep(
        asked.step(),
        asked.control(),
        asked.value(),
        asked.outcome(),
        FindingTexts.of(Objects.requireNonNull(DoorReason.byId(asked.reason()), asked.reason())));
  }
}
