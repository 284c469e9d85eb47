package app.uprightwarden.server.calendars;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.calendars.CalendarText.Component;
import app.uprightwarden.server.calendars.CalendarText.Line;
import app.uprightwarden.server.people.Organisation;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingLimits;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * The lines that we write into calendars ourselves, so that a round trip loses nothing: {@code
 * X-WARDEN-CONTROL;NAME=waiting-room:on} and its like. A set's names are apart by commas; {@code
 * all} is the empty set.
 */
record VendorProperties(
    @Nullable String id,
    @Nullable String kind,
    @Nullable String space,
    @Nullable String number,
    @Nullable String passcode,
    List<String> coHosts,
    List<String> presenters,
    List<Details.Group> groups,
    ControlValues controls) {
  static final String PREFIX = "X-WARDEN-";

  /** As bundles have it: the shape of BCP 47 tags (RFC 5646 section 2.1), not their registry. */
  private static final Pattern LANGUAGE = Pattern.compile("[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8}){0,3}");

  /** The people of an event with what its own lines name them for. */
  static List<Invitee> withTasks(Component event, List<Invitee> invitees) {
    Map<String, Line> named = new HashMap<>();
    event
        .all(PREFIX + "TASK")
        .limit(MeetingLimits.INVITEES)
        .forEach(line -> named.putIfAbsent(Directory.fold(line.value().strip()), line));
    return named.isEmpty()
        ? invitees
        : invitees.stream().map(i -> withTask(i, named.get(Directory.fold(i.email())))).toList();
  }

  private static Invitee withTask(Invitee invitee, @Nullable Line line) {
    String name = line == null ? null : line.parameter("NAME");
    String language = line == null ? null : line.parameter("LANGUAGE");
    boolean isLanguage = language != null && LANGUAGE.matcher(language).matches();
    return Arrays.stream(Invitee.Task.values())
        .filter(task -> task.id().equals(name))
        .findFirst()
        .map(
            task ->
                new Invitee(invitee.email(), invitee.need(), task, isLanguage ? language : null))
        .orElse(invitee);
  }

  /** The same without the name of a meeting here. */
  VendorProperties withoutId() {
    return new VendorProperties(
        null, kind, space, number, passcode, coHosts, presenters, groups, controls);
  }

  static boolean isOwn(String name) {
    return name.startsWith(PREFIX);
  }

  static VendorProperties of(Component event, Organisation organisation, List<String> notes) {
    ControlValues controls = ControlValues.NONE;
    for (Line line : event.all(PREFIX + "CONTROL").toList()) {
      controls = with(controls, line, notes);
    }
    List<Details.Group> groups = new ArrayList<>();
    for (Line line : event.all(PREFIX + "GROUP").toList()) {
      String name = line.parameter("NAME");
      String list = line.parameter("LIST");
      boolean isKnown = organisation.lists().stream().anyMatch(l -> l.id().equals(list));
      groups.add(
          new Details.Group(name == null ? "Group" : name, names(line), isKnown ? list : null));
    }
    String kind = text(event, "KIND");
    if (kind != null && organisation.kinds().stream().noneMatch(k -> k.id().equals(kind))) {
      notes.add("the kind “" + CalendarTimes.shortened(kind) + "” is not known here");
    }
    String space = text(event, "SPACE");
    if (space != null && organisation.spaces().stream().noneMatch(s -> s.id().equals(space))) {
      notes.add("the space “" + CalendarTimes.shortened(space) + "” is not known here");
    }
    String id = text(event, "ID");
    return new VendorProperties(
        id != null && id.matches("[A-Za-z0-9][A-Za-z0-9._:-]{0,63}") ? id : null,
        organisation.kinds().stream().anyMatch(k -> k.id().equals(kind)) ? kind : null,
        organisation.spaces().stream().anyMatch(s -> s.id().equals(space)) ? space : null,
        text(event, "NUMBER"),
        text(event, "PASSCODE"),
        addresses(event, "CO-HOST"),
        addresses(event, "PRESENTER"),
        List.copyOf(groups),
        controls);
  }

  private static ControlValues with(ControlValues controls, Line line, List<String> notes) {
    String name = line.parameter("NAME");
    Control control = name == null ? null : Control.byId(name);
    if (control == null) {
      notes.add("line " + line.number() + ": there is no control “" + name + "”");
      return controls;
    }
    try {
      return controls.with(control, control.parse(ControlsJson.fromText(control, line.text())));
    } catch (IllegalArgumentException e) {
      notes.add("line " + line.number() + ", " + control.id() + ": " + e.getMessage());
      return controls;
    }
  }

  private static @Nullable String text(Component event, String name) {
    Line line = event.first(PREFIX + name);
    return line == null || line.text().isBlank() ? null : line.text().strip();
  }

  private static List<String> addresses(Component event, String name) {
    return event
        .all(PREFIX + name)
        .map(line -> line.value().strip())
        .filter(address -> address.contains("@"))
        .toList();
  }

  private static List<String> names(Line line) {
    return Arrays.stream(line.value().split(","))
        .map(String::strip)
        .filter(name -> name.contains("@"))
        .toList();
  }
}
