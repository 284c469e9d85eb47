package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.rulebook.RulebookReader;
import app.uprightwarden.server.schema.BundleSchema;
import java.time.DateTimeException;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.databind.JsonNode;

/** Reads a bundle: shape by the schema first, then what a schema cannot say. */
@Component
class BundleReader {
  private final BundleSchema schema;

  BundleReader(BundleSchema schema) {
    this.schema = schema;
  }

  /**
   * Reads a bundle.
   *
   * @param stored what it may refer to besides itself
   * @param faults gets everything that is wrong; only where it stays empty is the result whole
   */
  Bundle read(
      JsonNode document, Organisation stored, MeetingJsonParser.Judge judge, List<Fault> faults) {
    faults.addAll(schema.faults(document));
    if (!faults.isEmpty()) {
      return new Bundle(null, null, Map.of(), null, null, List.of());
    }
    Organisation organisation =
        document.has("organisation") ? organisation(document.get("organisation"), faults) : null;
    Set<String> units = ids(stored.units(), Organisation.Unit::id);
    Set<String> kinds = ids(stored.kinds(), Organisation.Kind::id);
    Set<String> spaces = ids(stored.spaces(), Organisation.Gathering::id);
    Set<String> lists = ids(stored.lists(), Organisation.Gathering::id);
    Set<String> rooms = ids(stored.rooms(), Organisation.Room::id);
    if (organisation != null) {
      units.addAll(ids(organisation.units(), Organisation.Unit::id));
      kinds.addAll(ids(organisation.kinds(), Organisation.Kind::id));
      spaces.addAll(ids(organisation.spaces(), Organisation.Gathering::id));
      lists.addAll(ids(organisation.lists(), Organisation.Gathering::id));
      rooms.addAll(ids(organisation.rooms(), Organisation.Room::id));
      checkParents(organisation.units(), stored.units(), faults);
    }
    List<Person> people =
        document.has("people") ? people(document.get("people"), units, faults) : null;
    JsonNode rulebookDocument = document.get("rulebook");
    Rulebook rulebook =
        rulebookDocument == null
            ? null
            : new RulebookReader(faults, units::contains, kinds::contains)
                .read(rulebookDocument, "/rulebook");
    MeetingJsonParser reading =
        new MeetingJsonParser(
            faults,
            new MeetingJsonParser.Known(
                kinds::contains, spaces::contains, lists::contains, rooms::contains),
            judge);
    List<Scheduled> meetings = meetings(document.path("meetings"), reading, faults);
    return new Bundle(
        organisation,
        people,
        zones(document.path("people"), faults),
        rulebookDocument,
        rulebook,
        meetings);
  }

  private static <T> Set<String> ids(List<T> items, java.util.function.Function<T, String> id) {
    Set<String> ids = new HashSet<>();
    items.forEach(item -> ids.add(id.apply(item)));
    return ids;
  }

  private static Organisation organisation(JsonNode node, List<Fault> faults) {
    List<Organisation.Partner> partners = new ArrayList<>();
    for (JsonNode p : node.path("partners")) {
      partners.add(
          new Organisation.Partner(
              p.path("name").stringValue(""), MeetingJsonParser.strings(p.path("domains"))));
    }
    List<Organisation.Unit> units = new ArrayList<>();
    for (JsonNode u : node.path("units")) {
      units.add(
          new Organisation.Unit(
              u.path("id").stringValue(""),
              u.path("name").stringValue(""),
              u.path("parent").stringValue(null)));
    }
    List<Organisation.Kind> kinds = new ArrayList<>();
    for (JsonNode k : node.path("kinds")) {
      kinds.add(
          new Organisation.Kind(
              k.path("id").stringValue(""),
              k.path("name").stringValue(""),
              k.path("confidential").booleanValue(false)));
    }
    for (String part : List.of("units", "kinds", "spaces", "lists", "rooms")) {
      checkIds(node.path(part), "/organisation/" + part, "id", faults);
    }
    JsonNode plan = node.path("plan");
    return new Organisation(
        node.path("name").stringValue(""),
        MeetingJsonParser.strings(node.path("domains")),
        List.copyOf(partners),
        new Organisation.Plan(
            plan.path("maxParticipants").intValue(), plan.path("maxMinutes").intValue()),
        List.copyOf(units),
        List.copyOf(kinds),
        gatherings(node.path("spaces")),
        gatherings(node.path("lists")),
        rooms(node.path("rooms")));
  }

  private static List<Organisation.Room> rooms(JsonNode list) {
    List<Organisation.Room> rooms = new ArrayList<>();
    for (JsonNode r : list) {
      rooms.add(
          new Organisation.Room(
              r.path("id").stringValue(""),
              r.path("name").stringValue(""),
              r.path("email").stringValue(""),
              r.path("seats").intValue()));
    }
    return List.copyOf(rooms);
  }

  private static List<Organisation.Gathering> gatherings(JsonNode list) {
    List<Organisation.Gathering> gatherings = new ArrayList<>();
    for (JsonNode g : list) {
      gatherings.add(
          new Organisation.Gathering(
              g.path("id").stringValue(""),
              g.path("name").stringValue(""),
              MeetingJsonParser.strings(g.path("members"))));
    }
    return List.copyOf(gatherings);
  }

  /** Every parent is a unit, and nobody is their own ancestor. */
  private static void checkParents(
      List<Organisation.Unit> units, List<Organisation.Unit> stored, List<Fault> faults) {
    Map<String, @Nullable String> parents = new HashMap<>();
    stored.forEach(unit -> parents.put(unit.id(), unit.parent()));
    units.forEach(unit -> parents.put(unit.id(), unit.parent()));
    for (int i = 0; i < units.size(); i++) {
      String at = "/organisation/units/" + i + "/parent";
      String parent = units.get(i).parent();
      if (parent != null && !parents.containsKey(parent)) {
        faults.add(new Fault(at, "there is no unit \"" + parent + "\""));
        continue;
      }
      Set<String> seen = new HashSet<>(Set.of(units.get(i).id()));
      while (parent != null) {
        if (!seen.add(parent)) {
          faults.add(new Fault(at, "the units form a circle"));
          break;
        }
        parent = parents.get(parent);
      }
    }
  }

  private static List<Person> people(JsonNode list, Set<String> units, List<Fault> faults) {
    checkIds(list, "/people", "email", faults);
    List<Person> people = new ArrayList<>();
    for (int i = 0; i < list.size(); i++) {
      JsonNode p = list.get(i);
      String unit = p.path("unit").stringValue(null);
      if (unit != null && !units.contains(unit)) {
        faults.add(new Fault("/people/" + i + "/unit", "there is no unit \"" + unit + "\""));
      }
      people.add(
          new Person(
              p.path("email").stringValue(""),
              p.path("name").stringValue(""),
              Standing.valueOf(p.path("standing").stringValue("").toUpperCase(Locale.ROOT)),
              unit,
              p.path("active").booleanValue(true)));
    }
    return List.copyOf(people);
  }

  private static Map<String, ZoneId> zones(JsonNode people, List<Fault> faults) {
    Map<String, ZoneId> zones = new HashMap<>();
    for (int i = 0; i < people.size(); i++) {
      String zone = people.get(i).path("zone").stringValue(null);
      try {
        if (zone != null) {
          zones.put(Directory.fold(people.get(i).path("email").stringValue("")), ZoneId.of(zone));
        }
      } catch (DateTimeException e) {
        faults.add(new Fault("/people/" + i + "/zone", "\"" + zone + "\" is no time zone"));
      }
    }
    return zones;
  }

  private static List<Scheduled> meetings(
      JsonNode list, MeetingJsonParser reading, List<Fault> faults) {
    checkIds(list, "/meetings", "id", faults);
    List<Scheduled> meetings = new ArrayList<>();
    for (int i = 0; i < list.size(); i++) {
      Scheduled meeting = reading.read(list.get(i), "/meetings/" + i);
      if (meeting != null) {
        meetings.add(meeting);
      }
    }
    return List.copyOf(meetings);
  }

  private static void checkIds(JsonNode list, String pointer, String key, List<Fault> faults) {
    Map<String, Integer> first = new HashMap<>();
    for (int i = 0; i < list.size(); i++) {
      String id = list.get(i).path(key).stringValue("");
      String folded = key.equals("email") ? Directory.fold(id) : id;
      Integer earlier = first.putIfAbsent(folded, i);
      if (earlier != null) {
        String message = "\"" + id + "\" is used twice, first at " + pointer + "/" + earlier;
        faults.add(new Fault(pointer + "/" + i + "/" + key, message));
      }
    }
  }
}
