package app.uprightwarden.server.calendars;

import app.uprightwarden.core.calendar.Recurrence;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.calendars.CalendarTimes.Fault;
import app.uprightwarden.server.calendars.CalendarTimes.Moment;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.time.Duration;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * What single dates of a series are (RFC 5545 section 3.8.4.4): dropped, moved, longer or with
 * other controls. One that differs in its people, title, place, link or passcode is a meeting of
 * its own, so that it is judged as what it is.
 */
final class Overrides {
  /** So many dates are changed one by one; a series of more is split. */
  private static final int MAX = 1000;

  private static final Set<String> OF_THE_SERIES =
      Set.of(
          "RRULE",
          "RDATE",
          "EXDATE",
          "DTSTART",
          "DTEND",
          "DURATION",
          "RECURRENCE-ID",
          "UID",
          "SEQUENCE",
          "DTSTAMP",
          "STATUS",
          VendorProperties.PREFIX + "ID");

  /**
   * The series they belong to.
   *
   * @param recurrence its rule, or null for one that has dates besides alone
   */
  record Series(Moment start, ZoneId zone, int minutes, @Nullable String recurrence) {}

  private final EventReading reading;
  private final Component event;
  private final Series series;
  private final List<String> notes;
  private final Set<LocalDateTime> dropped = new LinkedHashSet<>();
  private final Map<LocalDateTime, OccurrenceChange> changes = new TreeMap<>();
  private final List<Scheduled> apart = new ArrayList<>();
  private @Nullable String recurrence;
  private @Nullable LocalDateTime splitAt;

  Overrides(EventReading reading, Component event, Series series, List<String> notes) {
    this.reading = reading;
    this.event = event;
    this.series = series;
    this.notes = notes;
    this.recurrence = series.recurrence();
  }

  @Nullable String recurrence() {
    return recurrence;
  }

  List<LocalDateTime> dropped() {
    return List.copyOf(dropped);
  }

  List<OccurrenceChange> changes() {
    return List.copyOf(changes.values());
  }

  List<Scheduled> apart() {
    return List.copyOf(apart);
  }

  void drop(Set<LocalDateTime> dates) {
    dropped.addAll(dates);
  }

  /** A date that differed before. */
  void keep(OccurrenceChange change) {
    changes.put(change.at(), change);
  }

  /** A date, or this and all later ones, is cancelled. */
  void cancel(Component exception) {
    LocalDateTime at = at(exception);
    if (isOnwards(exception) && recurrence != null) {
      end(recurrence, at);
    } else {
      dropped.add(at);
      changes.remove(at);
    }
  }

  /** A date with a length of its own. */
  void lengthen(LocalDateTime at, int minutes) {
    if (minutes != series.minutes()) {
      changes.put(at, new OccurrenceChange(at, null, minutes, ControlValues.NONE));
    }
  }

  /** Whether a date has gone over into a series of its own. */
  boolean isElsewhere(LocalDateTime at) {
    return splitAt != null && !at.isBefore(splitAt);
  }

  /** Takes all exceptions in, whatever their order; those for one date alone go before others. */
  void take(List<Component> exceptions) {
    Set<LocalDateTime> own = new TreeSet<>();
    List<Component> onwards = new ArrayList<>();
    for (Component exception : newest(exceptions)) {
      if (isOnwards(exception)) {
        onwards.add(exception);
      } else {
        LocalDateTime at = at(exception);
        own.add(at);
        one(exception, at);
      }
    }
    onwards.forEach(exception -> onwards(exception, own));
  }

  /** Of several for one date the newest (RFC 5546 section 2.1.5). */
  private List<Component> newest(List<Component> exceptions) {
    Map<String, Component> byDate = new TreeMap<>();
    for (Component exception : exceptions) {
      byDate.merge(
          at(exception) + (isOnwards(exception) ? "+" : ""),
          exception,
          (a, b) -> {
            if (CalendarReader.isNewer(b, a)) {
              return b;
            }
            notes.add("line " + b.number() + ": this date is changed twice; the newer is taken");
            return a;
          });
    }
    return List.copyOf(byDate.values());
  }

  private static boolean isOnwards(Component exception) {
    String range = Objects.requireNonNull(exception.first("RECURRENCE-ID")).parameter("RANGE");
    return range != null && range.equalsIgnoreCase("THISANDFUTURE");
  }

  private LocalDateTime at(Component exception) {
    Line id = Objects.requireNonNull(exception.first("RECURRENCE-ID"));
    return EventDates.local(reading.moment(id, notes), series.zone(), series.start());
  }

  private static boolean isCancelled(Component exception) {
    Line status = exception.first("STATUS");
    return status != null && status.value().strip().equalsIgnoreCase("CANCELLED");
  }

  private void one(Component exception, LocalDateTime at) {
    if (isCancelled(exception)) {
      dropped.add(at);
    } else if (isApart(exception)) {
      apart(exception, at);
    } else {
      LocalDateTime start = start(exception, at);
      change(at, start, length(exception), controls(exception));
    }
  }

  private ControlValues controls(Component exception) {
    return VendorProperties.of(exception, reading.defaults().organisation(), notes).controls();
  }

  private void change(LocalDateTime at, LocalDateTime start, int minutes, ControlValues over) {
    boolean same =
        start.equals(at) && minutes == series.minutes() && over.equals(ControlValues.NONE);
    if (same) {
      changes.remove(at);
      return;
    }
    changes.put(
        at,
        new OccurrenceChange(
            at,
            start.equals(at) ? null : start,
            minutes == series.minutes() ? null : minutes,
            over));
  }

  private LocalDateTime start(Component exception, LocalDateTime at) {
    Line line = exception.first("DTSTART");
    return line == null
        ? at
        : EventDates.local(reading.moment(line, notes), series.zone(), series.start());
  }

  private int length(Component exception) {
    Line start = exception.first("DTSTART");
    boolean says = exception.first("DTEND") != null || exception.first("DURATION") != null;
    return start != null && says
        ? reading.minutes(exception, reading.moment(start, notes), series.zone(), notes)
        : series.minutes();
  }

  /** Whether it differs in what a date of a series has in common with the others. */
  private boolean isApart(Component exception) {
    return differs(exception, "SUMMARY")
        || differs(exception, "LOCATION")
        || differs(exception, "ORGANIZER")
        || exception.first("ATTENDEE") != null && !people(exception).equals(people(event))
        || gives(exception) && !given(exception).equals(given(event));
  }

  private boolean differs(Component exception, String name) {
    Line here = exception.first(name);
    Line there = event.first(name);
    return here != null
        && !here.text().strip().equalsIgnoreCase(there == null ? "" : there.text().strip());
  }

  private static Set<String> people(Component component) {
    return component
        .all("ATTENDEE")
        .map(line -> Directory.fold(EventPeople.mailed(line.value().strip())))
        .collect(Collectors.toSet());
  }

  private static boolean gives(Component exception) {
    return List.of("DESCRIPTION", "CONFERENCE", "URL", "X-ALT-DESC").stream()
        .anyMatch(name -> exception.first(name) != null);
  }

  private static Recognised given(Component component) {
    return Recognised.in(component, EventReading.description(component)).withoutDoubts();
  }

  /** A date as a meeting of its own, with what it does not say as the series has it. */
  private void apart(Component exception, LocalDateTime at) {
    dropped.add(at);
    changes.remove(at);
    apart.add(reading.read(whole(exception, at, null), List.of(), notes).meeting());
    notes.add(
        "the date "
            + at.toLocalDate()
            + " differs in people, title, place, link or passcode: it is a meeting of its own");
  }

  private Component whole(Component exception, LocalDateTime at, @Nullable String rule) {
    List<Line> lines = new ArrayList<>();
    Set<String> said =
        exception.lines().stream().map(Line::name).collect(Collectors.toCollection(TreeSet::new));
    for (Line line : event.lines()) {
      boolean adds = line.name().equals(VendorProperties.PREFIX + "CONTROL");
      if (!OF_THE_SERIES.contains(line.name()) && (adds || !said.contains(line.name()))) {
        lines.add(line);
      }
    }
    for (Line line : exception.lines()) {
      if (!line.name().equals("RECURRENCE-ID") && !line.name().equals("UID")) {
        lines.add(line);
      }
    }
    Line id = Objects.requireNonNull(exception.first("RECURRENCE-ID"));
    if (exception.first("DTSTART") == null) {
      lines.add(line("DTSTART", id.parameters(), id.value(), id));
    }
    if (exception.first("DTEND") == null && exception.first("DURATION") == null) {
      String length =
          series.start().day()
              ? "P" + series.minutes() / 1440 + "D"
              : "PT" + series.minutes() + "M";
      lines.add(line("DURATION", Map.of(), length, id));
    }
    if (rule != null) {
      lines.add(line("RRULE", Map.of(), rule, id));
    }
    // the same date gets the same id, in whichever zone it is written
    String uid = EventReading.uid(event);
    String name = EventReading.idOf((uid == null ? CalendarReader.title(event) : uid) + "|" + at);
    lines.add(line(VendorProperties.PREFIX + "ID", Map.of(), name, id));
    lines.add(line("UID", Map.of(), Details.uid(name, Details.NONE), id));
    return new Component("VEVENT", exception.number(), lines, exception.inside());
  }

  private static Line line(
      String name, Map<String, List<String>> parameters, String value, Line at) {
    return new Line(name, parameters, value, at.number(), name + ":" + value);
  }

  /** This and all later dates (section 3.2.13): they move by as much as this one does. */
  private void onwards(Component exception, Set<LocalDateTime> own) {
    Line id = Objects.requireNonNull(exception.first("RECURRENCE-ID"));
    LocalDateTime at = at(exception);
    String rule = recurrence;
    if (rule == null) {
      one(exception, at);
      return;
    }
    Recurrence parsed = Recurrence.parse(rule, series.zone());
    if (isCancelled(exception)) {
      end(rule, at);
      return;
    }
    LocalDateTime start = start(exception, at);
    Duration by = Duration.between(at, start);
    if (!isApart(exception) && parsed.ends()) {
      List<LocalDateTime> later = later(id, parsed, at);
      int minutes = length(exception);
      ControlValues over = controls(exception);
      later.stream()
          .filter(date -> !own.contains(date) && !dropped.contains(date))
          .forEach(date -> change(date, date.plus(by), minutes, over));
      return;
    }
    boolean keepsItsDays = start.toLocalDate().equals(at.toLocalDate()) || !rule.contains("BY");
    if (!keepsItsDays) {
      throw new Fault(
          id, "it moves this and all later dates to other days; split the series there");
    }
    end(rule, at);
    apart.add(
        reading.read(whole(exception, at, rest(rule, id, parsed, at)), List.of(), notes).meeting());
    notes.add("from " + at.toLocalDate() + " on it is a series of its own");
  }

  private List<LocalDateTime> later(Line id, Recurrence parsed, LocalDateTime at) {
    List<LocalDateTime> later = new ArrayList<>();
    Recurrence.Starts starts = parsed.from(series.start().local());
    starts.skipTo(at);
    while (starts.hasNext()) {
      later.add(starts.next());
      if (later.size() > MAX) {
        throw new Fault(id, "it changes more than " + MAX + " dates; split the series there");
      }
    }
    return later;
  }

  /** Ends the series before a date. */
  private void end(String rule, LocalDateTime at) {
    LocalDateTime last = at.minusSeconds(1);
    String until =
        series.start().day()
            ? at.minusDays(1).format(CalendarTimes.DATE)
            : last.atZone(series.zone())
                    .withZoneSameInstant(ZoneOffset.UTC)
                    .toLocalDateTime()
                    .format(CalendarTimes.TIME)
                + "Z";
    recurrence = without(rule) + ";UNTIL=" + until;
    splitAt = at;
    dropped.removeIf(date -> !date.isBefore(at));
    changes.keySet().removeIf(date -> !date.isBefore(at));
  }

  private String rest(String rule, Line id, Recurrence parsed, LocalDateTime at) {
    return rule.toUpperCase(java.util.Locale.ROOT).contains("COUNT=")
        ? without(rule) + ";COUNT=" + later(id, parsed, at).size()
        : rule;
  }

  private static String without(String rule) {
    return rule.replaceAll("(?i);?(?:COUNT|UNTIL)=[^;]*", "").replaceFirst("^;", "");
  }
}
