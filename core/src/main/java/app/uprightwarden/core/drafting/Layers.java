package app.uprightwarden.core.drafting;

import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/** A rulebook resolved for the units and kinds asked for, each list of layers once. Thread-safe. */
public final class Layers {
  private final Rulebook rulebook;
  private final Function<@Nullable String, List<String>> unitPath;
  private final Map<List<Scope>, ResolvedRulebook> resolved = new ConcurrentHashMap<>();

  /**
   * @param unitPath unit ids from the root to a unit; empty for null
   */
  public Layers(Rulebook rulebook, Function<@Nullable String, List<String>> unitPath) {
    this.rulebook = rulebook;
    this.unitPath = unitPath;
  }

  /** The layers that apply, in order. */
  public List<Layer> applying(@Nullable String unit, @Nullable String kind) {
    return rulebook.applying(unitPath.apply(unit), kind);
  }

  /** What is in force for the meetings of a kind whose hosts are of a unit. */
  public ResolvedRulebook of(@Nullable String unit, @Nullable String kind) {
    List<Layer> layers = applying(unit, kind);
    return resolved.computeIfAbsent(
        layers.stream().map(Layer::scope).toList(), scopes -> ResolvedRulebook.of(layers));
  }

  /** Whether a scope takes part for a unit and kind. */
  public boolean takesPart(Scope scope, @Nullable String unit, @Nullable String kind) {
    return switch (scope.level()) {
      case ORGANISATION -> true;
      case UNIT -> scope.id() != null && unitPath.apply(unit).contains(scope.id());
      case KIND -> scope.id() != null && scope.id().equals(kind);
    };
  }
}
