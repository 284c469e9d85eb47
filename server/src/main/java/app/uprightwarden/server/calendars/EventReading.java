package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.calendars.CalendarTimes.Fault;
import app.uprightwarden.server.calendars.CalendarTimes.Moment;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingReading;
import app.uprightwarden.server.register.Scheduled;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;

/** Makes a meeting of one event with its exceptions. */
final class EventReading {
  private static final int MOST_MINUTES = 100_000;
  private static final int ASSUMED_MINUTES = 30;

  /** Properties that are understood here; others go along as they are. */
  private static final Set<String> UNDERSTOOD =
      Set.of(
          "UID",
          "DTSTAMP",
          "DTSTART",
          "DTEND",
          "DURATION",
          "RRULE",
          "RDATE",
          "EXDATE",
          "RECURRENCE-ID",
          "SUMMARY",
          "DESCRIPTION",
          "ORGANIZER",
          "ATTENDEE",
          "SEQUENCE");

  private final Zones zones;
  private final CalendarReader.Defaults defaults;
  private final MeetingReading.Judge judge;

  EventReading(Zones zones, CalendarReader.Defaults defaults, MeetingReading.Judge judge) {
    this.zones = zones;
    this.defaults = defaults;
    this.judge = judge;
  }

  Scheduled read(Component event, List<Component> exceptions, List<String> notes) {
    Line status = event.first("STATUS");
    if (status != null && status.value().strip().equalsIgnoreCase("CANCELLED")) {
      throw new Fault(status, "it is cancelled there; cancel the meeting here if it is still held");
    }
    Line startLine = event.first("DTSTART");
    if (startLine == null) {
      throw new Fault(event, "the event has no DTSTART, so that nobody knows when it is");
    }
    Moment start = moment(startLine, notes);
    ZoneId zone = start.zone() == null ? defaults.zone() : start.zone();
    if (start.zone() == null && !start.day()) {
      notes.add("no zone is given: " + zone.getId() + " is assumed");
    }
    int minutes = minutes(event, start, zone, notes);
    String recurrence = recurrence(event, zone, start.local());
    EventPeople people = EventPeople.of(event, defaults, notes);
    OwnLines own = OwnLines.of(event, defaults.organisation(), notes);
    String title = title(event, notes);
    Line descriptionLine = event.first("DESCRIPTION");
    String description = cut(descriptionLine == null ? "" : descriptionLine.text(), 100_000, notes);
    Recognised recognised = recognise(event, description);
    String passcode = own.passcode() == null ? recognised.passcode() : own.passcode();
    Set<LocalDateTime> dropped = EventDates.of(event, "EXDATE", zone, start, zones);
    List<OccurrenceChange> changes = new ArrayList<>();
    for (Component exception : exceptions) {
      change(exception, zone, start, minutes, dropped, changes, notes);
    }
    String uid = uid(event);
    Meeting meeting =
        new Meeting(
            id(uid, event, own),
            title,
            description,
            own.kind(),
            people.host(),
            own.coHosts(),
            own.presenters(),
            people.invitees(),
            people.lists(),
            own.space(),
            start.local(),
            zone,
            minutes,
            recurrence,
            List.copyOf(dropped),
            List.copyOf(EventDates.of(event, "RDATE", zone, start, zones)),
            own.number() == null ? recognised.number() : own.number(),
            CalendarReader.facts(passcode, title, description, people.host(), judge),
            controls(event, own, recognised),
            List.copyOf(changes));
    Details details =
        new Details(
            people.room(),
            start.day(),
            reminder(event),
            own.groups(),
            isOurs(uid, own) ? null : uid,
            sequence(event),
            foreign(event, people.room()));
    return new Scheduled(meeting, details, passcode, passcode == null);
  }

  private Moment moment(Line line, List<String> notes) {
    Moment moment = CalendarTimes.moment(line, zones);
    moment.notes().stream().filter(note -> !notes.contains(note)).forEach(notes::add);
    return moment;
  }

  private int minutes(Component event, Moment start, ZoneId zone, List<String> notes) {
    Line end = event.first("DTEND");
    Line duration = event.first("DURATION");
    long minutes;
    if (end != null) {
      Moment until = moment(end, notes);
      Duration between =
          start.day()
              ? Duration.between(start.local(), until.local())
              : Duration.between(
                  start.local().atZone(zone),
                  until.local().atZone(until.zone() == null ? zone : until.zone()));
      if (between.isNegative()) {
        throw new Fault(end, "the event ends before it begins");
      }
      minutes = between.toMinutes();
    } else if (duration != null) {
      minutes = CalendarTimes.duration(duration).toMinutes();
    } else {
      minutes = start.day() ? Duration.ofDays(1).toMinutes() : 0;
    }
    if (minutes < 1) {
      notes.add("no length is given: " + ASSUMED_MINUTES + " minutes are assumed");
      return ASSUMED_MINUTES;
    }
    if (minutes > MOST_MINUTES) {
      throw new Fault(
          end == null ? Objects.requireNonNull(duration) : end,
          "it lasts " + minutes / 1440 + " days; " + MOST_MINUTES / 1440 + " are the most");
    }
    return (int) minutes;
  }

  private static @Nullable String recurrence(Component event, ZoneId zone, LocalDateTime start) {
    List<Line> rules = event.all("RRULE").toList();
    if (rules.isEmpty()) {
      return null;
    }
    if (rules.size() > 1) {
      throw new Fault(rules.get(1), "the event has two recurrence rules; split it in two");
    }
    Line rule = rules.get(0);
    try {
      Recurrence.parse(rule.value(), zone).checkPace(start);
    } catch (IllegalArgumentException e) {
      throw new Fault(rule, String.valueOf(e.getMessage()), e);
    }
    String text = rule.value().strip();
    if (text.length() > 500) {
      throw new Fault(rule, "the rule is longer than 500 characters");
    }
    return text;
  }

  private void change(
      Component exception,
      ZoneId zone,
      Moment first,
      int minutes,
      Set<LocalDateTime> dropped,
      List<OccurrenceChange> changes,
      List<String> notes) {
    Line id = Objects.requireNonNull(exception.first("RECURRENCE-ID"));
    if (id.parameter("RANGE") != null) {
      throw new Fault(id, "it changes this and all later occurrences; split the series there");
    }
    LocalDateTime at = EventDates.local(moment(id, notes), zone, first);
    Line status = exception.first("STATUS");
    if (status != null && status.value().strip().equalsIgnoreCase("CANCELLED")) {
      dropped.add(at);
      return;
    }
    if (changes.stream().anyMatch(c -> c.at().equals(at))) {
      throw new Fault(id, "this occurrence is changed twice");
    }
    Line startLine = exception.first("DTSTART");
    LocalDateTime start =
        startLine == null ? at : EventDates.local(moment(startLine, notes), zone, first);
    boolean hasLength = exception.first("DTEND") != null || exception.first("DURATION") != null;
    int length =
        startLine != null && hasLength
            ? minutes(exception, moment(startLine, notes), zone, notes)
            : minutes;
    ControlValues over = OwnLines.of(exception, defaults.organisation(), notes).controls();
    changes.add(
        new OccurrenceChange(
            at, start.equals(at) ? null : start, length == minutes ? null : length, over));
  }

  private static String title(Component event, List<String> notes) {
    String title = CalendarReader.title(event);
    if (title.isEmpty()) {
      notes.add("the event has no title");
      return "(without a title)";
    }
    return title;
  }

  private static String cut(String text, int most, List<String> notes) {
    if (text.length() <= most) {
      return text;
    }
    notes.add("the description is cut off at " + most + " characters");
    return Texts.cut(text, most);
  }

  private static Recognised recognise(Component event, String description) {
    Recognised found = Recognised.in(description);
    for (String name : List.of("CONFERENCE", "LOCATION", "URL")) {
      for (Line line : event.all(name).toList()) {
        found = found.or(Recognised.in(name.equals("LOCATION") ? line.text() : line.value()));
      }
    }
    return found;
  }

  private static ControlValues controls(Component event, OwnLines own, Recognised recognised) {
    ControlValues controls = own.controls();
    Line listing = event.first("CLASS");
    if (listing != null && listing.value().strip().equalsIgnoreCase("PUBLIC")) {
      controls = unlessSaid(controls, Control.LISTING, "public");
    }
    if (recognised.passcode() != null) {
      controls = unlessSaid(controls, Control.PASSCODE, "required");
    }
    if (recognised.inLink()) {
      controls = unlessSaid(controls, Control.PASSCODE_IN_LINK, "embedded");
    }
    if (recognised.inText()) {
      controls = unlessSaid(controls, Control.PASSCODE_IN_MAIL, "shown");
    }
    return controls;
  }

  private static ControlValues unlessSaid(ControlValues controls, Control control, String word) {
    return controls.get(control) == null ? controls.with(control, control.parse(word)) : controls;
  }

  private static @Nullable Integer reminder(Component event) {
    for (Component alarm : event.inside()) {
      Line trigger = alarm.first("TRIGGER");
      if (alarm.name().equals("VALARM") && trigger != null && trigger.value().startsWith("-P")) {
        long minutes = CalendarTimes.duration(trigger).negated().toMinutes();
        return minutes <= 40_320 ? (int) minutes : null;
      }
    }
    return null;
  }

  /** Whether the name is just our own id, as we give it out. */
  private static boolean isOurs(@Nullable String uid, OwnLines own) {
    return uid != null && own.id() != null && uid.equals(Details.uid(own.id(), Details.NONE));
  }

  static int sequence(Component event) {
    Line line = event.first("SEQUENCE");
    String text = line == null ? "0" : line.value().strip();
    return text.matches("\\d{1,6}") ? Integer.parseInt(text) : 0;
  }

  private static @Nullable String uid(Component event) {
    Line line = event.first("UID");
    String uid = line == null ? "" : line.value().strip();
    return uid.isEmpty() ? null : Texts.cut(uid, 255);
  }

  /** Our own id where the calendar carries one; else one that the same event always gets. */
  private String id(@Nullable String uid, Component event, OwnLines own) {
    if (own.id() != null) {
      return own.id();
    }
    String known = uid == null ? null : defaults.ids().get(uid);
    if (known != null) {
      return known;
    }
    String name =
        uid == null
            ? CalendarReader.title(event)
                + "|"
                + Objects.requireNonNull(event.first("DTSTART")).value()
            : uid;
    Line occurrence = event.first("RECURRENCE-ID");
    String whole = occurrence == null ? name : name + "|" + occurrence.value();
    return "ics-" + AccessHash.sha256(whole).substring(0, 20);
  }

  private List<String> foreign(Component event, @Nullable String room) {
    String place =
        defaults.organisation().rooms().stream()
            .filter(r -> r.id().equals(room))
            .map(Organisation.Room::name)
            .findFirst()
            .orElse("");
    List<String> lines = new ArrayList<>();
    for (Line line : event.lines()) {
      boolean understood =
          UNDERSTOOD.contains(line.name())
              || OwnLines.isOwn(line.name())
              || line.name().equals("LOCATION") && line.text().strip().equalsIgnoreCase(place);
      if (!understood && line.whole().length() <= 20_000 && lines.size() < 200) {
        lines.add(line.whole());
      }
    }
    return List.copyOf(lines);
  }
}
