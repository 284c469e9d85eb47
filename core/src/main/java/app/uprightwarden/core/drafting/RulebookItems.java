package app.uprightwarden.core.drafting;

import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/**
 * A rulebook as single items, each a rule or a guarantee at its place, so that two people's work on
 * one draft can be put together item by item.
 */
public final class RulebookItems {
  private static final Comparator<Scope> SCOPES =
      Comparator.comparing(Scope::level)
          .thenComparing(scope -> Objects.requireNonNullElse(scope.id(), ""));

  /**
   * Where an item stands.
   *
   * @param part a control's id, or a guarantee's
   */
  public record Place(Scope layer, Sort sort, String part) {
    /** What an item is. */
    public enum Sort {
      RULE,
      GUARANTEE
    }

    /** The place of a layer's rule for a control. */
    public static Place of(Scope layer, Rule rule) {
      return new Place(layer, Sort.RULE, rule.control().id());
    }

    /** The place of a layer's guarantee. */
    public static Place of(Scope layer, Guarantee guarantee) {
      return new Place(layer, Sort.GUARANTEE, guarantee.id());
    }
  }

  /**
   * A place where two drafts changed the same item differently.
   *
   * @param mine a rule, a guarantee, or null where it was taken away
   */
  public record Collision(Place place, @Nullable Object mine, @Nullable Object theirs) {}

  /** Two drafts put together; where they collide, mine stands. */
  public record Merged(Rulebook rulebook, List<Collision> collisions) {}

  private final Map<Place, Object> items = new LinkedHashMap<>();

  /** Takes a rulebook apart into items. */
  public RulebookItems(Rulebook rulebook) {
    for (Layer layer : rulebook.layers()) {
      layer.rules().forEach(rule -> items.put(Place.of(layer.scope(), rule), rule));
      layer.guarantees().forEach(given -> items.put(Place.of(layer.scope(), given), given));
    }
  }

  /** The rule or guarantee at a place, or null. */
  public @Nullable Object at(Place place) {
    return items.get(place);
  }

  /** Puts a rule or guarantee in place; null takes it away. */
  public void put(Place place, @Nullable Object item) {
    if (item == null) {
      items.remove(place);
    } else {
      items.put(place, item);
    }
  }

  /**
   * The rulebook in its one order: the organisation, units and kinds by id; rules in the table's
   * order, guarantees by id. Layers with nothing in them are left out.
   */
  public Rulebook rulebook() {
    Set<Scope> scopes = new LinkedHashSet<>();
    items.keySet().forEach(place -> scopes.add(place.layer()));
    List<Layer> layers = new ArrayList<>();
    for (Scope scope : ordered(scopes)) {
      List<Rule> rules = new ArrayList<>();
      List<Guarantee> guarantees = new ArrayList<>();
      items.forEach(
          (place, item) -> {
            if (place.layer().equals(scope)) {
              if (item instanceof Rule rule) {
                rules.add(rule);
              } else if (item instanceof Guarantee guarantee) {
                guarantees.add(guarantee);
              }
            }
          });
      rules.sort(Comparator.comparing(Rule::control));
      guarantees.sort(Comparator.comparing(Guarantee::id));
      layers.add(new Layer(scope, rules, guarantees));
    }
    return new Rulebook(layers);
  }

  /** The same rulebook in its one order. */
  public static Rulebook ordered(Rulebook rulebook) {
    return new RulebookItems(rulebook).rulebook();
  }

  static List<Scope> ordered(Collection<Scope> scopes) {
    return scopes.stream().sorted(SCOPES).toList();
  }

  static Layer layer(Rulebook rulebook, Scope scope) {
    for (Layer layer : rulebook.layers()) {
      if (layer.scope().equals(scope)) {
        return layer;
      }
    }
    return new Layer(scope, List.of(), List.of());
  }

  static @Nullable Guarantee guarantee(Layer layer, String id) {
    for (Guarantee guarantee : layer.guarantees()) {
      if (guarantee.id().equals(id)) {
        return guarantee;
      }
    }
    return null;
  }

  /** Puts my work and theirs, both begun from a base, together item by item. */
  public static Merged merge(Rulebook base, Rulebook mine, Rulebook theirs) {
    RulebookItems from = new RulebookItems(base);
    RulebookItems ours = new RulebookItems(mine);
    RulebookItems other = new RulebookItems(theirs);
    Set<Place> places = new LinkedHashSet<>(ours.items.keySet());
    places.addAll(other.items.keySet());
    places.addAll(from.items.keySet());
    RulebookItems merged = new RulebookItems(Rulebook.EMPTY);
    List<Collision> collisions = new ArrayList<>();
    for (Place place : places) {
      Object was = from.at(place);
      Object my = ours.at(place);
      Object their = other.at(place);
      boolean changedMine = !Objects.equals(was, my);
      boolean changedTheirs = !Objects.equals(was, their);
      if (changedMine && changedTheirs && !Objects.equals(my, their)) {
        collisions.add(new Collision(place, my, their));
      }
      merged.put(place, changedMine ? my : their);
    }
    return new Merged(merged.rulebook(), List.copyOf(collisions));
  }
}
