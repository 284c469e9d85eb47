package app.uprightwarden.server.demo;

import app.uprightwarden.server.problem.InOrder;
import java.time.LocalDateTime;
import java.time.temporal.ChronoField;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** A demo meeting in the making, in the bundle's form. */
final class DemoMeeting {
  private static final Pattern BY_DAY = Pattern.compile("BYDAY=([0-9A-Z,]+)");

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

  /** Recurs by a rule (RFC 5545): its first date is moved on to one that the rule names. */
  DemoMeeting recurring(String rule) {
    Matcher days = BY_DAY.matcher(rule);
    if (days.find()) {
      List<String> named = List.of(days.group(1).split(","));
      LocalDateTime start = LocalDateTime.parse(String.valueOf(map.get("start")));
      while (!isNamed(start, named)) {
        start = start.plusDays(1);
      }
      map.put("start", start.toString());
    }
    return with("recurrence", rule);
  }

  /** Whether days such as TU, or 2TH for the second Thursday of a month, name a date. */
  private static boolean isNamed(LocalDateTime date, List<String> days) {
    String day = date.getDayOfWeek().name().substring(0, 2);
    return days.contains(day) || days.contains(date.get(ChronoField.ALIGNED_WEEK_OF_MONTH) + day);
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
