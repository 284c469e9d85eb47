package app.uprightwarden.server.floor;

import app.uprightwarden.server.exchange.Tables;
import java.io.IOException;
import java.io.OutputStream;
import java.time.Instant;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.dhatim.fastexcel.Workbook;
import org.dhatim.fastexcel.Worksheet;
import org.jspecify.annotations.Nullable;

/** Attendance and incidents as files. */
final class FloorFiles {
  private static final List<String> COLUMNS =
      List.of(
          "name",
          "address",
          "standing",
          "tie",
          "role",
          "way",
          "route",
          "joined",
          "left",
          "minutes",
          "times",
          "removed",
          "presence");
  private static final int[] WIDTHS = {26, 34, 11, 11, 11, 18, 8, 22, 22, 9, 7, 9, 10};
  private static final List<String> RECORDED =
      List.of("recording", "by", "from", "to", "minutes", "ended", "kept", "consent", "people");
  private static final int[] RECORDED_WIDTHS = {11, 26, 22, 22, 9, 16, 22, 12, 9};

  /** Title, zone, an empty row and the columns' names stand before it. */
  private static final int FIRST_ROW = 4;

  private FloorFiles() {}

  private static List<String> cells(FloorAfter.AttendanceRow row) {
    return List.of(
        row.name(),
        orEmpty(row.address()),
        row.standing(),
        row.tie(),
        row.role(),
        row.way(),
        row.route(),
        row.joined().toString(),
        row.left() == null ? "" : row.left().toString(),
        String.valueOf(row.minutes()),
        String.valueOf(row.times()),
        row.removed() ? "yes" : "no",
        "present");
  }

  private static List<String> cells(FloorRoster.Absent absent) {
    return List.of(
        absent.name(),
        absent.address(),
        "",
        absent.tie(),
        "",
        "",
        "",
        "",
        "",
        "0",
        "0",
        "no",
        "absent");
  }

  private static String orEmpty(@Nullable String text) {
    return text == null ? "" : text;
  }

  /** As CSV (RFC 4180), those who were absent last; times are UTC (ISO 8601). */
  static String csv(FloorAfter.Sheet of) {
    List<List<String>> cells = new ArrayList<>();
    of.attendance().forEach(row -> cells.add(cells(row)));
    of.roll().absent().forEach(absent -> cells.add(cells(absent)));
    return Tables.write(COLUMNS, cells);
  }

  /**
   * As a workbook (Office Open XML, ISO/IEC 29500). What people call themselves is text there and
   * never a formula. Times are those of a zone, which the sheet names. Those who were absent stand
   * last; recordings have a sheet of their own.
   */
  static void xlsx(FloorAfter.Sheet of, String title, ZoneId zone, OutputStream out)
      throws IOException {
    List<FloorAfter.AttendanceRow> rows = of.attendance();
    try (Workbook book = new Workbook(out, "Upright Warden", "1.0")) {
      Worksheet sheet = sheet(book, "Attendance", title, zone, COLUMNS, WIDTHS);
      for (int r = 0; r < rows.size(); r++) {
        row(sheet, r + FIRST_ROW, rows.get(r), zone);
      }
      int next = rows.size() + FIRST_ROW;
      for (FloorRoster.Absent absent : of.roll().absent()) {
        texts(sheet, next++, cells(absent));
      }
      Worksheet recorded = sheet(book, "Recordings", title, zone, RECORDED, RECORDED_WIDTHS);
      next = FIRST_ROW;
      for (FloorRecords.RecordingLine line : of.recordings()) {
        recording(recorded, next++, line, zone);
      }
    }
  }

  private static Worksheet sheet(
      Workbook book, String name, String title, ZoneId zone, List<String> columns, int[] widths) {
    Worksheet sheet = book.newWorksheet(name);
    sheet.value(0, 0, title);
    sheet.style(0, 0).bold().set();
    sheet.value(1, 0, "Times are those of " + zone + ".");
    for (int c = 0; c < columns.size(); c++) {
      sheet.value(3, c, columns.get(c));
      sheet.style(3, c).bold().set();
      sheet.width(c, widths[c]);
    }
    sheet.freezePane(0, FIRST_ROW);
    return sheet;
  }

  private static void texts(Worksheet sheet, int at, List<String> cells) {
    for (int c = 0; c < cells.size(); c++) {
      sheet.value(at, c, cells.get(c));
    }
  }

  private static void recording(
      Worksheet sheet, int at, FloorRecords.RecordingLine line, ZoneId zone) {
    sheet.value(at, 0, line.number());
    sheet.value(at, 1, line.by());
    time(sheet, at, 2, line.from(), zone);
    if (line.to() != null) {
      time(sheet, at, 3, line.to(), zone);
    }
    sheet.value(at, 4, Math.round(line.seconds() / 60.0));
    sheet.value(at, 5, line.end());
    sheet.value(at, 6, line.store());
    sheet.value(at, 7, line.consent());
    sheet.value(at, 8, line.people());
  }

  private static void row(Worksheet sheet, int at, FloorAfter.AttendanceRow row, ZoneId zone) {
    texts(sheet, at, cells(row));
    time(sheet, at, COLUMNS.indexOf("joined"), row.joined(), zone);
    Instant left = row.left();
    if (left != null) {
      time(sheet, at, COLUMNS.indexOf("left"), left, zone);
    }
    sheet.value(at, COLUMNS.indexOf("minutes"), row.minutes());
    sheet.value(at, COLUMNS.indexOf("times"), row.times());
  }

  private static void time(Worksheet sheet, int r, int c, Instant at, ZoneId zone) {
    sheet.value(r, c, at.atZone(zone).toLocalDateTime());
    sheet.style(r, c).format("yyyy-mm-dd hh:mm:ss").set();
  }

  /** An incident to read and pass on, as plain text. */
  static String text(FloorAfter.Incident incident) {
    StringBuilder text = new StringBuilder();
    var session = incident.record().path("session");
    line(text, incident.title());
    line(text, "=".repeat(Math.min(78, Math.max(3, incident.title().length()))));
    line(text, "");
    line(text, "Meeting   " + session.path("title").stringValue(""));
    line(text, "Host      " + session.path("host").stringValue(""));
    line(text, "Began     " + session.path("starts").stringValue(""));
    line(text, "Rulebook  edition " + session.path("edition").asInt(0));
    line(text, "Written   " + stamp(incident.at()) + " by " + incident.by());
    line(text, "");
    line(text, incident.note());
    line(text, "");
    line(text, "What was wrong");
    line(text, "--------------");
    incident
        .record()
        .path("alerts")
        .forEach(
            alert ->
                line(
                    text,
                    "- "
                        + alert.path("title").stringValue("")
                        + ": "
                        + alert.path("words").stringValue("")
                        + " ("
                        + alert.path("state").stringValue("")
                        + ")"));
    line(text, "");
    line(text, "What happened (UTC)");
    line(text, "-------------------");
    incident
        .record()
        .path("timeline")
        .forEach(
            moment ->
                line(
                    text,
                    moment.path("at").stringValue("")
                        + "  "
                        + moment.path("words").stringValue("")));
    return text.toString();
  }

  private static String stamp(Instant at) {
    return DateTimeFormatter.ofPattern("yyyy-MM-dd HH:mm 'UTC'", Locale.ROOT)
        .withZone(ZoneId.of("UTC"))
        .format(at);
  }

  /** One line: what people call themselves may not begin another. */
  private static void line(StringBuilder text, String line) {
    text.append(line.replaceAll("[\\p{Cntrl}&&[^\n]]", " ").replaceAll("\\n(?=\\S)", "\n  "));
    text.append('\n');
  }
}
