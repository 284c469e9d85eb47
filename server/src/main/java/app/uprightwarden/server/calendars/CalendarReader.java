package app.uprightwarden.server.calendars;

import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.MeetingReading;
import app.uprightwarden.server.register.Scheduled;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Makes meetings of a calendar's events (RFC 5545), each event for itself: one fault costs one. */
@Component
public class CalendarReader {
  /**
   * What a calendar leaves open.
   *
   * @param zone the zone of times that have none
   * @param host who hosts what has no organiser
   * @param ids the id of the meeting that is known by a calendar's name for it, if any
   */
  public record Defaults(
      ZoneId zone, String host, Organisation organisation, Map<String, String> ids) {}

  /**
   * One event and its exceptions.
   *
   * @param line where it begins, from 1
   * @param meeting null where refused
   * @param notes what was assumed or left out
   * @param refused why it is no meeting, or null
   */
  public record Entry(
      int line,
      String title,
      @Nullable Scheduled meeting,
      List<String> notes,
      @Nullable String refused) {}

  /** A whole file; {@code notes} are about it as a whole. */
  public record Reading(@Nullable String method, List<Entry> entries, List<String> notes) {}

  /** The calendar names in a file, for {@link Defaults#ids}. */
  public List<String> uids(String text) {
    Set<String> uids = new LinkedHashSet<>();
    CalendarText.read(text)
        .events()
        .forEach(event -> event.all("UID").forEach(line -> uids.add(line.value().strip())));
    return List.copyOf(uids);
  }

  /** Reads a file. */
  public Reading read(String text, Defaults defaults, MeetingReading.Judge judge) {
    CalendarText.Document document = CalendarText.read(text);
    Zones zones = new Zones(document.zones(), defaults.zone());
    List<Entry> entries = new ArrayList<>();
    for (List<CalendarText.Component> group : groups(document.events()).values()) {
      entries.addAll(entries(group, new EventReading(zones, defaults, judge)));
    }
    List<String> notes = new ArrayList<>(document.troubles());
    CalendarText.Component cut = document.cutOff();
    if (cut != null) {
      notes.add(
          "The calendar ends in the middle: "
              + cut.name()
              + " of line "
              + cut.number()
              + " is not closed. What came before it is whole; get the file again for the rest.");
      if (cut.name().equals("VEVENT")) {
        entries.add(
            new Entry(
                cut.number(), title(cut), null, List.of(), "the file ends before this event does"));
      }
    }
    if (document.events().isEmpty() && cut == null) {
      notes.add("The calendar has no events. Tasks and journals are not meetings.");
    }
    return new Reading(document.method(), List.copyOf(entries), List.copyOf(notes));
  }

  /** The events of one UID together; those without one each for itself. */
  private static Map<String, List<CalendarText.Component>> groups(
      List<CalendarText.Component> events) {
    Map<String, List<CalendarText.Component>> groups = new LinkedHashMap<>();
    for (CalendarText.Component event : events) {
      CalendarText.Line uid = event.first("UID");
      String key = uid == null ? "line " + event.number() : uid.value().strip();
      groups.computeIfAbsent(key, k -> new ArrayList<>()).add(event);
    }
    return groups;
  }

  private static List<Entry> entries(List<CalendarText.Component> group, EventReading reading) {
    List<CalendarText.Component> masters =
        group.stream().filter(event -> event.first("RECURRENCE-ID") == null).toList();
    if (masters.isEmpty()) {
      // the series itself is somebody else's: each occurrence stands for itself
      return group.stream().map(event -> entry(event, List.of(), reading)).toList();
    }
    // of two of the same name, the one with the higher SEQUENCE is the newer (RFC 5546 section
    // 2.1.5)
    int newest = 0;
    for (int i = 1; i < masters.size(); i++) {
      newest = sequence(masters, i) > sequence(masters, newest) ? i : newest;
    }
    CalendarText.Component master = masters.get(newest);
    List<Entry> entries = new ArrayList<>();
    for (int i = 0; i < masters.size(); i++) {
      if (i != newest) {
        entries.add(
            new Entry(
                masters.get(i).number(),
                title(masters.get(i)),
                null,
                List.of(),
                "the same event comes again in line " + master.number() + ", which is taken"));
      }
    }
    List<CalendarText.Component> exceptions =
        group.stream().filter(event -> event.first("RECURRENCE-ID") != null).toList();
    entries.add(0, entry(master, exceptions, reading));
    return entries;
  }

  private static int sequence(List<CalendarText.Component> events, int index) {
    return EventReading.sequence(events.get(index));
  }

  private static Entry entry(
      CalendarText.Component event, List<CalendarText.Component> exceptions, EventReading reading) {
    List<String> notes = new ArrayList<>();
    try {
      Scheduled meeting = reading.read(event, exceptions, notes);
      return new Entry(event.number(), meeting.meeting().title(), meeting, notes, null);
    } catch (CalendarTimes.Fault e) {
      return new Entry(
          event.number(), title(event), null, List.copyOf(notes), String.valueOf(e.getMessage()));
    }
  }

  static String title(CalendarText.Component event) {
    CalendarText.Line summary = event.first("SUMMARY");
    String text = summary == null ? "" : summary.text().strip();
    return Texts.cut(text, 500);
  }

  /** What the audit may know of a passcode, or null where there is none. */
  static @Nullable PasscodeFacts facts(
      @Nullable String passcode,
      String title,
      String description,
      String host,
      MeetingReading.Judge judge) {
    return passcode == null ? null : judge.judge(passcode, title, description, host);
  }
}
