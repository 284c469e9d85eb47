package app.uprightwarden.core.rulebook;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** All layers of an edition or a draft; one layer per scope at most. */
public record Rulebook(List<Layer> layers) {
  public static final Rulebook EMPTY = new Rulebook(List.of());

  public Rulebook {
    layers = List.copyOf(layers);
    if (layers.stream().map(Layer::scope).distinct().count() != layers.size()) {
      throw new InvalidRuleException("scope", "two layers have the same scope");
    }
  }

  /**
   * The layers that apply to a meeting, in the order in which they apply.
   *
   * @param unitPath unit ids from the root to the host's unit
   * @param kind the meeting's kind or null
   */
  public List<Layer> applying(List<String> unitPath, @Nullable String kind) {
    List<Layer> path = new ArrayList<>();
    addIfPresent(path, Scope.ORGANISATION);
    unitPath.forEach(unit -> addIfPresent(path, Scope.unit(unit)));
    if (kind != null) {
      addIfPresent(path, Scope.kind(kind));
    }
    return List.copyOf(path);
  }

  private void addIfPresent(List<Layer> path, Scope scope) {
    for (Layer layer : layers) {
      if (layer.scope().equals(scope)) {
        path.add(layer);
      }
    }
  }
}
