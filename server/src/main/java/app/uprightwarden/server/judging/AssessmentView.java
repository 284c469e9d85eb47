package app.uprightwarden.server.judging;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.exposure.Exposure;
import app.uprightwarden.core.exposure.Matrix;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.rulebook.TraceStep;
import app.uprightwarden.server.schema.Plain;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** The parts of an assessment as they are written. */
public final class AssessmentView {
  private AssessmentView() {}

  /** Scores 0 to 100 with one decimal. */
  public record Scores(double score, double intrusion, double disruption, String band) {
    public static Scores of(Exposure exposure) {
      return new Scores(
          exposure.score(), exposure.intrusion(), exposure.disruption(), exposure.band().id());
    }
  }

  /** One control's change; {@code from} is null where the meeting had no value. */
  public record Change(String control, @Plain @Nullable Object from, @Plain Object to) {}

  /** The cheapest remedy. */
  public record RemedyView(List<Change> changes, int friction, boolean complete) {
    public static RemedyView of(Remedy remedy) {
      return new RemedyView(
          remedy.changes().stream()
              .map(
                  c ->
                      new Change(
                          c.control().id(),
                          c.from() == null ? null : c.control().plain(c.from()),
                          c.control().plain(c.to())))
              .toList(),
          remedy.friction(),
          remedy.complete());
    }
  }

  /** What one layer did while a control was resolved. */
  public record Step(String layer, String mode, String action, String words) {}

  /** A resolved rule; {@code limit} is null for a suggestion. */
  public record Resolved(
      String mode,
      @Plain Object start,
      @Plain @Nullable Object limit,
      int importance,
      boolean sealed,
      String layer,
      String reason,
      List<Step> trace) {
    public static Resolved of(ResolvedRule rule) {
      return with(rule, step -> FindingTexts.of(step.said()));
    }

    /** The same, with layers by the names people know. */
    public static Resolved of(ResolvedRule rule, Function<Scope, String> names) {
      return with(rule, step -> FindingTexts.of(step.said(), names.apply(step.layer())));
    }

    private static Resolved with(ResolvedRule rule, Function<TraceStep, String> words) {
      Control control = rule.control();
      return new Resolved(
          rule.mode().id(),
          control.plain(rule.start()),
          rule.limit() == null ? null : control.plain(rule.limit()),
          rule.importance(),
          rule.sealed(),
          rule.source().toString(),
          rule.reason(),
          rule.trace().stream()
              .map(
                  t ->
                      new Step(
                          t.layer().toString(),
                          t.rule().mode().id(),
                          t.action().id(),
                          words.apply(t)))
              .toList());
    }
  }

  public static Map<String, Resolved> resolved(ResolvedRulebook rules) {
    Map<String, Resolved> map = new LinkedHashMap<>();
    rules.rules().forEach(rule -> map.put(rule.control().id(), Resolved.of(rule)));
    return map;
  }

  public static Map<String, Map<String, String>> matrix(Matrix matrix) {
    Map<String, Map<String, String>> map = new LinkedHashMap<>();
    matrix
        .asMap()
        .forEach(
            (persona, row) -> {
              Map<String, String> levels = new LinkedHashMap<>();
              row.forEach((right, level) -> levels.put(right.id(), level.id()));
              map.put(persona.id(), levels);
            });
    return map;
  }
}
