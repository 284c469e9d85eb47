package app.uprightwarden.server.scim;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ContentTooLargeException;
import com.unboundid.scim2.common.exceptions.ScimException;
import com.unboundid.scim2.common.utils.JsonUtils;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/**
 * Many changes in one request (RFC 7644 section 3.7), each by itself: what was done stays done
 * where a later one fails. What names another by its {@code bulkId} waits until that was made;
 * Groups that name each other are made first and then hold each other.
 */
@Service
class ScimBulk {
  static final String REQUEST = "urn:ietf:params:scim:api:messages:2.0:BulkRequest";
  static final String RESPONSE = "urn:ietf:params:scim:api:messages:2.0:BulkResponse";

  private static final int MAX_OPERATIONS = 1_000;
  private static final Pattern NAMED = Pattern.compile("bulkId:([^\"/\\s]{1,200})");

  private final ScimUsers users;
  private final ScimGroups groups;

  ScimBulk(ScimUsers users, ScimGroups groups) {
    this.users = users;
    this.groups = groups;
  }

  /** An operation, and what it was answered. */
  private static final class Operation {
    final ObjectNode given;
    final String method;
    final String path;
    final String bulkId;
    @Nullable ObjectNode answer;

    /** Whose members this adds, where those were left for later. */
    @Nullable Operation completes;

    Operation(ObjectNode given) {
      this.given = given;
      this.method = ScimJson.text(given, "method").toUpperCase(Locale.ROOT);
      this.path = ScimJson.text(given, "path");
      this.bulkId = ScimJson.text(given, "bulkId");
    }
  }

  ObjectNode run(ObjectNode request) throws ScimException {
    ScimIds.checkSchema(request, REQUEST);
    JsonNode given = request.path("Operations");
    if (given.size() > MAX_OPERATIONS) {
      throw new ContentTooLargeException(
          "A bulk request has at most " + MAX_OPERATIONS + " operations.");
    }
    List<Operation> all = new ArrayList<>();
    for (JsonNode each : given) {
      if (!(each instanceof ObjectNode object)) {
        throw BadRequestException.invalidSyntax("An operation is an object.");
      }
      all.add(new Operation(object));
    }
    int failOnErrors = request.path("failOnErrors").asInt(0);
    Map<String, String> made = new HashMap<>();
    Set<String> promised = new HashSet<>();
    all.stream().filter(o -> o.method.equals("POST")).forEach(o -> promised.add(o.bulkId));
    Deque<Operation> open = new ArrayDeque<>(all);
    int waited = 0;
    int failed = 0;
    while (!open.isEmpty() && (failOnErrors <= 0 || failed < failOnErrors)) {
      Operation next = open.remove();
      Set<String> missing = missing(next, made.keySet());
      boolean mayCome = !missing.isEmpty() && promised.containsAll(missing);
      boolean isStuck = waited > open.size();
      if (mayCome && !isStuck) {
        open.add(next);
        waited++;
        continue;
      }
      waited = 0;
      if (mayCome && makeFirst(next, made, open)) {
        continue;
      }
      next.answer = answer(next, made);
      promised.remove(next.bulkId);
      if (next.answer.path("status").asInt() >= 400) {
        failed++;
        tell(next);
      }
    }
    ObjectNode response = ScimJson.object();
    response.putArray("schemas").add(RESPONSE);
    ArrayNode answers = response.putArray("Operations");
    all.forEach(
        each -> {
          if (each.answer != null) {
            answers.add(each.answer);
          }
        });
    return response;
  }

  /** A Group that was made and could not be given its members is not said to be done. */
  private static void tell(Operation failed) {
    Operation of = failed.completes;
    if (of != null && of.answer != null && failed.answer != null) {
      of.answer.set("status", failed.answer.path("status"));
      of.answer.set("response", failed.answer.path("response"));
      of.answer.remove("version");
    }
  }

  private static Set<String> missing(Operation of, Set<String> made) {
    Set<String> missing = new HashSet<>();
    Matcher named = NAMED.matcher(of.path + " " + ScimJson.write(of.given.path("data")));
    while (named.find()) {
      if (!made.contains(named.group(1))) {
        missing.add(named.group(1));
      }
    }
    return missing;
  }

  /** A Group in a circle is made without its members, which it gets once they are there. */
  private boolean makeFirst(Operation of, Map<String, String> made, Deque<Operation> open) {
    if (!of.method.equals("POST") || !of.path.equalsIgnoreCase("/Groups")) {
      return false;
    }
    ObjectNode without = of.given.deepCopy();
    if (without.path("data") instanceof ObjectNode data && data.has("members")) {
      JsonNode members = data.remove("members");
      Operation first = new Operation(without);
      of.answer = answer(first, made);
      if (of.answer.path("status").asInt() < 300) {
        ObjectNode later = ScimJson.object();
        later.put("method", "PATCH");
        later.put("path", "/Groups/" + made.get(of.bulkId));
        ObjectNode patch = later.putObject("data");
        patch.putArray("schemas").add(ScimJson.PATCH);
        patch
            .putArray("Operations")
            .addObject()
            .put("op", "add")
            .put("path", "members")
            .set("value", members);
        Operation rest = new Operation(later);
        rest.completes = of;
        open.add(rest);
      }
      return true;
    }
    return false;
  }

  private ObjectNode answer(Operation of, Map<String, String> made) {
    ObjectNode answer = ScimJson.object();
    answer.put("method", of.method);
    if (!of.bulkId.isEmpty()) {
      answer.put("bulkId", of.bulkId);
    }
    try {
      done(of, made, answer);
    } catch (ScimException e) {
      answer.put("status", Integer.toString(e.getScimError().getStatus()));
      answer.set(
          "response",
          ScimJson.error(
              e.getScimError().getStatus(),
              e.getScimError().getScimType(),
              e.getScimError().getDetail()));
    }
    return answer;
  }

  private void done(Operation of, Map<String, String> made, ObjectNode answer)
      throws ScimException {
    String path = resolved(of.path, made);
    String[] parts = path.split("/");
    ScimResources resources = parts.length > 1 ? of(parts[1]) : null;
    if (resources == null || parts.length > 3) {
      throw BadRequestException.invalidPath("There is no " + of.path + " to do that to.");
    }
    String match = ScimJson.text(of.given, "version");
    ObjectNode data =
        of.given.path("data") instanceof ObjectNode object
            ? (ObjectNode) resolved(object, made)
            : ScimJson.object();
    if (of.method.equals("POST") && parts.length == 2) {
      if (of.bulkId.isEmpty()) {
        throw BadRequestException.invalidSyntax("A POST has a bulkId.");
      }
      ObjectNode resource = resources.create(data);
      made.put(of.bulkId, ScimJson.text(resource, "id"));
      said(answer, resource, 201);
    } else if (parts.length == 3) {
      switch (of.method) {
        case "PUT" -> said(answer, resources.replace(parts[2], data, match), 200);
        case "PATCH" -> said(answer, resources.patch(parts[2], data, match), 200);
        case "DELETE" -> {
          resources.delete(parts[2], match);
          answer.put("status", "204");
          answer.put("location", ScimIds.BASE + path);
        }
        default -> throw BadRequestException.invalidSyntax("A method is POST, PUT, PATCH, DELETE.");
      }
    } else {
      throw BadRequestException.invalidPath(of.method + " is not done to " + of.path + ".");
    }
  }

  private @Nullable ScimResources of(String name) {
    return switch (name.toLowerCase(Locale.ROOT)) {
      case "users" -> users;
      case "groups" -> groups;
      default -> null;
    };
  }

  private static void said(ObjectNode answer, ObjectNode resource, int status) {
    answer.put("status", Integer.toString(status));
    answer.set("location", resource.path("meta").path("location"));
    answer.set("version", resource.path("meta").path("version"));
  }

  private static String resolved(String text, Map<String, String> made) {
    Matcher named = NAMED.matcher(text);
    return named.replaceAll(
        found -> Matcher.quoteReplacement(made.getOrDefault(found.group(1), found.group())));
  }

  private static JsonNode resolved(ObjectNode data, Map<String, String> made) {
    ObjectNode copy = data.deepCopy();
    made.forEach((bulkId, id) -> JsonUtils.replaceAllTextValues(copy, "bulkId:" + bulkId, id));
    return copy;
  }
}
