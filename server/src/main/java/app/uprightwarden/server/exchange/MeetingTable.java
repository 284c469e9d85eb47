package app.uprightwarden.server.exchange;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.meeting.Invitee;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.access.AccessHash;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.schema.BundleSchema;
import java.time.LocalDateTime;
import java.time.ZoneId;
import java.util.AbstractList;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
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

  /** What else people call the columns; what a screen or another program writes is read. */
  private static final Map<String, String> NAMES =
      Map.ofEntries(
          Map.entry("meeting", "title"),
          Map.entry("subject", "title"),
          Map.entry("name", "title"),
          Map.entry("next", "start"),
          Map.entry("when", "start"),
          Map.entry("begin", "start"),
          Map.entry("begins", "start"),
          Map.entry("date", "start"),
          Map.entry("start-time", "start"),
          Map.entry("length", "minutes"),
          Map.entry("duration", "minutes"),
          Map.entry("recurs", "recurrence"),
          Map.entry("rule", "recurrence"),
          Map.entry("invited", "required"),
          Map.entry("invitees", "required"),
          Map.entry("attendees", "required"),
          Map.entry("organiser", "host"),
          Map.entry("organizer", "host"),
          Map.entry("time-zone", "zone"),
          Map.entry("timezone", "zone"),
          Map.entry("co-host", "co-hosts"),
          Map.entry("presenter", "presenters"),
          Map.entry("list", "lists"),
          Map.entry("agenda", "description"),
          Map.entry("wholeday", "whole-day"),
          Map.entry("all-day", "whole-day"),
          Map.entry("passcodetext", SECRET));

  /** Columns of our own screens that are worked out here and never taken in. */
  private static final Set<String> WORKED_OUT =
      Set.of("unit", "findings", "exposure", "band", "changed", "changed-by", "worst");

  private static final int ASSUMED_MINUTES = 30;

  private final BundleSchema schema;
  private final JsonMapper json;

  /**
   * What a table leaves open.
   *
   * @param zone of times in rows without one
   * @param host of rows without one
   */
  record Defaults(ZoneId zone, String host) {}

  MeetingTable(BundleSchema schema, JsonMapper json) {
    this.schema = schema;
    this.json = json;
  }

  static boolean isOne(List<String> columns) {
    List<String> named = columns.stream().map(MeetingTable::named).toList();
    return named.contains("title") && named.contains("start");
  }

  /** What a column is called here, by any of its names. */
  private static String named(String column) {
    String plain = column.strip().replaceAll("[\\s_]+", "-");
    String other = NAMES.get(plain);
    if (other != null) {
      return other;
    }
    return Control.all().stream()
        .filter(c -> c.title().strip().replaceAll("\\s+", "-").equalsIgnoreCase(plain))
        .findFirst()
        .map(Control::id)
        .orElse(plain);
  }

  /** The same row with our names for its columns. */
  private static Tables.Row named(Tables.Row row, Map<String, String> names) {
    Map<String, String> cells = new LinkedHashMap<>();
    row.cells()
        .forEach(
            (name, cell) ->
                cells.putIfAbsent(names.computeIfAbsent(name, MeetingTable::named), cell));
    // on our own screen this column counts heads
    if (cells.getOrDefault("required", "").matches("\\d{1,6}")) {
      cells.remove("required");
    }
    return new Tables.Row(row.line(), cells);
  }

  /**
   * Reads each row for itself: one that is wrong is refused, the others are not. A row is read when
   * it is asked for, and each time: all that many meetings hold would not fit into the memory.
   */
  List<MeetingImport.Candidate> read(
      Tables.Table table,
      MeetingJsonParser.Known known,
      MeetingJsonParser.Judge judge,
      Defaults defaults) {
    Set<String> columns =
        table.columns().stream()
            .map(MeetingTable::named)
            .collect(Collectors.toCollection(LinkedHashSet::new));
    Set<String> understood = new HashSet<>(COLUMNS);
    understood.addAll(WORKED_OUT);
    Control.all().forEach(control -> understood.add(control.id()));
    List<Fault> strange =
        columns.stream()
            .filter(column -> !column.isEmpty() && !understood.contains(column))
            .map(column -> new Fault("", "there is no column “" + column + "”"))
            .toList();
    if (!strange.isEmpty()) {
      throw ProblemException.invalid(
          "The table has columns that mean nothing here. Rename or remove them. Nothing was stored."
              + " Those that are known: "
              + String.join(", ", COLUMNS)
              + ", and every control by its name.",
          strange);
    }
    Map<String, String> names = new HashMap<>(); // each found once: a table has many rows
    return new AbstractList<>() {
      @Override
      public MeetingImport.Candidate get(int i) {
        return candidate(named(table.rows().get(i), names), columns, known, judge, defaults);
      }

      @Override
      public int size() {
        return table.rows().size();
      }
    };
  }

  private MeetingImport.Candidate candidate(
      Tables.Row row,
      Set<String> columns,
      MeetingJsonParser.Known known,
      MeetingJsonParser.Judge judge,
      Defaults defaults) {
    List<Fault> faults = new ArrayList<>();
    List<String> notes = new ArrayList<>();
    Map<String, @Nullable Object> plain = document(row, defaults, faults, notes);
    String id = String.valueOf(plain.get("id"));
    JsonNode document = json.valueToTree(plain);
    if (row.cells().keySet().stream().anyMatch(c -> c.startsWith("column "))) {
      faults.add(new Fault("", "the row has more cells than the header has columns"));
    }
    if (faults.isEmpty()) {
      faults.addAll(schema.meetingFaults(document));
    }
    Scheduled read =
        faults.isEmpty() ? new MeetingJsonParser(faults, known, judge).read(document, "") : null;
    String title = row.get("title");
    ImportTally.Place place =
        new ImportTally.Place(
            title,
            row.line(),
            faults.isEmpty() ? notes : faults.stream().map(MeetingTable::words).toList());
    return read == null
        ? MeetingImport.Candidate.refused(row.get("id"), place)
        : new MeetingImport.Candidate(
            id, read, place, (given, before) -> merged(given, before, columns));
  }

  private static String words(Fault fault) {
    String column = fault.pointer().replaceFirst("^/(controls/)?", "");
    return column.isEmpty() ? fault.message() : column + ": " + fault.message();
  }

  private static Map<String, @Nullable Object> document(
      Tables.Row row, Defaults defaults, List<Fault> faults, List<String> notes) {
    Map<String, @Nullable Object> document = new LinkedHashMap<>();
    for (String column : PLAIN) {
      if (row.cells().containsKey(column)) {
        document.put(column, row.get(column));
      }
    }
    String start = Cells.time("/start", row.get("start"), faults);
    document.put("start", start);
    if (row.get("id").isEmpty()) {
      // the same row gets the same id, so that a table may be taken in twice
      document.put(
          "id",
          "row-"
              + AccessHash.sha256(row.get("title") + "|" + start + "|" + host(row, defaults))
                  .substring(0, 20));
    }
    document.put("host", host(row, defaults));
    assume(document, "zone", defaults.zone().getId(), notes);
    if (row.get("minutes").isEmpty()) {
      boolean isWhole = !row.get("whole-day").isEmpty();
      document.put("minutes", isWhole ? 1440 : ASSUMED_MINUTES);
      if (!isWhole) {
        notes.add("no length is given: " + ASSUMED_MINUTES + " minutes are assumed");
      }
    } else {
      document.put("minutes", Cells.number(row.get("minutes")));
    }
    put(document, "recurrence", Cells.recurrence(row.get("recurrence"), faults));
    put(document, "number", row.get("number"));
    put(document, "passcode", row.get(SECRET));
    document.put("coHosts", Cells.words(row.get("co-hosts")));
    document.put("presenters", Cells.words(row.get("presenters")));
    document.put("lists", Cells.words(row.get("lists")));
    document.put("exDates", Cells.times("/dropped", row.get("dropped"), faults));
    document.put("rDates", Cells.times("/added", row.get("added"), faults));
    List<Map<String, String>> invitees = new ArrayList<>();
    Cells.words(row.get("required"))
        .forEach(e -> invitees.add(InOrder.map("email", e, "need", "required")));
    Cells.words(row.get("optional"))
        .forEach(e -> invitees.add(InOrder.map("email", e, "need", "optional")));
    document.put("invitees", invitees);
    if (!row.get("reminder").isEmpty()) {
      document.put("reminder", Cells.number(row.get("reminder")));
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

  private static String host(Tables.Row row, Defaults defaults) {
    return row.get("host").isEmpty() ? defaults.host() : row.get("host");
  }

  private static void assume(
      Map<String, @Nullable Object> document, String key, String value, List<String> notes) {
    if (!document.containsKey(key)) {
      document.put(key, value);
      notes.add("no " + key + " is given: " + value + " is assumed");
    }
  }

  private static void put(Map<String, @Nullable Object> document, String key, String cell) {
    if (!cell.isEmpty()) {
      document.put(key, cell);
    }
  }

  /** A column that is not in the table says nothing; what is stored stays. */
  private static Scheduled merged(
      Scheduled given, @Nullable StoredMeeting before, Set<String> has) {
    if (before == null) {
      return given;
    }
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
    List<Invitee> invitees = new ArrayList<>();
    (has.contains("required") ? now : was)
        .invitees().stream().filter(i -> i.need() == Invitee.Need.REQUIRED).forEach(invitees::add);
    (has.contains("optional") ? now : was)
        .invitees().stream()
            .filter(i -> i.need() == Invitee.Need.OPTIONAL)
            .filter(i -> invitees.stream().noneMatch(o -> o.email().equalsIgnoreCase(i.email())))
            .forEach(invitees::add);
    // a table has two columns of people and so no order among them: the one there was stays
    Map<String, Integer> places = new HashMap<>();
    was.invitees().forEach(i -> places.put(Directory.fold(i.email()), places.size()));
    invitees.sort(
        Comparator.comparingInt(
            i -> places.getOrDefault(Directory.fold(i.email()), Integer.MAX_VALUE)));
    return new Scheduled(
        new Meeting(
            now.id(),
            now.title(),
            has.contains("description") ? now.description() : was.description(),
            has.contains("kind") ? now.kind() : was.kind(),
            has.contains("host") ? now.host() : was.host(),
            has.contains("co-hosts") ? now.coHosts() : was.coHosts(),
            has.contains("presenters") ? now.presenters() : was.presenters(),
            has.contains("required") || has.contains("optional")
                ? Invitee.keepingTasks(invitees, was.invitees())
                : was.invitees(),
            has.contains("lists") ? now.lists() : was.lists(),
            has.contains("space") ? now.space() : was.space(),
            now.start(),
            has.contains("zone") ? now.zone() : was.zone(),
            has.contains("minutes") ? now.minutes() : was.minutes(),
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
