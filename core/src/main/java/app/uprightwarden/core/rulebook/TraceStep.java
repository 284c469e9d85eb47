package app.uprightwarden.core.rulebook;

import java.util.Locale;

/** What one layer's rule did while a control was resolved. */
public record TraceStep(Scope layer, Rule rule, Action action) {
  /** What became of a rule. */
  public enum Action {
    TAKEN,
    REPLACED,
    TIGHTENED,
    START_CHANGED,
    OVERRULED;

    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** The step in words, with the layer by its id. */
  public String words() {
    return words(
        switch (layer.level()) {
          case ORGANISATION -> "The organisation";
          case UNIT -> "The unit " + layer.id();
          case KIND -> "The kind " + layer.id();
        });
  }

  /** The step in words, with the layer by a name. */
  public String words(String where) {
    String rules =
        switch (rule.mode()) {
          case SUGGEST -> "suggests " + rule.control().label(rule.start());
          case BOUND -> "sets the limit " + limitLabel();
          case FIX -> "fixes " + limitLabel();
        };
    String became =
        switch (action) {
          case TAKEN -> rule.sealed() ? ", sealed" : "";
          case REPLACED ->
              " in place of the rule above it" + (rule.sealed() ? ", and seals it" : "");
          case TIGHTENED -> ", within the seal above it";
          case START_CHANGED -> "; the seal above keeps the limit, only the start changes";
          case OVERRULED -> ", but a sealed rule above it stands";
        };
    return where + " " + rules + became + ".";
  }

  private String limitLabel() {
    return rule.limit() == null ? "" : rule.control().label(rule.limit());
  }
}
