package app.uprightwarden.server.exchange;

import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.Organisation;
import java.util.LinkedHashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** The parts of a bundle in their written form; what is empty and optional is left out. */
final class BundleWriter {
  private BundleWriter() {}

  static Map<String, @Nullable Object> organisation(Organisation o) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("name", o.name());
    map.put("domains", o.domains());
    map.put("partners", o.partners());
    map.put("plan", o.plan());
    map.put("units", o.units());
    map.put("kinds", o.kinds());
    map.put("spaces", o.spaces());
    map.put("lists", o.lists());
    if (!o.rooms().isEmpty()) {
      map.put("rooms", o.rooms());
    }
    return map;
  }

  static Map<String, @Nullable Object> person(Person p, @Nullable String zone) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("email", p.email());
    map.put("name", p.name());
    map.put("standing", p.standing().id());
    map.put("unit", p.unit());
    map.put("active", p.active());
    if (zone != null) {
      map.put("zone", zone);
    }
    return map;
  }
}
