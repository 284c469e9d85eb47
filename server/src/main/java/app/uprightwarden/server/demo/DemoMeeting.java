package app.uprightwarden.server.demo;

import app.uprightwarden.server.problem.InOrder;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A demo meeting in the making, in the bundle's form. */
final class DemoMeeting {
  private final Map<String, @Nullable Object> map = new LinkedHashMap<>();
  private final Map<String, Object> controls = new LinkedHashMap<>();
  private final List<Object> invitees = new ArrayList<>();

  DemoMeeting(String id, String title, String kind, String host, LocalDateTime start) {
    map.put("id", id);
    map.put("title", title);
    map.put("description", "");
    map.put("kind", kind);
    map.put("host", host);
    map.put("coHosts", List.of());
    map.put("presenters", List.of());
    map.put("invitees", invitees);
    map.put("lists", List.of());
    map.put("space", null);
    map.put("start", start.toString());
    map.put("zone", "Europe/Dublin");
    map.put("minutes", 60);
    map.put("controls", controls);
  }

  DemoMeeting with(String key, Object value) {
    map.put(key, value);
    return this;
  }

  DemoMeeting control(String control, Object value) {
    controls.put(control, value);
    return this;
  }

  DemoMeeting controls(Map<String, Object> values) {
    controls.putAll(values);
    return this;
  }

  /** Leaves only these controls: the rest is not evidenced, as from a calendar. */
  DemoMeeting only(String... kept) {
    controls.keySet().retainAll(List.of(kept));
    return this;
  }

  DemoMeeting invite(String... addresses) {
    for (String address : addresses) {
      if (!address.equals(map.get("host"))) {
        invitees.add(InOrder.map("email", address, "need", "required"));
      }
    }
    return this;
  }

  DemoMeeting invite(List<String> addresses) {
    return invite(addresses.toArray(String[]::new));
  }

  String host() {
    return String.valueOf(map.get("host"));
  }

  String kind() {
    return String.valueOf(map.get("kind"));
  }

  Map<String, @Nullable Object> map() {
    return map;
  }
}
