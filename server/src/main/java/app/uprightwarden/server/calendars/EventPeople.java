package app.uprightwarden.server.calendars;

import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.calendars.CalendarTimes.Fault;
import app.uprightwarden.server.people.Organisation;
import java.net.URLDecoder;
import java.nio.charset.StandardCharsets;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/** Who takes part in an event: its organiser hosts, a GROUP is a list, a ROOM is a room. */
record EventPeople(String host, List<Invitee> invitees, List<String> lists, @Nullable String room) {
  private static final Pattern ADDRESS =
      Pattern.compile("[^@\\s<>\"]{1,64}@[^@\\s<>\"]{1,189}"); // as bundles have it
  private static final int MAX = 20_000;

  static EventPeople of(Component event, CalendarReader.Defaults defaults, List<String> notes) {
    String host = host(event, defaults, notes);
    Map<String, Invitee> invitees = new LinkedHashMap<>();
    Set<String> lists = new LinkedHashSet<>();
    String room = roomByPlace(event, defaults.organisation());
    for (Line line : event.all("ATTENDEE").toList()) {
      String address = address(line);
      if (address == null) {
        notes.add(
            "line "
                + line.number()
                + ": “"
                + CalendarTimes.shortened(line.value())
                + "” is no mail address; that attendee is left out");
        continue;
      }
      String sort = upper(line.parameter("CUTYPE"));
      Organisation.Gathering list = list(line, address, sort, defaults.organisation());
      Organisation.Room place = room(address, defaults.organisation());
      if (list != null) {
        lists.add(list.id());
      } else if (place != null) {
        room = place.id();
      } else if (sort.equals("ROOM") || sort.equals("RESOURCE")) {
        notes.add("the room " + address + " is not known here and is left out");
      } else if (!Directory.fold(address).equals(Directory.fold(host))) {
        invitees.putIfAbsent(Directory.fold(address), new Invitee(address, need(line)));
      }
      if (invitees.size() > MAX) {
        throw new Fault(line, "more than " + MAX + " people are invited");
      }
    }
    return new EventPeople(host, List.copyOf(invitees.values()), List.copyOf(lists), room);
  }

  private static String host(
      Component event, CalendarReader.Defaults defaults, List<String> notes) {
    Line organizer = event.first("ORGANIZER");
    String host = organizer == null ? null : address(organizer);
    if (host == null) {
      notes.add("no organiser is given: " + defaults.host() + " hosts it");
      return defaults.host();
    }
    return host;
  }

  private static Invitee.Need need(Line line) {
    String role = upper(line.parameter("ROLE"));
    return role.equals("OPT-PARTICIPANT") || role.equals("NON-PARTICIPANT")
        ? Invitee.Need.OPTIONAL
        : Invitee.Need.REQUIRED;
  }

  private static Organisation.@Nullable Gathering list(
      Line line, String address, String sort, Organisation organisation) {
    if (!sort.equals("GROUP")) {
      return null;
    }
    String local = address.substring(0, address.indexOf('@'));
    String name = line.parameter("CN");
    return organisation.lists().stream()
        .filter(l -> l.id().equalsIgnoreCase(local) || l.name().equalsIgnoreCase(name))
        .findFirst()
        .orElse(null);
  }

  private static Organisation.@Nullable Room room(String address, Organisation organisation) {
    return organisation.rooms().stream()
        .filter(r -> Directory.fold(r.email()).equals(Directory.fold(address)))
        .findFirst()
        .orElse(null);
  }

  private static @Nullable String roomByPlace(Component event, Organisation organisation) {
    Line place = event.first("LOCATION");
    return place == null
        ? null
        : organisation.rooms().stream()
            .filter(r -> r.name().equalsIgnoreCase(place.text().strip()))
            .findFirst()
            .map(Organisation.Room::id)
            .orElse(null);
  }

  private static @Nullable String address(Line line) {
    String value = line.value().strip();
    String mailed = mailed(value);
    String email = line.parameter("EMAIL");
    for (String candidate : new String[] {mailed, email == null ? "" : email}) {
      if (ADDRESS.matcher(candidate.strip()).matches()) {
        return candidate.strip();
      }
    }
    return null;
  }

  /** The address of a mailto URI, its percent-encoding undone (RFC 6068 section 2). */
  static String mailed(String value) {
    if (!value.regionMatches(true, 0, "mailto:", 0, 7)) {
      return value;
    }
    String address = value.substring(7).replaceFirst("\\?.*$", "").strip();
    try {
      return URLDecoder.decode(address.replace("+", "%2B"), StandardCharsets.UTF_8).strip();
    } catch (IllegalArgumentException e) {
      return address; // a stray percent sign is one
    }
  }

  private static String upper(@Nullable String text) {
    return text == null ? "" : text.toUpperCase(Locale.ROOT);
  }
}
