package app.uprightwarden.server.ledger;

import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/** Takes secrets out of what is written down. */
final class Secrets {
  static final String MASK = "•";

  private static final Pattern NAMES =
      Pattern.compile("pass(code|word|phrase)?|.*secret.*|.*token.*|.*passwo?r?d.*|current|code");

  /** The control of the same name as the secret: whether one is asked for. */
  private static final Set<String> CONTROL_WORDS = Set.of("none", "required");

  private Secrets() {}

  /** The same without passcodes, passwords and tokens; the values of controls stay. */
  static JsonNode masked(JsonNode node) {
    if (node instanceof ObjectNode object) {
      for (String name : object.propertyNames().stream().toList()) {
        JsonNode value = object.get(name);
        boolean isSecret =
            value.isString()
                && NAMES.matcher(name.toLowerCase(Locale.ROOT)).matches()
                && !CONTROL_WORDS.contains(value.stringValue());
        if (isSecret) {
          object.put(name, MASK);
        } else {
          masked(value);
        }
      }
    } else if (node instanceof ArrayNode array) {
      array.forEach(Secrets::masked);
    }
    return node;
  }
}
