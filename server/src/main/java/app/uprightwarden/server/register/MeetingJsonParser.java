package app.uprightwarden.server.register;

import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Fault;
import java.time.DateTimeException;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;

/** Reads one meeting as bundles write it, of a shape that the schema has checked. */
public final class MeetingJsonParser {
  /** Makes the facts of a passcode. */
  @FunctionalInterface
  public interface Judge {
    PasscodeFacts judge(String passcode, String title, String description, String host);
  }

  /** What a meeting may refer to. */
  public record Known(
      Predicate<String> kind,
      Predicate<String> space,
      Predicate<String> list,
      Predicate<String> room) {
    /** What an organisation has. */
    public static Known of(Organisation organisation) {
      return new Known(
          id -> organisation.kinds().stream().anyMatch(k -> k.id().equals(id)),
          id -> organisation.spaces().stream().anyMatch(s -> s.id().equals(id)),
          id -> organisation.lists().stream().anyMatch(l -> l.id().equals(id)),
          id -> organisation.rooms().stream().anyMatch(r -> r.id().equals(id)));
    }
  }

  private final List<Fault> faults;
  private final Known known;
  private final Judge judge;

  public MeetingJsonParser(List<Fault> faults, Known known, Judge judge) {
    this.faults = faults;
    this.known = known;
    this.judge = judge;
  }

  /**
   * Reads a meeting.
   *
   * @param at the JSON Pointer that faults are given from
   * @return null where it has faults, which are then in the list
   */
  public @Nullable Scheduled read(JsonNode m, String at) {
    int before = faults.size();
    String title = m.path("title").stringValue("");
    String description = m.path("description").stringValue("");
    String host = m.path("host").stringValue("");
    ZoneId zone = zone(m.path("zone").stringValue(""), at + "/zone");
    LocalDateTime start = time(m.path("start"), at + "/start");
    String recurrence = m.path("recurrence").stringValue(null);
    if (recurrence != null) {
      checkRecurrence(recurrence, zone, start, at + "/recurrence");
    }
    String kind = known(m, "kind", known.kind(), at);
    String space = known(m, "space", known.space(), at);
    Details details = details(m, at);
    List<String> lists = strings(m.path("lists"));
    for (int i = 0; i < lists.size(); i++) {
      if (!known.list().test(lists.get(i))) {
        fault(at + "/lists/" + i, "there is no list \"" + lists.get(i) + "\"");
      }
    }
    ControlValues controls = ControlsJson.read(m.path("controls"), at + "/controls", faults);
    List<OccurrenceChange> changes = changes(m.path("occurrences"), at + "/occurrences");
    List<LocalDateTime> exDates = times(m.path("exDates"), at + "/exDates");
    List<LocalDateTime> rDates = times(m.path("rDates"), at + "/rDates");
    if (faults.size() > before || start == null) {
      return null;
    }
    String passcode = m.path("passcode").stringValue(null);
    String phone = m.path("phonePasscode").stringValue(null);
    PasscodeFacts facts = facts(passcode, phone, title, description, host);
    Meeting meeting =
        new Meeting(
            m.path("id").stringValue(""),
            title,
            description,
            kind,
            host,
            strings(m.path("coHosts")),
            strings(m.path("presenters")),
            invitees(m.path("invitees")),
            lists,
            space,
            start,
            zone,
            m.path("minutes").intValue(),
            recurrence,
            exDates,
            rDates,
            m.path("number").stringValue(null),
            facts,
            controls,
            changes);
    for (Fault beyond : MeetingLimits.faults(meeting, details)) {
      fault(at + beyond.pointer(), beyond.message());
    }
    return faults.size() > before
        ? null
        : new Scheduled(meeting, details, passcode, !m.has("passcode"), phone);
  }

  /** Of the two the passcode itself is judged first; digits beside it can only be weaker. */
  private @Nullable PasscodeFacts facts(
      @Nullable String passcode,
      @Nullable String phone,
      String title,
      String description,
      String host) {
    if (passcode == null) {
      return null;
    }
    PasscodeFacts facts = judge.judge(passcode, title, description, host);
    return PhonePasscodes.judged(facts, phone);
  }

  private ZoneId zone(String id, String at) {
    try {
      return ZoneId.of(id);
    } catch (DateTimeException e) {
      fault(at, "\"" + id + "\" is no time zone; use an IANA name such as Europe/Dublin");
      return ZoneId.of("UTC");
    }
  }

  private Details details(JsonNode m, String at) {
    List<Details.Group> groups = new ArrayList<>();
    for (JsonNode group : m.path("groups")) {
      groups.add(
          new Details.Group(
              group.path("name").stringValue(""),
              strings(group.path("members")),
              knownList(group.path("list"), at + "/groups/" + groups.size() + "/list")));
    }
    return new Details(
        known(m, "room", known.room(), at),
        m.path("wholeDay").booleanValue(false),
        m.path("reminder").isNumber() ? m.path("reminder").intValue() : null,
        List.copyOf(groups),
        m.path("uid").stringValue(null),
        m.path("sequence").intValue(0),
        strings(m.path("foreign")));
  }

  private @Nullable String knownList(JsonNode node, String at) {
    String list = node.stringValue(null);
    if (list != null && !known.list().test(list)) {
      fault(at, "there is no list \"" + list + "\"");
    }
    return list;
  }

  private void checkRecurrence(
      String recurrence, ZoneId zone, @Nullable LocalDateTime start, String at) {
    if (start == null) {
      return;
    }
    try {
      Recurrence.parse(recurrence, zone).checkPace(start);
    } catch (IllegalArgumentException e) {
      fault(at, String.valueOf(e.getMessage()));
    }
  }

  private @Nullable LocalDateTime time(JsonNode node, String at) {
    try {
      return LocalDateTime.parse(node.stringValue(""));
    } catch (DateTimeException e) {
      fault(at, "\"" + node.stringValue("") + "\" is no date and time that exists");
      return null;
    }
  }

  private List<LocalDateTime> times(JsonNode list, String at) {
    List<LocalDateTime> times = new ArrayList<>();
    for (int i = 0; i < list.size(); i++) {
      LocalDateTime time = time(list.get(i), at + "/" + i);
      if (time != null) {
        times.add(time);
      }
    }
    return List.copyOf(times);
  }

  private @Nullable String known(JsonNode m, String part, Predicate<String> exists, String at) {
    String id = m.path(part).stringValue(null);
    if (id != null && !exists.test(id)) {
      fault(at + "/" + part, "there is no " + part + " \"" + id + "\"");
    }
    return id;
  }

  private List<OccurrenceChange> changes(JsonNode list, String pointer) {
    List<OccurrenceChange> changes = new ArrayList<>();
    Set<LocalDateTime> seen = new HashSet<>();
    for (int i = 0; i < list.size(); i++) {
      JsonNode node = list.get(i);
      String at = pointer + "/" + i;
      LocalDateTime original = time(node.path("at"), at + "/at");
      LocalDateTime start = node.has("start") ? time(node.path("start"), at + "/start") : null;
      ControlValues controls = ControlsJson.read(node.path("controls"), at + "/controls", faults);
      Integer minutes = node.has("minutes") ? node.path("minutes").intValue() : null;
      if (original != null && !seen.add(original)) {
        fault(at + "/at", "this occurrence is changed twice");
      } else if (original != null) {
        changes.add(new OccurrenceChange(original, start, minutes, controls));
      }
    }
    return List.copyOf(changes);
  }

  private static List<Invitee> invitees(JsonNode list) {
    List<Invitee> invitees = new ArrayList<>();
    for (JsonNode node : list) {
      String need = node.path("need").stringValue("required").toUpperCase(Locale.ROOT);
      String task = node.path("task").stringValue(null);
      invitees.add(
          new Invitee(
              node.path("email").stringValue(""),
              Invitee.Need.valueOf(need),
              task == null ? null : Invitee.Task.valueOf(task.toUpperCase(Locale.ROOT)),
              task == null ? null : node.path("language").stringValue(null)));
    }
    return List.copyOf(invitees);
  }

  public static List<String> strings(JsonNode list) {
    List<String> strings = new ArrayList<>();
    list.forEach(node -> strings.add(node.stringValue("")));
    return List.copyOf(strings);
  }

  private void fault(String pointer, String message) {
    faults.add(new Fault(pointer, message));
  }
}
