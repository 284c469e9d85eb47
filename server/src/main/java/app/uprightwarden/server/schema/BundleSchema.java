package app.uprightwarden.server.schema;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.rulebook.Level;
import app.uprightwarden.server.problem.Fault;
import com.networknt.schema.Error;
import com.networknt.schema.Schema;
import com.networknt.schema.SchemaRegistry;
import com.networknt.schema.SpecificationVersion;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * The bundle's schema (JSON Schema 2020-12): the shipped file, with the tables of controls,
 * personas, rights and levels written in from their declarations.
 */
@Component
public class BundleSchema {
  private static final int MAX_FAULTS = 200;

  /** People in a bundle, and meetings. */
  private static final int MAX_OF_ONE = 200_000;

  /** The longest list in anything else. */
  private static final int LONGEST_LIST = 20_000;

  private static final Pattern IN_CONTROLS = Pattern.compile(".*/controls/(?<id>[a-z-]+)(?:/.*)?");

  private final ObjectNode document;
  private final Schema bundle;
  private final Schema rulebook;
  private final Schema controls;
  private final Schema meeting;
  private final Schema person;

  public BundleSchema(JsonMapper json) {
    try (InputStream in =
        Objects.requireNonNull(BundleSchema.class.getResourceAsStream("/schema/bundle.json"))) {
      document = (ObjectNode) json.readTree(in);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    fillIn((ObjectNode) document.get("$defs"), json);
    SchemaRegistry registry = SchemaRegistry.withDefaultDialect(SpecificationVersion.DRAFT_2020_12);
    bundle = registry.getSchema(document);
    rulebook = registry.getSchema(part("rulebook"));
    controls = registry.getSchema(part("controls"));
    meeting = registry.getSchema(part("meeting"));
    person = registry.getSchema(part("person"));
  }

  private ObjectNode part(String name) {
    ObjectNode part = document.deepCopy();
    part.put("$id", "urn:upright-warden:" + name + ":1");
    part.remove(List.of("type", "required", "additionalProperties", "properties"));
    part.put("$ref", "#/$defs/" + name);
    return part;
  }

  private static void fillIn(ObjectNode defs, JsonMapper json) {
    ArrayNode ids = (ArrayNode) defs.at("/rule/properties/control/enum");
    ObjectNode properties = (ObjectNode) defs.at("/controls/properties");
    for (Control control : Control.all()) {
      ids.add(control.id());
      properties.set(control.id(), valueSchema(control, json));
    }
    ArrayNode who = (ArrayNode) defs.at("/guarantee/properties/who/items/enum");
    Persona.all().forEach(persona -> who.add(persona.id()));
    ArrayNode rights = (ArrayNode) defs.at("/guarantee/properties/rights/items/enum");
    Right.all().forEach(right -> rights.add(right.id()));
    ArrayNode levels = (ArrayNode) defs.at("/guarantee/properties/ceiling/enum");
    Level.all().forEach(level -> levels.add(level.id()));
  }

  private static ObjectNode valueSchema(Control control, JsonMapper json) {
    ObjectNode schema = json.createObjectNode();
    schema.put("title", control.title()).put("description", control.effect());
    if (control.scale() instanceof Scale.Words words) {
      ArrayNode values = schema.putArray("enum");
      words.rungs().forEach(rung -> values.add(rung.word()));
    } else if (control.scale() instanceof Scale.Numbers numbers) {
      ArrayNode either = schema.putArray("anyOf");
      either.addObject().put("type", "integer").put("minimum", 0).put("maximum", numbers.max());
      if (numbers.unlimitedWord() != null) {
        either.addObject().put("const", numbers.unlimitedWord().word());
      }
    } else if (control.scale() instanceof Scale.Sets sets) {
      schema.put("type", "array").put("uniqueItems", true);
      ObjectNode items = schema.putObject("items").put("type", "string");
      if (sets.universe() != null) {
        ArrayNode names = items.putArray("enum");
        sets.universe().stream().sorted().forEach(names::add);
      }
    }
    return schema;
  }

  /** The schema as it is served. */
  public JsonNode document() {
    return document.deepCopy();
  }

  /** What is wrong with a bundle's shape. */
  public List<Fault> faults(JsonNode node) {
    if (!(node instanceof ObjectNode whole)) {
      return faults(bundle, node);
    }
    // a fault of each of a million things would be held at once: so they are looked at one by one
    ObjectNode frame = whole.objectNode();
    whole
        .properties()
        .forEach(
            part ->
                frame.set(
                    part.getKey(),
                    isMany(part.getKey()) && part.getValue().isArray()
                        ? whole.arrayNode()
                        : part.getValue()));
    List<Fault> found = new ArrayList<>(faults(bundle, frame));
    each(node.path("people"), "/people", person, found);
    each(node.path("meetings"), "/meetings", meeting, found);
    return found;
  }

  private static boolean isMany(String part) {
    return part.equals("people") || part.equals("meetings");
  }

  private static void each(JsonNode list, String at, Schema schema, List<Fault> found) {
    if (list.size() > MAX_OF_ONE) {
      found.add(new Fault(at, "has " + list.size() + "; " + MAX_OF_ONE + " are the most"));
      return;
    }
    for (int i = 0; i < list.size() && found.size() < MAX_FAULTS; i++) {
      String here = at + "/" + i;
      for (Fault fault : faults(schema, list.get(i))) {
        found.add(new Fault(here + fault.pointer(), fault.message()));
      }
    }
  }

  /** The first list in something that is longer than any may be, as its pointer; else null. */
  private static @Nullable String tooLong(JsonNode node, String at) {
    if (node.isArray() && node.size() > LONGEST_LIST) {
      return at;
    }
    if (node.isArray() || node.isObject()) {
      int i = 0;
      for (var part : node.properties()) {
        String inner = tooLong(part.getValue(), at + "/" + part.getKey());
        if (inner != null) {
          return inner;
        }
      }
      for (JsonNode part : node.isArray() ? node : List.<JsonNode>of()) {
        String inner = part.isContainer() ? tooLong(part, at + "/" + i) : null;
        if (inner != null) {
          return inner;
        }
        i++;
      }
    }
    return null;
  }

  /** What is wrong with the shape of a bundle's rulebook part by itself. */
  public List<Fault> rulebookFaults(JsonNode node) {
    return faults(rulebook, node);
  }

  /** What is wrong with a map of controls by itself. */
  public List<Fault> controlsFaults(JsonNode node) {
    return faults(controls, node);
  }

  /** What is wrong with the shape of one meeting. */
  public List<Fault> meetingFaults(JsonNode node) {
    return faults(meeting, node);
  }

  private static List<Fault> faults(Schema schema, JsonNode node) {
    String tooLong = tooLong(node, "");
    if (tooLong != null) {
      return List.of(new Fault(tooLong, "has more than " + LONGEST_LIST + ", which none has"));
    }
    Map<String, Fault> byPlace = new LinkedHashMap<>();
    for (Error error : schema.validate(node)) {
      String pointer = error.getInstanceLocation().toString();
      if (error.getProperty() != null) {
        pointer = pointer + "/" + error.getProperty().replace("~", "~0").replace("/", "~1");
      }
      byPlace.putIfAbsent(pointer, new Fault(pointer, words(pointer, error)));
      if (byPlace.size() >= MAX_FAULTS) {
        break;
      }
    }
    return new ArrayList<>(byPlace.values());
  }

  private static String words(String pointer, Error error) {
    Matcher matcher = IN_CONTROLS.matcher(pointer);
    Control control = matcher.matches() ? Control.byId(matcher.group("id")) : null;
    if (control != null) {
      return "must be " + control.scale().allowed();
    }
    return switch (error.getKeyword()) {
      case "additionalProperties" -> "this key is not known here";
      case "required" -> "is missing";
      case "pattern" -> pattern(String.valueOf(error.getEvaluationPath()), pointer);
      default ->
          String.valueOf(error.getMessage())
              .replace("must be at least 1 characters long", "must not be empty")
              .replace("must have at least 1 items", "must have at least one item")
              .replaceAll("\\b1 (character|item)s\\b", "1 $1");
    };
  }

  /** What a pattern asks for, in words: nobody reads regular expressions. */
  private static String pattern(String path, String pointer) {
    if (path.contains("email") || pointer.matches(".*/(?:email|host|members/\\d+)")) {
      return "is no mail address";
    }
    if (pointer.matches(".*/(?:start|at|until|from|(?:exDates|rDates)/\\d+)")) {
      return "is no time; write it like 2027-05-10T09:00";
    }
    if (pointer.matches(".*/(?:id|kind|room|space|unit|parent|lists/\\d+)")) {
      return "is no id: letters, digits, “.”, “_”, “:” and “-”, a letter or digit first";
    }
    return "is not written as it should be; the formats are in the help";
  }
}
