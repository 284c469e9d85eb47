package app.uprightwarden.server.register;

import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A meeting as bundles write it, and as earlier versions are kept. */
public final class MeetingDocument {
  private MeetingDocument() {}

  /** A meeting with all that is known of it; a passcode where the caller gives one. */
  public static Map<String, @Nullable Object> of(Scheduled scheduled) {
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
    for (Invitee invitee : m.invitees()) {
      // Map.of has another order in each run of the program
      Map<String, String> one = new LinkedHashMap<>();
      one.put("email", invitee.email());
      one.put("need", invitee.need().name().toLowerCase(Locale.ROOT));
      if (invitee.task() != null) {
        one.put("task", invitee.task().id());
      }
      if (invitee.language() != null) {
        one.put("language", invitee.language());
      }
      invitees.add(one);
    }
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
    putIfThere(map, "phonePasscode", scheduled.phonePasscode());
    map.put("controls", ControlsJson.plain(m.controls()));
    if (!m.changes().isEmpty()) {
      map.put("occurrences", m.changes().stream().map(MeetingDocument::change).toList());
    }
    putDetails(map, scheduled.details());
    return map;
  }

  private static void putDetails(Map<String, @Nullable Object> map, Details details) {
    putIfThere(map, "room", details.room());
    if (details.wholeDay()) {
      map.put("wholeDay", true);
    }
    putIfThere(map, "reminder", details.reminder());
    if (!details.groups().isEmpty()) {
      map.put("groups", details.groups().stream().map(MeetingDocument::group).toList());
    }
    putIfThere(map, "uid", details.uid());
    if (details.sequence() > 0) {
      map.put("sequence", details.sequence());
    }
    if (!details.foreign().isEmpty()) {
      map.put("foreign", details.foreign());
    }
  }

  private static Map<String, Object> group(Details.Group group) {
    Map<String, Object> map = new LinkedHashMap<>();
    map.put("name", group.name());
    map.put("members", group.members());
    if (group.list() != null) {
      map.put("list", group.list());
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
      map.put(key, times.stream().map(MeetingDocument::time).toList());
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
