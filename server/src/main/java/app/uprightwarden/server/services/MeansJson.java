package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.rulebook.RulebookReader;
import java.util.EnumMap;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Reads what a service says that it can hold. */
final class MeansJson {
  private static final int MAX_VALUES = 300;

  private MeansJson() {}

  /**
   * Reads {@code {"waiting-room": {"values": ["off", "on"], "instead": {}, "read": ["meeting"],
   * "write": ["meeting"]}}}; without {@code values} it has all.
   *
   * @throws ServiceTrouble where that is not its shape
   */
  static Means read(JsonNode controls) throws ServiceTrouble {
    Map<Control, Means.Holds> means = new EnumMap<>(Control.class);
    for (Map.Entry<String, JsonNode> entry : controls.properties()) {
      Control control = Control.byId(entry.getKey());
      if (control == null) {
        continue; // a control of a later version
      }
      try {
        means.put(control, holds(control, entry.getValue()));
      } catch (IllegalArgumentException e) {
        throw new ServiceTrouble(
            ServiceTrouble.Kind.AWAY,
            "says of " + control.title() + " what cannot be read: " + e.getMessage());
      }
    }
    return new Means(means);
  }

  private static Means.Holds holds(Control control, JsonNode of) {
    Map<Value, Value> instead = new HashMap<>();
    for (Map.Entry<String, JsonNode> entry : of.path("instead").properties()) {
      instead.put(
          control.parse(number(entry.getKey())),
          control.parse(RulebookReader.plain(entry.getValue())));
    }
    return new Means.Holds(
        of.has("values") ? values(control, of.path("values")) : null,
        instead,
        places(of.path("read")),
        places(of.path("write")));
  }

  private static Object number(String text) {
    return text.matches("\\d{1,6}") ? (Object) Integer.valueOf(text) : text;
  }

  private static @Nullable Set<Value> values(Control control, JsonNode list) {
    Set<Value> values = new HashSet<>();
    for (JsonNode value : list) {
      if (values.size() >= MAX_VALUES) {
        throw new IllegalArgumentException("more than " + MAX_VALUES + " values");
      }
      values.add(control.parse(RulebookReader.plain(value)));
    }
    return values;
  }

  private static Set<Means.Place> places(JsonNode list) {
    Set<Means.Place> places = EnumSet.noneOf(Means.Place.class);
    list.forEach(
        node -> places.add(Means.Place.valueOf(node.stringValue("").toUpperCase(Locale.ROOT))));
    return places;
  }

  /** The same shape again, as it is kept and shown. */
  static Map<String, Object> write(Means means) {
    Map<String, Object> controls = new LinkedHashMap<>();
    for (Control control : Control.all()) {
      Means.Holds holds = means.controls().get(control);
      if (holds != null) {
        Map<String, Object> of = new LinkedHashMap<>();
        Set<Value> values = holds.values();
        if (values != null) {
          of.put("values", values.stream().map(control::plain).sorted(MeansJson::compare).toList());
        }
        Map<String, Object> instead = new java.util.TreeMap<>();
        holds
            .instead()
            .forEach(
                (from, to) -> instead.put(String.valueOf(control.plain(from)), control.plain(to)));
        of.put("instead", instead);
        of.put("read", holds.readable().stream().map(Means.Place::id).sorted().toList());
        of.put("write", holds.writable().stream().map(Means.Place::id).sorted().toList());
        controls.put(control.id(), of);
      }
    }
    return controls;
  }

  private static int compare(Object one, Object other) {
    return String.valueOf(one).compareTo(String.valueOf(other));
  }
}
