package app.uprightwarden.server.exchange;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingReading;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.Stored;
import app.uprightwarden.server.schema.BundleSchema;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * Meetings as a table: a row a meeting, a column a control. Several addresses or times in a cell
 * are apart by spaces. What a table cannot say (changed occurrences, breakout groups) stays as it
 * is stored.
 */
final class MeetingTable {
  private static final List<String> PLAIN =
      List.of("id", "title", "description", "kind", "host", "space", "room", "start", "zone");

  /** The passcode itself; {@code passcode} is the control. */
  private static final String SECRET = "passcode-text";

  private static final List<String> COLUMNS =
      List.of(
          "id",
          "title",
          "description",
          "kind",
          "host",
          "co-hosts",
          "presenters",
          "required",
          "optional",
          "lists",
          "space",
          "room",
          "start",
          "zone",
          "minutes",
          "recurrence",
          "dropped",
          "added",
          "whole-day",
          "reminder",
          "number",
          SECRET);

  private final BundleSchema schema;
  private final JsonMapper json;

  MeetingTable(BundleSchema schema, JsonMapper json) {
    this.schema = schema;
    this.json = json;
  }

  static boolean isOne(List<String> columns) {
    return columns.contains("title") && columns.contains("start");
  }

  /** Reads each row for itself: one that is wrong is refused, the others are not. */
  List<MeetingImport.Candidate> read(
      Tables.Table table, MeetingReading.Known known, MeetingReading.Judge judge) {
    Set<String> understood = new HashSet<>(COLUMNS);
    Control.all().forEach(control -> understood.add(control.id()));
    List<Fault> strange =
        table.columns().stream()
            .filter(column -> !column.isEmpty() && !understood.contains(column))
            .map(column -> new Fault("", "there is no column “" + column + "”"))
            .toList();
    if (!strange.isEmpty()) {
      throw ProblemException.invalid(
          "The table has columns that mean nothing here. Rename or remove them. Nothing was stored.",
          strange);
    }
    return table.rows().stream().map(row -> candidate(row, table, known, judge)).toList();
  }

  private MeetingImport.Candidate candidate(
      Tables.Row row, Tables.Table table, MeetingReading.Known known, MeetingReading.Judge judge) {
    JsonNode document = json.valueToTree(document(row));
    List<Fault> faults = new ArrayList<>();
    if (row.cells().keySet().stream().anyMatch(c -> c.startsWith("column "))) {
      faults.add(new Fault("", "the row has more cells than the header has columns"));
    }
    faults.addAll(schema.meetingFaults(document));
    Scheduled read =
        faults.isEmpty() ? new MeetingReading(faults, known, judge).read(document, "") : null;
    String title = row.get("title");
    ImportTally.Place place =
        new ImportTally.Place(title, row.line(), faults.stream().map(MeetingTable::words).toList());
    return read == null
        ? MeetingImport.Candidate.refused(row.get("id"), place)
        : new MeetingImport.Candidate(
            row.get("id"), read, place, (given, before) -> merged(given, before, table));
  }

  private static String words(Fault fault) {
    String column = fault.pointer().replaceFirst("^/(controls/)?", "");
    return column.isEmpty() ? fault.message() : column + ": " + fault.message();
  }

  private static Map<String, @Nullable Object> document(Tables.Row row) {
    Map<String, @Nullable Object> document = new LinkedHashMap<>();
    for (String column : PLAIN) {
      if (row.cells().containsKey(column)) {
        document.put(column, row.get(column));
      }
    }
    document.put("minutes", number(row.get("minutes")));
    put(document, "recurrence", row.get("recurrence"));
    put(document, "number", row.get("number"));
    put(document, "passcode", row.get(SECRET));
    document.put("coHosts", words(row.get("co-hosts")));
    document.put("presenters", words(row.get("presenters")));
    document.put("lists", words(row.get("lists")));
    document.put("exDates", words(row.get("dropped")));
    document.put("rDates", words(row.get("added")));
    List<Map<String, String>> invitees = new ArrayList<>();
    words(row.get("required"))
        .forEach(e -> invitees.add(InOrder.map("email", e, "need", "required")));
    words(row.get("optional"))
        .forEach(e -> invitees.add(InOrder.map("email", e, "need", "optional")));
    document.put("invitees", invitees);
    if (!row.get("reminder").isEmpty()) {
      document.put("reminder", number(row.get("reminder")));
    }
    if (!row.get("whole-day").isEmpty()) {
      document.put(
          "wholeDay",
          List.of("yes", "true", "1").contains(row.get("whole-day").toLowerCase(Locale.ROOT)));
    }
    Map<String, Object> controls = new LinkedHashMap<>();
    for (Control control : Control.all()) {
      String cell = row.get(control.id());
      if (!cell.isEmpty()) {
        controls.put(control.id(), ControlsJson.fromText(control, cell));
      }
    }
    document.put("controls", controls);
    return document;
  }

  private static void put(Map<String, @Nullable Object> document, String key, String cell) {
    if (!cell.isEmpty()) {
      document.put(key, cell);
    }
  }

  private static Object number(String cell) {
    return cell.matches("\\d{1,9}") ? (Object) Integer.valueOf(cell) : cell;
  }

  private static List<String> words(String cell) {
    return Arrays.stream(cell.split("[\\s]+")).filter(word -> !word.isEmpty()).toList();
  }

  /** A column that is not in the table says nothing; what is stored stays. */
  private static Scheduled merged(Scheduled given, @Nullable Stored before, Tables.Table table) {
    if (before == null) {
      return given;
    }
    Set<String> has = new HashSet<>(table.columns());
    Meeting now = given.meeting();
    Meeting was = before.meeting();
    var controls = was.controls();
    for (Control control : Control.all()) {
      if (has.contains(control.id())) {
        controls = controls.with(control, now.controls().get(control));
      }
    }
    Details old = before.details();
    Details fresh = given.details();
    boolean invited = has.contains("required") || has.contains("optional");
    return new Scheduled(
        new Meeting(
            now.id(),
            now.title(),
            has.contains("description") ? now.description() : was.description(),
            has.contains("kind") ? now.kind() : was.kind(),
            now.host(),
            has.contains("co-hosts") ? now.coHosts() : was.coHosts(),
            has.contains("presenters") ? now.presenters() : was.presenters(),
            invited ? now.invitees() : was.invitees(),
            has.contains("lists") ? now.lists() : was.lists(),
            has.contains("space") ? now.space() : was.space(),
            now.start(),
            now.zone(),
            now.minutes(),
            has.contains("recurrence") ? now.recurrence() : was.recurrence(),
            has.contains("dropped") ? now.exDates() : was.exDates(),
            has.contains("added") ? now.rDates() : was.rDates(),
            has.contains("number") ? now.number() : was.number(),
            now.passcode(),
            controls,
            was.changes()),
        new Details(
            has.contains("room") ? fresh.room() : old.room(),
            has.contains("whole-day") ? fresh.wholeDay() : old.wholeDay(),
            has.contains("reminder") ? fresh.reminder() : old.reminder(),
            old.groups(),
            old.uid(),
            old.sequence(),
            old.foreign()),
        given.passcode(),
        given.passcodeLeftOut());
  }

  /** Meetings as a table. Passcodes are in it only where the caller put them in. */
  static String write(List<Scheduled> meetings) {
    List<String> columns = new ArrayList<>(COLUMNS);
    Control.all().forEach(control -> columns.add(control.id()));
    return Tables.write(columns, meetings.stream().map(MeetingTable::row).toList());
  }

  private static List<String> row(Scheduled scheduled) {
    Meeting m = scheduled.meeting();
    Details d = scheduled.details();
    List<String> cells =
        new ArrayList<>(
            List.of(
                m.id(),
                m.title(),
                m.description(),
                orEmpty(m.kind()),
                m.host(),
                String.join(" ", m.coHosts()),
                String.join(" ", m.presenters()),
                invited(m, Invitee.Need.REQUIRED),
                invited(m, Invitee.Need.OPTIONAL),
                String.join(" ", m.lists()),
                orEmpty(m.space()),
                orEmpty(d.room()),
                m.start().toString(),
                m.zone().getId(),
                String.valueOf(m.minutes()),
                orEmpty(m.recurrence()),
                times(m.exDates()),
                times(m.rDates()),
                d.wholeDay() ? "yes" : "",
                d.reminder() == null ? "" : String.valueOf(d.reminder()),
                orEmpty(m.number()),
                orEmpty(scheduled.passcode())));
    Map<String, Object> controls = ControlsJson.plain(m.controls());
    for (Control control : Control.all()) {
      Object value = controls.get(control.id());
      cells.add(value == null ? "" : ControlsJson.text(value));
    }
    return cells;
  }

  private static String invited(Meeting meeting, Invitee.Need need) {
    return String.join(
        " ",
        meeting.invitees().stream().filter(i -> i.need() == need).map(Invitee::email).toList());
  }

  private static String times(List<LocalDateTime> times) {
    return String.join(" ", times.stream().map(LocalDateTime::toString).toList());
  }

  private static String orEmpty(@Nullable String text) {
    return Objects.requireNonNullElse(text, "");
  }
}
