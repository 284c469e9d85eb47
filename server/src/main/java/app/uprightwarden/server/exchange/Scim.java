package app.uprightwarden.server.exchange;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;
import tools.jackson.databind.JsonNode;

/**
 * People and lists from SCIM 2.0 resources in JSON (RFC 7643): one User or Group, an array of them,
 * or a list response (RFC 7644 section 3.4.2). Groups are lists.
 */
final class Scim {
  private static final String USER = "urn:ietf:params:scim:schemas:core:2.0:User";
  private static final String GROUP = "urn:ietf:params:scim:schemas:core:2.0:Group";
  private static final String ENTERPRISE =
      "urn:ietf:params:scim:schemas:extension:enterprise:2.0:User";

  private Scim() {}

  static boolean isScim(JsonNode document) {
    JsonNode first = document.isArray() && document.size() > 0 ? document.get(0) : document;
    for (JsonNode schema : first.path("schemas")) {
      if (schema.stringValue("").startsWith("urn:ietf:params:scim:")) {
        return true;
      }
    }
    return false;
  }

  static Ldif.Found read(JsonNode document, FoundPeople people) {
    List<JsonNode> groups = new ArrayList<>();
    Map<String, String> addresses = new HashMap<>();
    List<JsonNode> resources = new ArrayList<>();
    JsonNode listed = get(document, "Resources");
    JsonNode all = listed.isArray() ? listed : document;
    if (all.isArray()) {
      all.forEach(resources::add);
    } else {
      resources.add(all);
    }
    for (JsonNode resource : resources) {
      if (has(resource, USER)) {
        user(resource, people, addresses);
      } else if (has(resource, GROUP)) {
        groups.add(resource);
      } else {
        people.refuse("", text(resource, "id"), null, "it is neither a User nor a Group");
      }
    }
    return new Ldif.Found(
        people,
        FoundGroups.lists(
            groups.stream().map(Scim::group).toList(),
            Function.identity(),
            member -> addresses.getOrDefault(member, people.addressOf(member))));
  }

  private static boolean has(JsonNode resource, String schema) {
    for (JsonNode each : get(resource, "schemas")) {
      if (each.stringValue("").equalsIgnoreCase(schema)) {
        return true;
      }
    }
    return false;
  }

  private static void user(JsonNode user, FoundPeople people, Map<String, String> addresses) {
    String email = email(user);
    addresses.put(text(user, "id"), email);
    JsonNode name = get(user, "name");
    String formatted = text(name, "formatted");
    String parts = (text(name, "givenName") + " " + text(name, "familyName")).strip();
    String shown = text(user, "displayName");
    String sort = text(user, "userType").toLowerCase(Locale.ROOT);
    JsonNode active = get(user, "active");
    people.add(
        new FoundPeople.Raw(
            email,
            !shown.isEmpty()
                ? shown
                : !parts.isEmpty() ? parts : !formatted.isEmpty() ? formatted : null,
            sort.equals("guest") || sort.equals("member") ? sort : null,
            text(get(user, ENTERPRISE), "department"),
            // some write what is a boolean (RFC 7643 section 4.1.1) as text
            active.isBoolean() || active.isString() ? active.asString() : null,
            text(user, "timezone")),
        null);
  }

  /** The primary address, else one for work, else the first, else a user name that is one. */
  private static String email(JsonNode user) {
    String best = text(user, "userName");
    int rank = 0;
    for (JsonNode mail : get(user, "emails")) {
      int of =
          get(mail, "primary").booleanValue(false) ? 3 : text(mail, "type").equals("work") ? 2 : 1;
      if (of > rank) {
        rank = of;
        best = text(mail, "value");
      }
    }
    return best.strip();
  }

  private static FoundGroups.Nested group(JsonNode group) {
    List<String> members = new ArrayList<>();
    for (JsonNode member : get(group, "members")) {
      members.add(text(member, "value"));
    }
    String name = text(group, "displayName");
    String id = text(group, "id");
    return new FoundGroups.Nested(
        id.isEmpty() ? name : id, name.isEmpty() ? "List" : name, members);
  }

  /** Attribute names are compared without case (RFC 7643 section 2.1). */
  private static JsonNode get(JsonNode node, String name) {
    JsonNode exact = node.path(name);
    if (!exact.isMissingNode() || !node.isObject()) {
      return exact;
    }
    for (Map.Entry<String, JsonNode> entry : node.properties()) {
      if (entry.getKey().equalsIgnoreCase(name)) {
        return entry.getValue();
      }
    }
    return exact;
  }

  private static String text(JsonNode node, String name) {
    return get(node, name).stringValue("");
  }
}
