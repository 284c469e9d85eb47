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
          "removed");
  private static final int[] WIDTHS = {26, 34, 11, 11, 11, 18, 8, 22, 22, 9, 7, 9};

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
        row.removed() ? "yes" : "no");
  }

  private static String orEmpty(@Nullable String text) {
    return text == null ? "" : text;
  }

  /** As CSV (RFC 4180); times are UTC (ISO 8601). */
  static String csv(List<FloorAfter.AttendanceRow> rows) {
    List<List<String>> cells = new ArrayList<>();
    rows.forEach(row -> cells.add(cells(row)));
    return Tables.write(COLUMNS, cells);
  }

  /**
   * As a workbook (Office Open XML, ISO/IEC 29500). What people call themselves is text there and
   * never a formula. Times are those of a zone, which the sheet names.
   */
  static void xlsx(List<FloorAfter.AttendanceRow> rows, String title, ZoneId zone, OutputStream out)
      throws IOException {
    try (Workbook book = new Workbook(out, "Upright Warden", "1.0")) {
      Worksheet sheet = book.newWorksheet("Attendance");
      sheet.value(0, 0, title);
      sheet.style(0, 0).bold().set();
      sheet.value(1, 0, "Times are those of " + zone + ".");
      for (int c = 0; c < COLUMNS.size(); c++) {
        sheet.value(3, c, COLUMNS.get(c));
        sheet.style(3, c).bold().set();
        sheet.width(c, WIDTHS[c]);
      }
      for (int r = 0; r < rows.size(); r++) {
        row(sheet, r + 4, rows.get(r), zone);
      }
      sheet.freezePane(0, 4);
    }
  }

  private static void row(Worksheet sheet, int at, FloorAfter.AttendanceRow row, ZoneId zone) {
    List<String> cells = cells(row);
    for (int c = 0; c < cells.size(); c++) {
      sheet.value(at, c, cells.get(c));
    }
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
