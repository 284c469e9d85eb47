package app.uprightwarden.server.exchange;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
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
    return map;
  }

  static Map<String, @Nullable Object> person(Person p) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("email", p.email());
    map.put("name", p.name());
    map.put("standing", p.standing().id());
    map.put("unit", p.unit());
    map.put("active", p.active());
    return map;
  }

  static Map<String, @Nullable Object> meeting(Scheduled scheduled) {
    Meeting m = scheduled.meeting();
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("id", m.id());
    map.put("title", m.title());
    map.put("description", m.description());
    putIfThere(map, "kind", m.kind());
    map.put("host", m.host());
    map.put("coHosts", m.coHosts());
    map.put("presenters", m.presenters());
    List<Map<String, String>> invitees = new ArrayList<>();
    m.invitees()
        .forEach(
            i ->
                invitees.add(
                    Map.of("email", i.email(), "need", i.need().name().toLowerCase(Locale.ROOT))));
    map.put("invitees", invitees);
    map.put("lists", m.lists());
    map.put("space", m.space());
    map.put("start", time(m.start()));
    map.put("zone", m.zone().getId());
    map.put("minutes", m.minutes());
    putIfThere(map, "recurrence", m.recurrence());
    putTimes(map, "exDates", m.exDates());
    putTimes(map, "rDates", m.rDates());
    putIfThere(map, "number", m.number());
    putIfThere(map, "passcode", scheduled.passcode());
    map.put("controls", ControlsJson.plain(m.controls()));
    if (!m.changes().isEmpty()) {
      map.put("occurrences", m.changes().stream().map(BundleWriter::change).toList());
    }
    return map;
  }

  private static Map<String, @Nullable Object> change(OccurrenceChange change) {
    Map<String, @Nullable Object> map = new LinkedHashMap<>();
    map.put("at", time(change.at()));
    putIfThere(map, "start", change.start() == null ? null : time(change.start()));
    putIfThere(map, "minutes", change.minutes());
    if (!change.controls().asMap().isEmpty()) {
      map.put("controls", ControlsJson.plain(change.controls()));
    }
    return map;
  }

  private static void putTimes(
      Map<String, @Nullable Object> map, String key, List<LocalDateTime> times) {
    if (!times.isEmpty()) {
      map.put(key, times.stream().map(BundleWriter::time).toList());
    }
  }

  private static void putIfThere(
      Map<String, @Nullable Object> map, String key, @Nullable Object value) {
    if (value != null) {
      map.put(key, value);
    }
  }

  /**
   * To the minute, or to the second where there are seconds; {@link LocalDateTime} does just that.
   */
  private static String time(LocalDateTime time) {
    return time.toString();
  }
}
