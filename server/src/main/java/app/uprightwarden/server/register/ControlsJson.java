package app.uprightwarden.server.register;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.rulebook.RulebookReader;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tools.jackson.databind.JsonNode;

/** Values of controls from and to their JSON form. */
public final class ControlsJson {
  private ControlsJson() {}

  /** The plain form, in the table's order. */
  public static Map<String, Object> plain(ControlValues values) {
    Map<String, Object> plain = new LinkedHashMap<>();
    values.asMap().forEach((control, value) -> plain.put(control.id(), control.plain(value)));
    return plain;
  }

  /** Reads a map of controls, adding a fault for each key or value that the table does not have. */
  public static ControlValues read(JsonNode node, String pointer, List<Fault> faults) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    for (Map.Entry<String, JsonNode> entry : node.properties()) {
      Control control = Control.byId(entry.getKey());
      String at = pointer + "/" + entry.getKey();
      if (control == null) {
        faults.add(new Fault(at, "there is no such control"));
        continue;
      }
      try {
        values.put(control, control.parse(RulebookReader.plain(entry.getValue())));
      } catch (IllegalArgumentException e) {
        faults.add(new Fault(at, String.valueOf(e.getMessage())));
      }
    }
    return ControlValues.of(values);
  }

  /** A value's plain form from its text, as tables and calendars have it. */
  public static Object fromText(Control control, String text) {
    String value = text.strip();
    if (control.scale() instanceof Scale.Sets) {
      return value.equals("all") || value.isEmpty()
          ? List.of()
          : Arrays.stream(value.split(",")).map(String::strip).toList();
    }
    return value.matches("\\d{1,6}") ? (Object) Integer.valueOf(value) : value;
  }

  /** The text of a plain value: a set's names apart by commas, {@code all} where it has none. */
  public static String text(Object plain) {
    return plain instanceof List<?> names
        ? names.isEmpty() ? "all" : String.join(",", names.stream().map(String::valueOf).toList())
        : String.valueOf(plain);
  }
}
