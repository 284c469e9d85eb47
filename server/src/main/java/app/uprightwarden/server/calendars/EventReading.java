package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.calendars.CalendarTimes.Fault;
import app.uprightwarden.server.calendars.CalendarTimes.Moment;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingJsonParser;
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
  static final int MAX_MINUTES = 100_000;
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
  private final MeetingJsonParser.Judge judge;

  EventReading(Zones zones, CalendarReader.Defaults defaults, MeetingJsonParser.Judge judge) {
    this.zones = zones;
    this.defaults = defaults;
    this.judge = judge;
  }

  /**
   * What one event with its exceptions is.
   *
   * @param apart dates of the series that are meetings of their own, since they differ in more than
   *     a date of a series can: people, title, place, link or passcode
   */
  record Read(Scheduled meeting, List<Scheduled> apart) {}

  Read read(Component event, List<Component> exceptions, List<String> notes) {
    Line status = event.first("STATUS");
    if (status != null && status.value().strip().equalsIgnoreCase("CANCELLED")) {
      throw new CalendarTimes.Cancelled(
          status, "it is cancelled there; cancel the meeting here if it is still held");
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
    String uid = uid(event);
    VendorProperties own = own(event, uid, notes);
    String title = title(event, notes);
    String description = cut(description(event), 100_000, notes);
    Recognised recognised = Recognised.in(event, description);
    recognised.doubts().stream().filter(doubt -> !notes.contains(doubt)).forEach(notes::add);
    String passcode = own.passcode() == null ? recognised.passcode() : own.passcode();
    Overrides overrides =
        new Overrides(this, event, new Overrides.Series(start, zone, minutes, recurrence), notes);
    overrides.drop(EventDates.of(event, "EXDATE", zone, start, zones));
    EventDates.lengths(event, zone, start, zones).forEach(overrides::lengthen);
    overrides.take(exceptions);
    Set<LocalDateTime> rDates = EventDates.of(event, "RDATE", zone, start, zones);
    rDates.removeIf(overrides::isElsewhere);
    Meeting meeting =
        new Meeting(
            id(uid, event, own),
            title,
            description,
            own.kind(),
            people.host(),
            own.coHosts(),
            own.presenters(),
            VendorProperties.withTasks(event, people.invitees()),
            people.lists(),
            own.space(),
            start.local(),
            zone,
            minutes,
            overrides.recurrence(),
            overrides.dropped(),
            List.copyOf(rDates),
            own.number() == null ? recognised.number() : own.number(),
            CalendarReader.facts(passcode, title, description, people.host(), judge),
            controls(event, own, recognised),
            overrides.changes());
    Details details =
        new Details(
            people.room(),
            start.day(),
            reminder(event),
            own.groups(),
            isOurs(uid, meeting.id()) ? null : uid,
            sequence(event),
            foreign(event, people.room(), notes));
    return new Read(new Scheduled(meeting, details, passcode, passcode == null), overrides.apart());
  }

  Zones zones() {
    return zones;
  }

  /** The zone and address of an event that stands for itself. */
  CalendarReader.Defaults defaults() {
    return defaults;
  }

  /** A description, of which the plain text counts; where there is none, what HTML says. */
  static String description(Component event) {
    Line plain = event.first("DESCRIPTION");
    if (plain != null && !plain.text().isBlank()) {
      return plain.text();
    }
    return event
        .all("X-ALT-DESC")
        .map(line -> HtmlText.of(line.text()))
        .findFirst()
        .orElse(plain == null ? "" : plain.text());
  }

  /**
   * Our own lines. A name for one of our meetings is believed only where the calendar's own name
   * for it is that meeting's: else a foreign file could lay its hand on any meeting.
   */
  private VendorProperties own(Component event, @Nullable String uid, List<String> notes) {
    VendorProperties own = VendorProperties.of(event, defaults.organisation(), notes);
    String claimed = own.id();
    Scheduled there = claimed == null ? null : defaults.known().byId(claimed);
    if (there != null && !Details.uid(there.meeting().id(), there.details()).equals(uid)) {
      notes.add(
          "it says that it is our meeting "
              + claimed
              + ", but its UID is another: it is taken as a meeting of its own");
      return own.withoutId();
    }
    return own;
  }

  Moment moment(Line line, List<String> notes) {
    Moment moment = CalendarTimes.moment(line, zones);
    moment.notes().stream().filter(note -> !notes.contains(note)).forEach(notes::add);
    return moment;
  }

  int minutes(Component event, Moment start, ZoneId series, List<String> notes) {
    // an exception may be written on another clock than its series
    ZoneId zone = start.zone() == null ? series : start.zone();
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
      CalendarTimes.Length length = CalendarTimes.length(duration);
      minutes = (start.day() ? length.plain() : length.from(start.local(), zone)).toMinutes();
      if (minutes < 0) {
        throw new Fault(duration, "the event ends before it begins");
      }
    } else {
      minutes = start.day() ? Duration.ofDays(1).toMinutes() : 0;
    }
    if (minutes < 1) {
      notes.add("no length is given: " + ASSUMED_MINUTES + " minutes are assumed");
      return ASSUMED_MINUTES;
    }
    if (minutes > MAX_MINUTES) {
      throw new Fault(
          end == null ? Objects.requireNonNull(duration) : end,
          "it lasts " + minutes / 1440 + " days; " + MAX_MINUTES / 1440 + " are the most");
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

  private static ControlValues controls(
      Component event, VendorProperties own, Recognised recognised) {
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
        long minutes = CalendarTimes.length(trigger).negated().plain().toMinutes();
        return minutes <= 40_320 ? (int) minutes : null;
      }
    }
    return null;
  }

  /** Whether the name is just our own id, as we give it out. */
  private static boolean isOurs(@Nullable String uid, String id) {
    return uid != null && uid.equals(Details.uid(id, Details.NONE));
  }

  static int sequence(Component event) {
    Line line = event.first("SEQUENCE");
    String text = line == null ? "0" : line.value().strip();
    return text.matches("\\d{1,6}") ? Integer.parseInt(text) : 0;
  }

  /** When it was written, as the calendar says (DTSTAMP); empty where it does not. */
  static String stamp(Component event) {
    Line line = event.first("DTSTAMP");
    String text = line == null ? "" : line.value().strip();
    return text.matches("\\d{8}T\\d{6}Z") ? text : "";
  }

  static @Nullable String uid(Component event) {
    Line line = event.first("UID");
    String uid = line == null ? "" : line.value().strip();
    return uid.isEmpty() ? null : Texts.cut(uid, 255);
  }

  /** Our own id where the calendar carries one; else one that the same event always gets. */
  private String id(@Nullable String uid, Component event, VendorProperties own) {
    if (own.id() != null) {
      return own.id();
    }
    Scheduled known = uid == null ? null : defaults.known().byUid(uid);
    if (known != null && event.first("RECURRENCE-ID") == null) {
      return known.meeting().id();
    }
    String name =
        uid == null
            ? CalendarReader.title(event)
                + "|"
                + Objects.requireNonNull(event.first("DTSTART")).value()
            : uid;
    Line occurrence = event.first("RECURRENCE-ID");
    return idOf(occurrence == null ? name : name + "|" + occurrence.value());
  }

  static String idOf(String name) {
    return "ics-" + AccessHash.sha256(name).substring(0, 20);
  }

  private List<String> foreign(Component event, @Nullable String room, List<String> notes) {
    String place =
        defaults.organisation().rooms().stream()
            .filter(r -> r.id().equals(room))
            .map(Organisation.Room::name)
            .findFirst()
            .orElse("");
    List<String> lines = new ArrayList<>();
    String stamp = stamp(event);
    if (!stamp.isEmpty()) {
      lines.add(Details.STAMP + stamp);
    }
    int attachments = 0;
    int others = 0;
    for (Line line : event.lines()) {
      boolean understood =
          UNDERSTOOD.contains(line.name())
              || VendorProperties.isOwn(line.name())
              || line.name().equals("LOCATION") && line.text().strip().equalsIgnoreCase(place);
      if (understood) {
        continue;
      }
      if (line.whole().length() <= 20_000 && lines.size() < 200) {
        lines.add(line.whole());
      } else if (line.name().equals("ATTACH")) {
        attachments++;
      } else {
        others++;
      }
    }
    if (attachments > 0) {
      notes.add(
          attachments == 1
              ? "a file that is attached to it is left out"
              : attachments + " files that are attached to it are left out");
    }
    if (others > 0) {
      notes.add(
          others
              + (others == 1 ? " line of it is" : " lines of it are")
              + " too long or too many to keep");
    }
    return List.copyOf(lines);
  }
}
