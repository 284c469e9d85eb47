package app.uprightwarden.server.calendars;

import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarReader.Act;
import app.uprightwarden.server.calendars.CalendarReader.Entry;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * The events of one UID, and what they may change of what is stored (RFC 5546): METHOD says what
 * they are for (section 3.2), SEQUENCE and DTSTAMP whether they are newer (section 2.1.5),
 * RECURRENCE-ID which part of a series they are about.
 */
final class SchedulingObject {
  private final EventReading reading;
  private final @Nullable String method;
  private final @Nullable Scheduled stored;

  /**
   * @param method of the calendar, or null
   * @param stored the meeting that is known by this UID, or null
   */
  SchedulingObject(EventReading reading, @Nullable String method, @Nullable Scheduled stored) {
    this.reading = reading;
    this.method = method;
    this.stored = stored;
  }

  List<Entry> entries(List<Component> group) {
    String of = method == null ? "PUBLISH" : method;
    return switch (of) {
      case "PUBLISH", "REQUEST" -> whole(group);
      case "ADD" -> group.stream().map(this::add).toList();
      case "CANCEL" -> group.stream().map(this::cancel).toList();
      case "REPLY" -> refused(group, "it is an answer and changes no meeting");
      case "COUNTER" -> refused(group, "it proposes another time and changes nothing by itself");
      case "REFRESH" -> refused(group, "it asks for the invitation again and changes nothing");
      case "DECLINECOUNTER" -> refused(group, "it declines a proposal and changes nothing");
      default ->
          refused(group, "its METHOD “" + CalendarTimes.shortened(of) + "” is none that there is");
    };
  }

  private static List<Entry> refused(List<Component> group, String why) {
    return group.stream().map(event -> Entry.refused(event, why, List.of())).toList();
  }

  /** Whether the meeting is our own, so that nobody else's calendar changes it. */
  private boolean isOurs() {
    return stored != null && stored.details().uid() == null;
  }

  private List<Entry> whole(List<Component> group) {
    if (isOurs() && "REQUEST".equals(method)) {
      Scheduled ours = java.util.Objects.requireNonNull(stored);
      return List.of(
          new Entry(
              group.get(0).number(),
              ours.meeting().title(),
              ours,
              List.of("it is our own invitation to " + ours.meeting().id() + ": nothing to take"),
              null,
              Act.PART));
    }
    List<Component> masters =
        group.stream().filter(event -> event.first("RECURRENCE-ID") == null).toList();
    if (masters.isEmpty()) {
      return stored != null && isSeries(stored.meeting())
          ? parts(group, stored)
          // the series itself is somebody else's: each occurrence stands for itself
          : group.stream().flatMap(event -> read(event, List.of()).stream()).toList();
    }
    int newest = 0;
    for (int i = 1; i < masters.size(); i++) {
      newest = CalendarReader.isNewer(masters.get(i), masters.get(newest)) ? i : newest;
    }
    Component master = masters.get(newest);
    List<Entry> entries = new ArrayList<>();
    for (int i = 0; i < masters.size(); i++) {
      if (i != newest) {
        entries.add(
            Entry.refused(
                masters.get(i),
                "the same event comes again in line " + master.number() + ", which is taken",
                List.of()));
      }
    }
    List<Component> exceptions =
        group.stream().filter(event -> event.first("RECURRENCE-ID") != null).toList();
    String older = older(master);
    if (older != null) {
      entries.add(0, Entry.refused(master, older, List.of()));
    } else {
      entries.addAll(0, read(master, exceptions));
    }
    return entries;
  }

  private static boolean isSeries(Meeting meeting) {
    return meeting.recurrence() != null || !meeting.rDates().isEmpty();
  }

  /** Why an object is too old to change what is stored; null where it is not. */
  private @Nullable String older(Component event) {
    if (stored == null) {
      return null;
    }
    int here = stored.details().sequence();
    int there = EventReading.sequence(event);
    if (there < here) {
      return "it is older than what is here (SEQUENCE " + there + ", here " + here + ")";
    }
    String stamp = EventReading.stamp(event);
    String known = stored.details().stamp();
    return there == here && !stamp.isEmpty() && stamp.compareTo(known) < 0
        ? "it was written before what is here (DTSTAMP " + stamp + ", here " + known + ")"
        : null;
  }

  private List<Entry> read(Component event, List<Component> exceptions) {
    List<String> notes = new ArrayList<>();
    try {
      EventReading.Read read = reading.read(event, exceptions, notes);
      List<Entry> entries = new ArrayList<>();
      entries.add(
          new Entry(
              event.number(),
              read.meeting().meeting().title(),
              read.meeting(),
              notes,
              null,
              Act.WHOLE));
      read.apart().forEach(apart -> entries.add(apart(event, apart)));
      return entries;
    } catch (CalendarTimes.Cancelled e) {
      return List.of(Entry.cancelled(event, String.valueOf(e.getMessage()), notes));
    } catch (CalendarTimes.Fault e) {
      return List.of(Entry.refused(event, String.valueOf(e.getMessage()), notes));
    }
  }

  private static Entry apart(Component event, Scheduled apart) {
    return new Entry(
        event.number(),
        apart.meeting().title(),
        apart,
        List.of("a date of the series that differs from it"),
        null,
        Act.WHOLE);
  }

  /** Single dates of a series that is known change these dates and nothing else. */
  private List<Entry> parts(List<Component> group, Scheduled series) {
    List<String> notes = new ArrayList<>();
    Component first = group.get(0);
    List<Component> newer = new ArrayList<>();
    for (Component event : group) {
      String older = older(event);
      if (older == null) {
        newer.add(event);
      } else {
        notes.add("line " + event.number() + ": " + older);
      }
    }
    if (newer.isEmpty()) {
      return List.of(Entry.refused(first, notes.get(0), List.of()));
    }
    try {
      Overrides overrides = over(series, first, notes);
      overrides.take(newer);
      List<Entry> entries = new ArrayList<>();
      entries.add(part(first, changed(series, overrides, newer), notes));
      overrides.apart().forEach(apart -> entries.add(apart(first, apart)));
      return entries;
    } catch (CalendarTimes.Fault e) {
      return List.of(Entry.refused(first, String.valueOf(e.getMessage()), notes));
    }
  }

  private Overrides over(Scheduled series, Component event, List<String> notes) {
    Meeting meeting = series.meeting();
    CalendarTimes.Moment start =
        new CalendarTimes.Moment(
            meeting.start(), meeting.zone(), series.details().wholeDay(), List.of());
    Overrides overrides =
        new Overrides(
            reading,
            bare(event, meeting),
            new Overrides.Series(start, meeting.zone(), meeting.minutes(), meeting.recurrence()),
            notes);
    overrides.drop(new LinkedHashSet<>(meeting.exDates()));
    meeting.changes().forEach(overrides::keep);
    return overrides;
  }

  /** What a date of the stored series is held against: its title and its people. */
  private static Component bare(Component event, Meeting meeting) {
    List<Line> lines = new ArrayList<>();
    lines.add(line("SUMMARY", meeting.title(), event));
    event.all("LOCATION").forEach(lines::add);
    lines.add(line("ORGANIZER", "mailto:" + meeting.host(), event));
    meeting
        .invitees()
        .forEach(invitee -> lines.add(line("ATTENDEE", "mailto:" + invitee.email(), event)));
    event.all("DESCRIPTION").forEach(lines::add);
    event.all("UID").forEach(lines::add);
    return new Component("VEVENT", event.number(), lines, List.of());
  }

  private static Line line(String name, String value, Component at) {
    return new Line(name, Map.of(), value, at.number(), name + ":" + value);
  }

  private static Scheduled changed(Scheduled series, Overrides overrides, List<Component> by) {
    Meeting m = series.meeting();
    List<LocalDateTime> rDates =
        m.rDates().stream().filter(date -> !overrides.isElsewhere(date)).toList();
    return stamped(
        with(series, overrides.recurrence(), overrides.dropped(), rDates, overrides.changes()), by);
  }

  private static Scheduled with(
      Scheduled series,
      @Nullable String recurrence,
      List<LocalDateTime> exDates,
      List<LocalDateTime> rDates,
      List<OccurrenceChange> changes) {
    Meeting meeting = series.meeting().withDates(recurrence, exDates, rDates, changes);
    return new Scheduled(meeting, series.details(), series.passcode(), true);
  }

  /** What is stored is from now on as new as the newest of what changed it. */
  private static Scheduled stamped(Scheduled meeting, List<Component> by) {
    Details details = meeting.details();
    for (Component event : by) {
      if (EventReading.sequence(event) > details.sequence()) {
        details = details.withSequence(EventReading.sequence(event));
      }
    }
    return new Scheduled(meeting.meeting(), details, meeting.passcode(), meeting.passcodeLeftOut());
  }

  private static Entry part(Component event, Scheduled meeting, List<String> notes) {
    return new Entry(
        event.number(), meeting.meeting().title(), meeting, List.copyOf(notes), null, Act.PART);
  }

  /** A further date of a series that is known (section 3.2.4). */
  private Entry add(Component event) {
    if (stored == null || isOurs()) {
      return Entry.refused(event, unknown("adds a date to"), List.of());
    }
    String older = older(event);
    if (older != null) {
      return Entry.refused(event, older, List.of());
    }
    List<String> notes = new ArrayList<>();
    try {
      Line startLine = event.first("DTSTART");
      if (startLine == null) {
        return Entry.refused(event, "it has no DTSTART, so that nobody knows when", List.of());
      }
      Meeting m = stored.meeting();
      CalendarTimes.Moment start = reading.moment(startLine, notes);
      LocalDateTime at = start.in(m.zone());
      int minutes = reading.minutes(event, start, m.zone(), notes);
      Set<LocalDateTime> rDates = new LinkedHashSet<>(m.rDates());
      rDates.add(at);
      Map<LocalDateTime, OccurrenceChange> changes = byDate(m);
      if (minutes != m.minutes()) {
        changes.put(
            at,
            new OccurrenceChange(
                at, null, minutes, app.uprightwarden.core.control.ControlValues.NONE));
      }
      Scheduled with =
          with(
              stored,
              m.recurrence(),
              m.exDates().stream().filter(date -> !date.equals(at)).toList(),
              rDates.stream().sorted().toList(),
              List.copyOf(changes.values()));
      return part(event, stamped(with, List.of(event)), notes);
    } catch (CalendarTimes.Fault e) {
      return Entry.refused(event, String.valueOf(e.getMessage()), notes);
    }
  }

  private static Map<LocalDateTime, OccurrenceChange> byDate(Meeting meeting) {
    Map<LocalDateTime, OccurrenceChange> changes = new TreeMap<>();
    meeting.changes().forEach(change -> changes.put(change.at(), change));
    return changes;
  }

  private String unknown(String what) {
    return stored == null
        ? "it " + what + " a meeting that is not known here"
        : "it " + what + " our own meeting " + stored.meeting().id() + ": change it here";
  }

  /**
   * A cancellation (section 3.2.5): of the whole; of the dates it names; or, where it names
   * attendees and does not say that the event is cancelled, of their invitations.
   */
  private Entry cancel(Component event) {
    if (stored == null || isOurs()) {
      return Entry.refused(event, unknown("cancels"), List.of());
    }
    String older = older(event);
    if (older != null) {
      return Entry.refused(event, older, List.of());
    }
    Line organizer = event.first("ORGANIZER");
    String by = organizer == null ? "" : EventPeople.mailed(organizer.value().strip());
    if (!by.isEmpty() && !Directory.fold(by).equals(Directory.fold(stored.meeting().host()))) {
      return Entry.refused(event, "it comes from " + by + ", who does not host it here", List.of());
    }
    List<String> notes = new ArrayList<>();
    try {
      if (event.first("RECURRENCE-ID") != null) {
        Overrides overrides = over(stored, event, notes);
        overrides.cancel(event);
        return part(event, changed(stored, overrides, List.of(event)), notes);
      }
      Line status = event.first("STATUS");
      boolean isWhole = status != null && status.value().strip().equalsIgnoreCase("CANCELLED");
      Set<String> named =
          event
              .all("ATTENDEE")
              .map(line -> Directory.fold(EventPeople.mailed(line.value().strip())))
              .collect(Collectors.toSet());
      if (isWhole || named.isEmpty()) {
        return new Entry(
            event.number(), stored.meeting().title(), stored, List.of(), null, Act.CANCEL);
      }
      return part(event, stamped(without(stored, named), List.of(event)), notes);
    } catch (CalendarTimes.Fault e) {
      return Entry.refused(event, String.valueOf(e.getMessage()), notes);
    }
  }

  private static Scheduled without(Scheduled of, Set<String> people) {
    Meeting m = of.meeting();
    List<Invitee> left =
        m.invitees().stream()
            .filter(invitee -> !people.contains(Directory.fold(invitee.email())))
            .toList();
    return new Scheduled(m.withInvitees(left), of.details(), of.passcode(), true);
  }
}
