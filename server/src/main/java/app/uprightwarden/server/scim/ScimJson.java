package app.uprightwarden.server.scim;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.messages.PatchOperation;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.security.NoSuchAlgorithmException;
import java.util.ArrayList;
import java.util.HexFormat;
import java.util.Iterator;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Documents of SCIM as they are read and written (RFC 7643, RFC 7644). */
final class ScimJson {
  static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  static final String ENTERPRISE = "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";
  static final String PATCH = "urn:ietf:params:scim:api:messages:2.0:PatchOp";
  static final String LIST = "urn:ietf:params:scim:api:messages:2.0:ListResponse";
  static final String ERROR = "urn:ietf:params:scim:api:messages:2.0:Error";

  private static final int MAX_OPERATIONS = 1_000;

  private ScimJson() {}

  static ObjectNode object() {
    return JsonUtils.getJsonNodeFactory().objectNode();
  }

  /**
   * A body that has to be an object.
   *
   * @throws BadRequestException {@code invalidSyntax} where it is none
   */
  static ObjectNode read(byte[] body) throws ScimException {
    try {
      if (JsonUtils.getObjectReader().readTree(body) instanceof ObjectNode object) {
        return object;
      }
    } catch (IOException e) {
      throw BadRequestException.invalidSyntax("The body is not JSON (RFC 8259).");
    }
    throw BadRequestException.invalidSyntax("The body is a JSON object.");
  }

  static ObjectNode parse(String stored) {
    try {
      return (ObjectNode) JsonUtils.getObjectReader().readTree(stored);
    } catch (IOException e) {
      throw new IllegalStateException("what is stored was written here", e);
    }
  }

  static String write(JsonNode document) {
    try {
      return JsonUtils.getObjectWriter().writeValueAsString(document);
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a tree can be written", e);
    }
  }

  /** A text of an object; empty where there is none. */
  static String text(JsonNode of, String name) {
    JsonNode value = of.path(name);
    return value.isTextual() ? value.textValue().strip() : "";
  }

  /**
   * True or false, also as some directories write it, as a text.
   *
   * @throws BadRequestException {@code invalidValue} where it is neither
   */
  static @Nullable Boolean truth(JsonNode of, String name) throws BadRequestException {
    JsonNode value = of.path(name);
    if (value.isMissingNode() || value.isNull()) {
      return null;
    }
    String text = value.isTextual() ? value.textValue().strip().toLowerCase(Locale.ROOT) : "";
    if (value.isBoolean()) {
      return value.booleanValue();
    }
    if (text.equals("true") || text.equals("false")) {
      return text.equals("true");
    }
    throw BadRequestException.invalidValue(name + " is true or false.");
  }

  /** Changes with each change of the resource (RFC 7644 section 3.14). */
  static String version(ObjectNode resource) {
    ObjectNode without = resource.deepCopy();
    without.remove("meta");
    try {
      byte[] sum =
          MessageDigest.getInstance("SHA-256")
              .digest(write(without).getBytes(StandardCharsets.UTF_8));
      return "W/\"" + HexFormat.of().formatHex(sum, 0, 10) + '"';
    } catch (NoSuchAlgorithmException e) {
      throw new IllegalStateException("every Java has SHA-256", e);
    }
  }

  /**
   * Does the operations of a patch one after the other (RFC 7644 section 3.5.2).
   *
   * @throws ScimException where one cannot be done; the resource is of no use then
   */
  static void patch(ObjectNode resource, ObjectNode request) throws ScimException {
    JsonNode operations = request.path("Operations");
    if (!operations.isArray() || operations.isEmpty()) {
      throw BadRequestException.invalidSyntax("A patch has Operations.");
    }
    if (operations.size() > MAX_OPERATIONS) {
      throw BadRequestException.tooMany("A patch has at most " + MAX_OPERATIONS + " operations.");
    }
    for (JsonNode each : operations) {
      operation(each).apply(resource);
    }
  }

  private static PatchOperation operation(JsonNode given) throws ScimException {
    if (!(given instanceof ObjectNode object)) {
      throw BadRequestException.invalidSyntax("An operation is an object.");
    }
    ObjectNode operation = object.deepCopy();
    // the words are written in lower case; some directories capitalise them (common practice)
    operation.put("op", text(operation, "op").toLowerCase(Locale.ROOT));
    if (operation.path("path").isTextual()) {
      operation.put("path", ScimIds.plain(text(operation, "path")));
    }
    try {
      return JsonUtils.nodeToValue(operation, PatchOperation.class);
    } catch (JsonProcessingException e) {
      if (e.getCause() instanceof ScimException why) {
        throw why;
      }
      throw BadRequestException.invalidSyntax("An operation has op, and path or value.");
    }
  }

  /**
   * Only what is asked for (RFC 7644 section 3.9): {@code id} and {@code schemas} come always.
   *
   * @param attributes names apart by commas, or null for all
   * @param excluded names to leave out, or null
   */
  static ObjectNode only(
      ObjectNode resource, @Nullable String attributes, @Nullable String excluded) {
    if (attributes != null && !attributes.isBlank()) {
      Set<String> wanted = names(attributes);
      ObjectNode some = object();
      resource
          .properties()
          .forEach(
              each -> {
                String name = each.getKey().toLowerCase(Locale.ROOT);
                if (name.equals("id") || name.equals("schemas") || wanted.contains(name)) {
                  some.set(each.getKey(), each.getValue());
                }
              });
      return some;
    }
    if (excluded != null && !excluded.isBlank()) {
      Set<String> without = names(excluded);
      without.remove("id");
      without.remove("schemas");
      ObjectNode some = resource.deepCopy();
      for (Iterator<String> i = some.fieldNames(); i.hasNext(); ) {
        if (without.contains(i.next().toLowerCase(Locale.ROOT))) {
          i.remove();
        }
      }
      return some;
    }
    return resource;
  }

  /** The names of whole attributes; of {@code name.givenName} the whole {@code name} is given. */
  private static Set<String> names(String list) {
    Set<String> names = new LinkedHashSet<>();
    for (String each : list.split(",")) {
      String name = each.strip().toLowerCase(Locale.ROOT);
      String enterprise = ENTERPRISE.toLowerCase(Locale.ROOT);
      if (name.startsWith(enterprise)) {
        names.add(enterprise);
      } else {
        String short1 = name.startsWith("urn:") ? name.substring(name.lastIndexOf(':') + 1) : name;
        names.add(short1.contains(".") ? short1.substring(0, short1.indexOf('.')) : short1);
      }
    }
    return names;
  }

  /** A list response (RFC 7644 section 3.4.2). */
  static ObjectNode list(int total, int startIndex, List<ObjectNode> page) {
    ObjectNode list = object();
    list.putArray("schemas").add(LIST);
    list.put("totalResults", total);
    list.put("startIndex", startIndex);
    list.put("itemsPerPage", page.size());
    ArrayNode resources = list.putArray("Resources");
    page.forEach(resources::add);
    return list;
  }

  /** An error (RFC 7644 section 3.12). */
  static ObjectNode error(int status, @Nullable String scimType, @Nullable String detail) {
    ObjectNode error = object();
    error.putArray("schemas").add(ERROR);
    error.put("status", Integer.toString(status));
    if (scimType != null) {
      error.put("scimType", scimType);
    }
    if (detail != null) {
      error.put("detail", detail);
    }
    return error;
  }

  static List<String> texts(JsonNode array, String name) {
    List<String> texts = new ArrayList<>();
    array.forEach(each -> texts.add(text(each, name)));
    return texts;
  }
}
