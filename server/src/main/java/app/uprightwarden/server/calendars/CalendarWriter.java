package app.uprightwarden.server.calendars;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.OccurrenceChange;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.Scheduled;
import java.time.Instant;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/** Writes meetings as a calendar (RFC 5545), as an invitation or a cancellation (RFC 5546). */
public final class CalendarWriter {
  /** Up to so many who are invited are named to each other in an invitation. */
  private static final int MAX_NAMED = 100;

  private static final int MAX_REPEATED = 10_000;

  private static final String PRODUCT = "-//Upright Warden//Meetings//EN";

  private final Organisation organisation;
  private final Map<String, String> names;
  private final Instant now;
  private final Style style;
  private @Nullable String recipient;

  /**
   * What goes in.
   *
   * @param method {@code REQUEST}, {@code CANCEL} or {@code PUBLISH}; null for none
   * @param people organiser and attendees
   * @param controls our own lines, so that a round trip loses nothing
   * @param description agenda and whatever else was written there
   * @param cancelled whether the meeting is no longer held
   */
  public record Style(
      @Nullable String method,
      boolean people,
      boolean controls,
      boolean description,
      boolean cancelled) {
    public static final Style WHOLE = new Style(null, true, true, true, false);
    public static final Style INVITATION = new Style("REQUEST", true, false, true, false);
    public static final Style CANCELLATION = new Style("CANCEL", true, false, false, true);

    /** To somebody who is no longer invited, while the meeting is held (RFC 5546 section 3.2.5). */
    public static final Style WITHDRAWAL = new Style("CANCEL", true, false, false, false);

    /** Without secrets and without people, for programs that show when one is busy with what. */
    public static final Style FEED = new Style("PUBLISH", false, false, false, false);
  }

  /**
   * @param names names of people by their folded address
   */
  public CalendarWriter(
      Organisation organisation, Map<String, String> names, Instant now, Style style) {
    this.organisation = organisation;
    this.names = names;
    this.now = now;
    this.style = style;
  }

  /** Makes somebody an attendee who is reached only through a list, so that they can answer. */
  public CalendarWriter forRecipient(String email) {
    recipient = email;
    return this;
  }

  /**
   * A calendar of these meetings.
   *
   * @param title what programs call it, or null
   */
  public String write(List<Scheduled> meetings, @Nullable String title) {
    ContentLines out = new ContentLines();
    out.line("BEGIN", "VCALENDAR");
    out.line("VERSION", "2.0");
    out.line("PRODID", PRODUCT);
    out.line("CALSCALE", "GREGORIAN");
    if (style.method() != null) {
      out.line("METHOD", style.method());
    }
    if (title != null) {
      out.line("NAME", ContentLines.escape(title)); // RFC 7986 section 5.1
      out.line("X-WR-CALNAME", ContentLines.escape(title));
    }
    zones(meetings).forEach((zone, from) -> ZoneText.write(out, zone, from));
    meetings.forEach(meeting -> write(out, meeting));
    out.line("END", "VCALENDAR");
    return out.toString();
  }

  private static Map<ZoneId, LocalDateTime> zones(List<Scheduled> meetings) {
    Map<ZoneId, LocalDateTime> zones = new TreeMap<>((a, b) -> a.getId().compareTo(b.getId()));
    for (Scheduled scheduled : meetings) {
      Meeting meeting = scheduled.meeting();
      if (!scheduled.details().wholeDay() && !isUtc(meeting.zone())) {
        zones.merge(meeting.zone(), meeting.start(), (a, b) -> a.isBefore(b) ? a : b);
      }
    }
    return zones;
  }

  private static boolean isUtc(ZoneId zone) {
    return zone.getId().equals("UTC") || zone.getId().equals("Z");
  }

  private void write(ContentLines out, Scheduled scheduled) {
    Meeting meeting = scheduled.meeting();
    Details details = scheduled.details();
    out.line("BEGIN", "VEVENT");
    common(out, scheduled, true);
    time(out, "DTSTART", meeting.start(), scheduled);
    duration(out, meeting.minutes(), details.wholeDay());
    if (meeting.recurrence() != null) {
      out.line("RRULE", meeting.recurrence());
    }
    times(out, "EXDATE", meeting.exDates(), scheduled);
    times(out, "RDATE", meeting.rDates(), scheduled);
    if (style.controls()) {
      own(out, scheduled);
    }
    if (style.description()) {
      details.withoutStamp().foreign().forEach(out::raw);
    } else if (style.equals(Style.FEED)) {
      // nothing of what others wrote, save where to join, which only somebody's own feed is given
      details.foreign().stream().filter(l -> l.startsWith("CONFERENCE;")).forEach(out::raw);
    }
    reminder(out, meeting, details);
    out.line("END", "VEVENT");
    if (meeting.recurrence() != null || !meeting.rDates().isEmpty()) {
      meeting.changes().forEach(change -> exception(out, scheduled, change));
    }
  }

  private void exception(ContentLines out, Scheduled scheduled, OccurrenceChange change) {
    Meeting meeting = scheduled.meeting();
    boolean moved = change.start() != null || change.minutes() != null;
    if (!moved && !style.controls() || meeting.exDates().contains(change.at())) {
      return;
    }
    out.line("BEGIN", "VEVENT");
    common(out, scheduled, !isCrowded(meeting));
    time(out, "RECURRENCE-ID", change.at(), scheduled);
    time(out, "DTSTART", change.start() == null ? change.at() : change.start(), scheduled);
    duration(
        out,
        change.minutes() == null ? meeting.minutes() : change.minutes(),
        scheduled.details().wholeDay());
    if (style.controls()) {
      controls(out, change.controls());
    }
    out.line("END", "VEVENT");
  }

  /** Everybody's name again at each date that differs would grow with the product of both. */
  private static boolean isCrowded(Meeting meeting) {
    return meeting.invitees().size() * (long) meeting.changes().size() > MAX_REPEATED;
  }

  private void common(ContentLines out, Scheduled scheduled, boolean withEverybody) {
    Meeting meeting = scheduled.meeting();
    Details details = scheduled.details();
    out.line("UID", Details.uid(meeting.id(), details));
    out.line("DTSTAMP", CalendarTimes.utc(now));
    out.line("SEQUENCE", String.valueOf(details.sequence()));
    out.line("SUMMARY", ContentLines.escape(meeting.title()));
    if (style.description() && !meeting.description().isEmpty()) {
      out.line("DESCRIPTION", ContentLines.escape(meeting.description()));
    }
    if (style.cancelled()) {
      out.line("STATUS", "CANCELLED");
    }
    organisation.rooms().stream()
        .filter(room -> room.id().equals(details.room()))
        .findFirst()
        .filter(room -> details.foreign().stream().noneMatch(l -> l.startsWith("LOCATION")))
        .ifPresent(room -> out.line("LOCATION", ContentLines.escape(room.name())));
    if (style.people()) {
      people(out, meeting, details, withEverybody);
    }
  }

  private void people(ContentLines out, Meeting meeting, Details details, boolean withEverybody) {
    out.line("ORGANIZER", person(meeting.host()), "mailto:" + meeting.host());
    for (Invitee invitee : invitees(meeting, withEverybody)) {
      Map<String, String> parameters = person(invitee.email());
      parameters.put(
          "ROLE", invitee.need() == Invitee.Need.REQUIRED ? "REQ-PARTICIPANT" : "OPT-PARTICIPANT");
      if ("REQUEST".equals(style.method())) {
        parameters.put("PARTSTAT", "NEEDS-ACTION");
        parameters.put("RSVP", "TRUE");
      }
      out.line("ATTENDEE", parameters, "mailto:" + invitee.email());
    }
    for (String id : meeting.lists()) {
      organisation.lists().stream()
          .filter(list -> list.id().equals(id))
          .findFirst()
          .ifPresent(list -> attendee(out, "GROUP", list.name(), listAddress(list)));
    }
    organisation.rooms().stream()
        .filter(room -> room.id().equals(details.room()))
        .forEach(room -> attendee(out, "ROOM", room.name(), room.email()));
  }

  /** To one of many goes their own name alone, or all letters would grow with the square. */
  private List<Invitee> invitees(Meeting meeting, boolean withEverybody) {
    List<Invitee> all = new ArrayList<>(meeting.invitees());
    String extra = recipient;
    if (extra != null && (!withEverybody || all.size() > MAX_NAMED)) {
      all.removeIf(i -> !Directory.fold(i.email()).equals(Directory.fold(extra)));
    } else if (!withEverybody) {
      all.clear();
    }
    if (extra != null
        && all.stream().noneMatch(i -> Directory.fold(i.email()).equals(Directory.fold(extra)))) {
      all.add(new Invitee(extra, Invitee.Need.REQUIRED));
    }
    return all;
  }

  /** Lists have no address of their own in the directory: their id at the organisation's domain. */
  private String listAddress(Organisation.Gathering list) {
    String domain = organisation.domains().isEmpty() ? "localhost" : organisation.domains().get(0);
    return list.id() + "@" + domain;
  }

  private static void attendee(ContentLines out, String sort, String name, String address) {
    Map<String, String> parameters = new LinkedHashMap<>();
    parameters.put("CUTYPE", sort);
    parameters.put("CN", name);
    out.line("ATTENDEE", parameters, "mailto:" + address);
  }

  private Map<String, String> person(String email) {
    Map<String, String> parameters = new LinkedHashMap<>();
    String name = names.get(Directory.fold(email));
    if (name != null) {
      parameters.put("CN", name);
    }
    return parameters;
  }

  private static void own(ContentLines out, Scheduled scheduled) {
    Meeting meeting = scheduled.meeting();
    out.own("ID", meeting.id());
    out.own("KIND", meeting.kind());
    out.own("SPACE", meeting.space());
    out.own("NUMBER", meeting.number());
    out.own("PASSCODE", scheduled.passcode());
    meeting.coHosts().forEach(email -> out.line(VendorProperties.PREFIX + "CO-HOST", email));
    meeting.presenters().forEach(email -> out.line(VendorProperties.PREFIX + "PRESENTER", email));
    for (Details.Group group : scheduled.details().groups()) {
      out.line(VendorProperties.PREFIX + "GROUP", named(group), String.join(",", group.members()));
    }
    for (Invitee invitee : meeting.invitees()) {
      if (invitee.task() != null) {
        out.line(VendorProperties.PREFIX + "TASK", named(invitee), invitee.email());
      }
    }
    controls(out, meeting.controls());
  }

  private static Map<String, String> named(Details.Group group) {
    Map<String, String> parameters = new LinkedHashMap<>();
    parameters.put("NAME", group.name());
    if (group.list() != null) {
      parameters.put("LIST", group.list());
    }
    return parameters;
  }

  private static Map<String, String> named(Invitee invitee) {
    Map<String, String> parameters = new LinkedHashMap<>();
    parameters.put("NAME", java.util.Objects.requireNonNull(invitee.task()).id());
    if (invitee.language() != null) {
      parameters.put("LANGUAGE", invitee.language());
    }
    return parameters;
  }

  private static void controls(ContentLines out, ControlValues controls) {
    ControlsJson.plain(controls)
        .forEach(
            (id, plain) ->
                out.line(
                    VendorProperties.PREFIX + "CONTROL",
                    Map.of("NAME", id),
                    ControlsJson.text(plain)));
  }

  private static void reminder(ContentLines out, Meeting meeting, Details details) {
    if (details.reminder() == null) {
      return;
    }
    out.line("BEGIN", "VALARM");
    out.line("ACTION", "DISPLAY");
    out.line("DESCRIPTION", ContentLines.escape(meeting.title()));
    out.line("TRIGGER", "-PT" + details.reminder() + "M");
    out.line("END", "VALARM");
  }

  private static void duration(ContentLines out, int minutes, boolean wholeDay) {
    out.line("DURATION", wholeDay ? "P" + Math.max(1, minutes / 1440) + "D" : "PT" + minutes + "M");
  }

  private static void times(
      ContentLines out, String name, List<LocalDateTime> times, Scheduled of) {
    times.forEach(time -> time(out, name, time, of));
  }

  private static void time(ContentLines out, String name, LocalDateTime time, Scheduled of) {
    ZoneId zone = of.meeting().zone();
    if (of.details().wholeDay()) {
      out.line(name, Map.of("VALUE", "DATE"), LocalDate.from(time).format(CalendarTimes.DATE));
    } else if (isUtc(zone)) {
      out.line(name, time.format(CalendarTimes.TIME) + "Z");
    } else {
      out.line(name, Map.of("TZID", zone.getId()), time.format(CalendarTimes.TIME));
    }
  }
}
