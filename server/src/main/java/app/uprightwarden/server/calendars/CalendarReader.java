package app.uprightwarden.server.calendars;

import app.uprightwarden.core.meeting.PasscodeFacts;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.MeetingJsonParser;
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
   * @param known the meetings there are
   */
  public record Defaults(ZoneId zone, String host, Organisation organisation, Known known) {}

  /** The meetings there are, by the names a calendar may have for them. */
  public interface Known {
    Known NONE =
        new Known() {
          @Override
          public @Nullable Scheduled byUid(String uid) {
            return null;
          }

          @Override
          public @Nullable Scheduled byId(String id) {
            return null;
          }
        };

    /** The meeting that calendars know by this name, or null. */
    @Nullable Scheduled byUid(String uid);

    /** The meeting with this id here, or null. */
    @Nullable Scheduled byId(String id);
  }

  /** What becomes of the meeting that an entry is about. */
  public enum Act {
    /** The event says the whole of it, but for what calendars cannot say. */
    WHOLE,
    /** It is as it is stored, but for what was changed in it. */
    PART,
    /** It is cancelled. */
    CANCEL
  }

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
      @Nullable String refused,
      Act act) {
    /** Whether it says itself that it is cancelled, and no more of it. */
    public boolean isCancelledThere() {
      return meeting == null && act == Act.CANCEL;
    }

    static Entry cancelled(CalendarText.Component event, String why, List<String> notes) {
      return new Entry(
          event.number(), CalendarReader.title(event), null, List.copyOf(notes), why, Act.CANCEL);
    }

    static Entry refused(CalendarText.Component event, String why, List<String> notes) {
      return new Entry(
          event.number(), CalendarReader.title(event), null, List.copyOf(notes), why, Act.WHOLE);
    }
  }

  /** A whole file; {@code notes} are about it as a whole. */
  public record Reading(@Nullable String method, List<Entry> entries, List<String> notes) {}

  /**
   * The names of meetings in a file, for whoever looks up {@link Known}.
   *
   * @param uids by which calendars know them
   * @param ids by which they say that they are known here
   */
  public record Named(List<String> uids, List<String> ids) {}

  public Named named(String text) {
    Set<String> uids = new LinkedHashSet<>();
    Set<String> ids = new LinkedHashSet<>();
    for (CalendarText.Component event : CalendarText.read(text).events()) {
      event.all("UID").forEach(line -> uids.add(line.value().strip()));
      event.all(VendorProperties.PREFIX + "ID").forEach(line -> ids.add(line.text().strip()));
    }
    return new Named(List.copyOf(uids), List.copyOf(ids));
  }

  /** Reads a file. */
  public Reading read(String text, Defaults defaults, MeetingJsonParser.Judge judge) {
    CalendarText.Document document = CalendarText.read(text);
    Zones zones = new Zones(document, defaults.zone());
    List<Entry> entries = new ArrayList<>();
    EventReading reading = new EventReading(zones, defaults, judge);
    for (Map.Entry<String, List<CalendarText.Component>> group :
        groups(document.events()).entrySet()) {
      Scheduled stored = defaults.known().byUid(group.getKey());
      entries.addAll(
          new SchedulingObject(reading, document.method(), stored).entries(group.getValue()));
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
        entries.add(Entry.refused(cut, "the file ends before this event does", List.of()));
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

  /**
   * Whether an object is newer than another of the same name: by SEQUENCE, and of equal ones by
   * DTSTAMP (RFC 5546 section 2.1.5).
   */
  static boolean isNewer(CalendarText.Component one, CalendarText.Component other) {
    int by = Integer.compare(EventReading.sequence(one), EventReading.sequence(other));
    return by == 0 ? EventReading.stamp(one).compareTo(EventReading.stamp(other)) > 0 : by > 0;
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
      MeetingJsonParser.Judge judge) {
    return passcode == null ? null : judge.judge(passcode, title, description, host);
  }
}
