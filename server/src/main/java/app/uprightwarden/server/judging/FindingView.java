package app.uprightwarden.server.judging;

import app.uprightwarden.core.audit.Detail;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.server.schema.Plain;
import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.LocalDateTime;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * A finding as it is written in answers.
 *
 * @param family of the control, or else what it concerns: guarantees, or the meeting
 * @param value as found, in plain form
 * @param layer the layer that says what is allowed
 * @param reason the reason the rule or guarantee gives
 * @param trace how the rule came about, layer by layer, in words
 * @param trail the worst persona's way through the door
 */
@JsonInclude(JsonInclude.Include.NON_NULL)
public record FindingView(
    String check,
    @Nullable String control,
    @Nullable String guarantee,
    String family,
    int severity,
    @Plain @Nullable Object value,
    @Plain @Nullable Object allowed,
    @Nullable String layer,
    @Nullable String reason,
    @Nullable String persona,
    @Nullable String right,
    @Nullable String level,
    @Nullable List<String> defeatedBy,
    @Nullable String occurrence,
    String text,
    @Nullable List<String> trace,
    @Nullable List<TrailStep> trail) {

  /** What a stored finding's columns say. */
  public record Columns(String check, String family, int severity, String occurrence) {}

  /** What a row is to keep of a finding beside its columns. */
  public static String stored(JsonMapper json, Detail detail, ControlValues values) {
    return StoredFinding.write(json, detail, values);
  }

  /** A stored finding in words. */
  public static FindingView read(JsonMapper json, String stored, Columns columns) {
    return StoredFinding.isOne(stored)
        ? json.readValue(stored, StoredFinding.class).worded(columns)
        : json.readValue(stored, FindingView.class);
  }

  /** A step of the way through the door. */
  public record TrailStep(
      String step,
      @Nullable String control,
      @Plain @Nullable Object value,
      String outcome,
      String words) {}

  public static FindingView of(
      Detail detail, @Nullable LocalDateTime occurrence, ControlValues values) {
    Control control = detail.control();
    Matrix.Cell worst = detail.worst();
    var rule = detail.rule();
    var given = detail.given();
    return new FindingView(
        detail.check().id(),
        control == null ? null : control.id(),
        given == null ? null : given.guarantee().id(),
        familyOf(detail),
        detail.severity(),
        detail.value(),
        detail.allowed(),
        detail.layer(),
        rule != null ? rule.reason() : given != null ? given.guarantee().reason() : null,
        worst == null ? null : worst.persona().id(),
        worst == null ? null : worst.right().id(),
        worst == null ? null : worst.level().id(),
        detail.defeatedBy().isEmpty()
            ? null
            : detail.defeatedBy().stream().map(Control::id).toList(),
        occurrence == null ? null : occurrence.toString(),
        FindingTexts.of(detail.check(), detail.arguments()),
        rule == null
            ? null
            : rule.trace().stream().map(step -> FindingTexts.of(step.said())).toList(),
        worst == null ? null : trail(worst, values));
  }

  /** The family of the control concerned, or else {@code guarantees} or {@code meeting}. */
  public static String familyOf(Detail detail) {
    if (detail.control() != null) {
      return detail.control().family().id();
    }
    return detail.given() != null ? "guarantees" : "meeting";
  }

  private static List<TrailStep> trail(Matrix.Cell worst, ControlValues values) {
    return steps(passage(worst, values));
  }

  static Passage passage(Matrix.Cell worst, ControlValues values) {
    Moment moment = worst.level() == Level.UNATTENDED ? Moment.UNATTENDED : Moment.IN_SESSION;
    return Door.pass(values, Matrix.joiner(worst.persona(), values), moment);
  }

  /** A passage's trail as it is written. */
  public static List<TrailStep> steps(Passage passage) {
    return passage.trail().stream()
        .map(
            t ->
                new TrailStep(
                    t.step().id(),
                    t.control() == null ? null : t.control().id(),
                    t.control() == null || t.value() == null ? null : t.control().plain(t.value()),
                    t.outcome().id(),
                    FindingTexts.of(t.reason())))
        .toList();
  }
}
