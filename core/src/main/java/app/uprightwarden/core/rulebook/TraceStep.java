package app.uprightwarden.core.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** What one layer's rule did while a control was resolved. */
public record TraceStep(Scope layer, Rule rule, Action action) {
  /** What became of a rule. */
  public enum Action {
    TAKEN,
    REPLACED,
    TIGHTENED,
    START_CHANGED,
    OVERRULED;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** The step in words, with the layer by its id. */
  public String words() {
    return said().words();
  }

  /** The step in words, with the layer by a name. */
  public String words(String where) {
    return said().words(where);
  }

  /** What the step says, apart from the rule it came of. */
  public Said said() {
    Value shown = rule.mode() == Mode.SUGGEST ? rule.start() : rule.limit();
    return new Said(layer, rule.control(), rule.mode(), shown, rule.sealed(), action);
  }

  /**
   * What a step says.
   *
   * @param value the start of a suggestion, the limit of any other rule
   */
  public record Said(
      Scope layer,
      Control control,
      Mode mode,
      @Nullable Value value,
      boolean sealed,
      Action action) {

    /** In words, with the layer by its id. */
    public String words() {
      return words(
          switch (layer.level()) {
            case ORGANISATION -> "The organisation";
            case UNIT -> "The unit " + layer.id();
            case KIND -> "The kind " + layer.id();
          });
    }

    /** In words, with the layer by a name. */
    public String words(String where) {
      String label = value == null ? "" : control.label(value);
      String rules =
          switch (mode) {
            case SUGGEST -> "suggests " + label;
            case BOUND -> "sets the limit " + label;
            case FIX -> "fixes " + label;
          };
      String became =
          switch (action) {
            case TAKEN -> sealed ? ", sealed" : "";
            case REPLACED -> " in place of the rule above it" + (sealed ? ", and seals it" : "");
            case TIGHTENED -> ", within the seal above it";
            case START_CHANGED -> "; the seal above keeps the limit, only the start changes";
            case OVERRULED -> ", but a sealed rule above it stands";
          };
      return where + " " + rules + became + ".";
    }
  }
}
