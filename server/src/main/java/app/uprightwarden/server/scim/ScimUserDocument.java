package app.uprightwarden.server.scim;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.server.people.Organisation;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import com.unboundid.scim2.common.exceptions.BadRequestException;
import com.unboundid.scim2.common.exceptions.ScimException;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Supplier;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** A person written as a SCIM User (RFC 7643 section 4.1), and the person that such a one says. */
final class ScimUserDocument {
  private static final Pattern EMAIL = Pattern.compile("[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}");
  private static final int MAX_DOCUMENT = 16_000;
  private static final int MAX_NAME = 200;

  /** Of no use here, or nothing that may be kept. */
  private static final Set<String> NOT_KEPT =
      Set.of("id", "meta", "schemas", "groups", "password", "x509certificates", "photos");

  private ScimUserDocument() {}

  /** Its externalId; null where it has none. */
  static @Nullable String external(JsonNode given) throws BadRequestException {
    String external = ScimJson.text(given, "externalId");
    if (external.length() > 254) {
      throw BadRequestException.invalidValue("An externalId has 254 characters at most.");
    }
    return external.isEmpty() ? null : external;
  }

  /**
   * What of it is kept with the person.
   *
   * @throws BadRequestException where that is more than {@value #MAX_DOCUMENT} characters
   */
  static ObjectNode kept(ObjectNode given) throws BadRequestException {
    ObjectNode kept = ScimJson.object();
    given
        .properties()
        .forEach(
            each -> {
              String name = each.getKey();
              boolean isOurs =
                  !name.startsWith("urn:") || name.equalsIgnoreCase(ScimJson.ENTERPRISE);
              if (isOurs && !NOT_KEPT.contains(name.toLowerCase(Locale.ROOT))) {
                kept.set(name, each.getValue());
              }
            });
    if (ScimJson.write(kept).length() > MAX_DOCUMENT) {
      throw BadRequestException.invalidValue("A User has at most " + MAX_DOCUMENT + " characters.");
    }
    return kept;
  }

  /**
   * The address that it is known by: the userName where that is one, else the primary mail address
   * or the first.
   */
  static String address(JsonNode given) throws BadRequestException {
    String userName = ScimJson.text(given, "userName");
    if (userName.isEmpty() || userName.length() > 254) {
      throw BadRequestException.invalidValue("A User has a userName of 1 to 254 characters.");
    }
    if (EMAIL.matcher(userName).matches()) {
      return userName;
    }
    String first = "";
    for (JsonNode each : given.path("emails")) {
      String value = ScimJson.text(each, "value");
      if (first.isEmpty() || each.path("primary").booleanValue()) {
        first = value;
      }
    }
    if (!EMAIL.matcher(first).matches()) {
      throw BadRequestException.invalidValue(
          "People are known by their mail address: userName is one, or emails has one.");
    }
    return first;
  }

  /**
   * The person that a document describes.
   *
   * @param before the person as they are; null where it is a new one
   * @param units those that there are
   * @param domains which mail domains are the organisation's; asked for only where nothing else
   *     says who is a guest
   * @param patched the resource before it was patched, or null where it was given whole
   */
  static Person person(
      ObjectNode given,
      @Nullable Person before,
      List<Organisation.Unit> units,
      Supplier<List<String>> domains,
      @Nullable ObjectNode patched)
      throws ScimException {
    Boolean active = ScimJson.truth(given, "active");
    String name = name(given, before, patched);
    return new Person(
        before != null && Directory.fold(before.email()).equals(Directory.fold(address(given)))
            ? before.email()
            : address(given),
        name,
        standing(given, before, domains),
        unit(given, before, units),
        active != null ? active : before == null || before.active());
  }

  /** In a patch whatever of the name was changed counts; else the name that is shown goes first. */
  private static String name(
      ObjectNode given, @Nullable Person before, @Nullable ObjectNode patched)
      throws BadRequestException {
    String shown = ScimJson.text(given, "displayName");
    JsonNode parts = given.path("name");
    String formatted = ScimJson.text(parts, "formatted");
    String composed =
        (ScimJson.text(parts, "givenName") + " " + ScimJson.text(parts, "familyName")).strip();
    boolean onlyParts =
        patched != null
            && shown.equals(ScimJson.text(patched, "displayName"))
            && !parts.equals(patched.path("name"));
    boolean partsAlone =
        onlyParts
            && patched != null
            && formatted.equals(ScimJson.text(patched.path("name"), "formatted"));
    List<String> order =
        partsAlone
            ? List.of(composed, formatted, shown)
            : onlyParts ? List.of(formatted, composed, shown) : List.of(shown, formatted, composed);
    String name =
        order.stream()
            .filter(each -> !each.isEmpty())
            .findFirst()
            .orElse(before == null ? address(given) : before.name());
    if (name.length() > MAX_NAME) {
      throw BadRequestException.invalidValue("A name has 1 to " + MAX_NAME + " characters.");
    }
    return name;
  }

  private static Standing standing(
      ObjectNode given, @Nullable Person before, Supplier<List<String>> domains)
      throws ScimException {
    String type = ScimJson.text(given, "userType");
    if (!type.isEmpty()) {
      return type.equalsIgnoreCase("guest") ? Standing.GUEST : Standing.MEMBER;
    }
    if (before != null) {
      return before.standing();
    }
    String domain = address(given).replaceFirst("^.*@", "");
    boolean isOurs = domains.get().stream().anyMatch(domain::equalsIgnoreCase);
    return isOurs ? Standing.MEMBER : Standing.GUEST;
  }

  private static @Nullable String unit(
      ObjectNode given, @Nullable Person before, List<Organisation.Unit> units) {
    String department = ScimJson.text(given.path(ScimJson.ENTERPRISE), "department");
    String named = unitOf(department, units);
    return named != null ? named : before == null ? null : before.unit();
  }

  private static @Nullable String unitOf(String department, List<Organisation.Unit> units) {
    return units.stream()
        .filter(u -> u.id().equalsIgnoreCase(department) || u.name().equalsIgnoreCase(department))
        .findFirst()
        .map(Organisation.Unit::id)
        .orElse(null);
  }

  /** A person as a resource: what we keep of them is as we keep it, the rest as it was given. */
  static ObjectNode of(ScimRecordEntity row, Person person, List<Organisation.Unit> units) {
    ObjectNode document = ScimJson.object();
    ArrayNode schemas = document.putArray("schemas").add(ScimJson.USER);
    document.put("id", row.id);
    if (row.externalId != null) {
      document.put("externalId", row.externalId);
    }
    ObjectNode given = ScimJson.parse(row.document);
    String userName = ScimJson.text(given, "userName");
    document.put("userName", userName.isEmpty() ? person.email() : userName);
    given
        .properties()
        .forEach(
            each -> {
              if (!each.getKey().startsWith("urn:")) {
                document.set(each.getKey(), each.getValue());
              }
            });
    document.put("userName", userName.isEmpty() ? person.email() : userName);
    document.put("displayName", person.name());
    if (!document.path("name").isObject()) {
      document.putObject("name").put("formatted", person.name());
    }
    if (!document.path("emails").isArray() || document.path("emails").isEmpty()) {
      document.putArray("emails").addObject().put("value", person.email()).put("primary", true);
    }
    if (person.standing() == Standing.GUEST && ScimJson.text(document, "userType").isEmpty()) {
      document.put("userType", "guest");
    }
    document.put("active", person.active());
    enterprise(document, given.path(ScimJson.ENTERPRISE), person, units, schemas);
    ScimIds.meta(document, "User", "/Users/" + row.id, row);
    return document;
  }

  private static void enterprise(
      ObjectNode document,
      JsonNode given,
      Person person,
      List<Organisation.Unit> units,
      ArrayNode schemas) {
    ObjectNode enterprise =
        given instanceof ObjectNode object ? object.deepCopy() : ScimJson.object();
    String meant = unitOf(ScimJson.text(enterprise, "department"), units);
    if (person.unit() != null && !person.unit().equals(meant)) {
      units.stream()
          .filter(unit -> unit.id().equals(person.unit()))
          .findFirst()
          .ifPresent(unit -> enterprise.put("department", unit.name()));
    }
    if (!enterprise.isEmpty()) {
      schemas.add(ScimJson.ENTERPRISE);
      document.set(ScimJson.ENTERPRISE, enterprise);
    }
  }
}
