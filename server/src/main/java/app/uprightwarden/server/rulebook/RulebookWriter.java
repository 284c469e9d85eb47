package app.uprightwarden.server.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.drafting.RulebookItems;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Function;

/**
 * Writes the bundle's rulebook part in one order, so that equal rulebooks are equal texts and a
 * version control shows what changed and nothing else.
 */
public final class RulebookWriter {
  private RulebookWriter() {}

  /** The whole part, layers in their one order. */
  public static Map<String, Object> plain(Rulebook rulebook) {
    return Map.of(
        "layers",
        RulebookItems.ordered(rulebook).layers().stream().map(RulebookWriter::layer).toList());
  }

  private static Map<String, Object> layer(Layer layer) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("scope", scope(layer.scope()));
    map.put("rules", layer.rules().stream().map(RulebookWriter::plain).toList());
    if (!layer.guarantees().isEmpty()) {
      map.put("guarantees", layer.guarantees().stream().map(RulebookWriter::plain).toList());
    }
    return map;
  }

  private static Map<String, Object> scope(Scope scope) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("level", scope.level().id());
    if (scope.id() != null) {
      map.put("id", scope.id());
    }
    return map;
  }

  /** One rule. */
  public static Map<String, Object> plain(Rule rule) {
    Control control = rule.control();
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("control", control.id());
    map.put("mode", rule.mode().id());
    if (rule.mode() == Mode.FIX) {
      map.put("value", control.plain(rule.start()));
    } else {
      map.put("start", control.plain(rule.start()));
      if (rule.limit() != null) {
        map.put("limit", control.plain(rule.limit()));
      }
    }
    if (rule.sealed()) {
      map.put("sealed", true);
    }
    map.put("importance", rule.importance());
    if (!rule.reason().isEmpty()) {
      map.put("reason", rule.reason());
    }
    return map;
  }

  /** One guarantee. */
  public static Map<String, Object> plain(Guarantee guarantee) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("id", guarantee.id());
    map.put("who", ids(Persona.all(), guarantee.who(), Persona::id));
    map.put("rights", ids(Right.all(), guarantee.rights(), Right::id));
    map.put("ceiling", guarantee.ceiling().id());
    map.put("importance", guarantee.importance());
    if (!guarantee.reason().isEmpty()) {
      map.put("reason", guarantee.reason());
    }
    return map;
  }

  private static <T> List<String> ids(List<T> inOrder, List<T> some, Function<T, String> id) {
    return inOrder.stream().filter(some::contains).map(id).toList();
  }
}
