package app.uprightwarden.server.rulebook;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.InvalidValueException;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Guarantee;
import app.uprightwarden.core.rulebook.InvalidRuleException;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.core.rulebook.Mode;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.server.problem.Fault;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.JsonNodeFactory;

/**
 * Reads the bundle's rulebook part, whose shape its schema has already checked, and gathers what is
 * wrong with it, each with its pointer.
 */
public final class RulebookReader {
  private final List<Fault> faults;
  private final Predicate<String> unitExists;
  private final Predicate<String> kindExists;

  public RulebookReader(
      List<Fault> faults, Predicate<String> unitExists, Predicate<String> kindExists) {
    this.faults = faults;
    this.unitExists = unitExists;
    this.kindExists = kindExists;
  }

  /** The rulebook, as far as it can be read. */
  public Rulebook read(JsonNode node, String pointer) {
    List<Layer> layers = new ArrayList<>();
    Set<Scope> scopes = new HashSet<>();
    Set<String> guaranteeIds = new HashSet<>();
    JsonNode list = node.path("layers");
    for (int i = 0; i < list.size(); i++) {
      String at = pointer + "/layers/" + i;
      Scope scope = scope(list.get(i).path("scope"), at + "/scope");
      if (scope != null && !scopes.add(scope)) {
        fault(at + "/scope", "there is a layer for " + scope + " already");
        continue;
      }
      List<Rule> rules = rules(list.get(i).path("rules"), at + "/rules");
      List<Guarantee> guarantees =
          guarantees(list.get(i).path("guarantees"), at + "/guarantees", guaranteeIds);
      if (scope != null) {
        layers.add(new Layer(scope, rules, guarantees));
      }
    }
    return new Rulebook(layers);
  }

  /** One rule by itself; null where it is none. */
  public @Nullable Rule readRule(JsonNode node, String pointer) {
    return rule(node, pointer);
  }

  /** One guarantee by itself; null where it is none. */
  public @Nullable Guarantee readGuarantee(JsonNode node, String pointer) {
    ArrayNode one = JsonNodeFactory.instance.arrayNode().add(node);
    List<Guarantee> read = guarantees(one, pointer, new HashSet<>());
    return read.isEmpty() ? null : read.get(0);
  }

  private @Nullable Scope scope(JsonNode node, String at) {
    String level = node.path("level").stringValue("");
    String id = node.path("id").stringValue(null);
    switch (level) {
      case "organisation":
        if (id != null) {
          fault(at + "/id", "the organisation's layer has no id");
        }
        return Scope.ORGANISATION;
      case "unit":
        return named(id, unitExists, at, "unit") ? Scope.unit(String.valueOf(id)) : null;
      case "kind":
        return named(id, kindExists, at, "kind") ? Scope.kind(String.valueOf(id)) : null;
      default:
        fault(at + "/level", "must be organisation, unit or kind");
        return null;
    }
  }

  private boolean named(@Nullable String id, Predicate<String> exists, String at, String what) {
    if (id == null) {
      fault(at, "a " + what + "'s layer names its id");
      return false;
    }
    if (!exists.test(id)) {
      fault(at + "/id", "there is no " + what + " \"" + id + "\"");
      return false;
    }
    return true;
  }

  private List<Rule> rules(JsonNode list, String pointer) {
    List<Rule> rules = new ArrayList<>();
    Set<Control> seen = new HashSet<>();
    for (int i = 0; i < list.size(); i++) {
      String at = pointer + "/" + i;
      Rule rule = rule(list.get(i), at);
      if (rule != null && !seen.add(rule.control())) {
        fault(at + "/control", "this layer has a rule for " + rule.control().id() + " already");
      } else if (rule != null) {
        rules.add(rule);
      }
    }
    return rules;
  }

  private @Nullable Rule rule(JsonNode node, String at) {
    Control control = Control.byId(node.path("control").stringValue(null));
    if (control == null) {
      fault(at + "/control", "there is no such control");
      return null;
    }
    Mode mode;
    try {
      mode = Mode.valueOf(node.path("mode").stringValue("").toUpperCase(Locale.ROOT));
    } catch (IllegalArgumentException e) {
      fault(at + "/mode", "must be suggest, bound or fix");
      return null;
    }
    Value start = value(control, node, mode == Mode.FIX ? "value" : "start", at);
    Value limit = mode == Mode.BOUND ? value(control, node, "limit", at) : null;
    if (start == null || (mode == Mode.BOUND && limit == null)) {
      return null;
    }
    for (String foreign : foreignParts(mode)) {
      if (node.has(foreign)) {
        fault(at + "/" + foreign, "a " + mode.id() + " rule has no " + foreign);
      }
    }
    try {
      return new Rule(
          control,
          mode,
          start,
          mode == Mode.FIX ? start : limit,
          node.path("sealed").booleanValue(false),
          node.path("importance").intValue(Rule.DEFAULT_IMPORTANCE),
          node.path("reason").stringValue(""));
    } catch (InvalidRuleException e) {
      fault(at + "/" + e.part(), String.valueOf(e.getMessage()));
      return null;
    }
  }

  private static List<String> foreignParts(Mode mode) {
    return switch (mode) {
      case SUGGEST -> List.of("limit", "value");
      case BOUND -> List.of("value");
      case FIX -> List.of("start", "limit");
    };
  }

  private @Nullable Value value(Control control, JsonNode node, String part, String at) {
    JsonNode plain = node.get(part);
    if (plain == null) {
      fault(at, "\"" + part + "\" is missing");
      return null;
    }
    try {
      return control.parse(plain(plain));
    } catch (InvalidValueException e) {
      fault(at + "/" + part, String.valueOf(e.getMessage()));
      return null;
    }
  }

  private List<Guarantee> guarantees(JsonNode list, String pointer, Set<String> ids) {
    List<Guarantee> guarantees = new ArrayList<>();
    for (int i = 0; i < list.size(); i++) {
      JsonNode node = list.get(i);
      String at = pointer + "/" + i;
      String id = node.path("id").stringValue("");
      if (!ids.add(id)) {
        fault(at + "/id", "the id \"" + id + "\" is used twice");
      }
      List<Persona> who = new ArrayList<>();
      each(node.path("who"), at + "/who", Persona::byId, who, "persona");
      List<Right> rights = new ArrayList<>();
      each(node.path("rights"), at + "/rights", Right::byId, rights, "right");
      Level ceiling = Level.byId(node.path("ceiling").stringValue(""));
      if (ceiling == null) {
        fault(at + "/ceiling", "there is no such level");
      } else if (!who.isEmpty() && !rights.isEmpty()) {
        int importance = node.path("importance").intValue(Rule.DEFAULT_IMPORTANCE);
        String reason = node.path("reason").stringValue("");
        guarantees.add(new Guarantee(id, who, rights, ceiling, importance, reason));
      }
    }
    return guarantees;
  }

  private <T> void each(
      JsonNode list,
      String pointer,
      java.util.function.Function<String, @Nullable T> byId,
      List<T> into,
      String what) {
    for (int i = 0; i < list.size(); i++) {
      String id = list.get(i).stringValue("");
      T found = byId.apply(id);
      if (found == null) {
        fault(pointer + "/" + i, "there is no " + what + " \"" + id + "\"");
      } else {
        into.add(found);
      }
    }
  }

  /** A JSON value as a control takes it: text, whole number or list of texts. */
  public static @Nullable Object plain(JsonNode node) {
    if (node.isArray()) {
      List<@Nullable Object> list = new ArrayList<>();
      node.forEach(n -> list.add(n.isString() ? n.stringValue() : n.toString()));
      return list;
    }
    if (node.isNumber()) {
      return node.numberValue();
    }
    return node.isString() ? node.stringValue() : null;
  }

  private void fault(String pointer, String message) {
    faults.add(new Fault(pointer, message));
  }
}
