package app.uprightwarden.standins;

import java.util.Map;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.JsonNodeFactory;
import tools.jackson.databind.node.ObjectNode;

/** JSON Merge Patch, RFC 7396 section 2. */
final class MergePatch {
  private MergePatch() {}

  /** The target with the patch applied; neither is changed. */
  static JsonNode apply(JsonNode target, JsonNode patch) {
    if (!(patch instanceof ObjectNode wanted)) {
      return patch;
    }
    ObjectNode result =
        target instanceof ObjectNode object
            ? object.deepCopy()
            : JsonNodeFactory.instance.objectNode();
    for (Map.Entry<String, JsonNode> each : wanted.properties()) {
      if (each.getValue().isNull()) {
        result.remove(each.getKey());
      } else {
        result.set(each.getKey(), apply(result.path(each.getKey()), each.getValue()));
      }
    }
    return result;
  }
}
