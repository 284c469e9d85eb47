package app.uprightwarden.server.exchange;

import app.uprightwarden.server.problem.ProblemException;
import java.io.IOException;
import java.io.StringReader;
import java.io.UncheckedIOException;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.regex.Pattern;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVParser;
import org.apache.commons.csv.CSVPrinter;
import org.apache.commons.csv.CSVRecord;
import org.apache.commons.csv.DuplicateHeaderMode;

/** Tables as CSV (RFC 4180): comma or semicolon between cells, a header row first. */
public final class Tables {
  private static final int MAX_ROWS = 200_000;
  private static final int MAX_COLUMNS = 300;

  /** What a spreadsheet would take for a formula, any number of our own marks before it. */
  private static final Pattern FORMULA = Pattern.compile("'*[=+\\-@\\t\\r].*", Pattern.DOTALL);

  private Tables() {}

  /**
   * A row by the names of its columns, without empty cells.
   *
   * @param line where it begins in the file, from 1
   */
  record Row(int line, Map<String, String> cells) {
    String get(String column) {
      return cells.getOrDefault(column, "");
    }
  }

  /** A table; columns are in lower case. */
  record Table(List<String> columns, List<Row> rows) {}

  /**
   * Reads a table.
   *
   * @throws ProblemException 400 where it is none, with the line; 413 where it is too long
   */
  static Table read(String text) {
    char separator = separator(text);
    CSVFormat format =
        CSVFormat.RFC4180
            .builder()
            .setDelimiter(separator)
            .setIgnoreEmptyLines(true)
            .setDuplicateHeaderMode(DuplicateHeaderMode.ALLOW_ALL)
            .get();
    try (CSVParser parser = CSVParser.parse(new StringReader(text), format)) {
      List<String> columns = new ArrayList<>();
      List<Row> rows = new ArrayList<>();
      long line = 1;
      for (CSVRecord row : parser) {
        if (columns.isEmpty()) {
          columns.addAll(header(row));
        } else {
          rows.add(row(columns, row, line));
        }
        if (rows.size() > MAX_ROWS) {
          throw ProblemException.tooLarge(
              "The table has more than " + MAX_ROWS + " rows. Split it. Nothing was stored.");
        }
        line = parser.getCurrentLineNumber() + 1;
      }
      return new Table(columns, rows);
    } catch (IOException | UncheckedIOException | IllegalStateException e) {
      Throwable cause = e.getCause() == null ? e : e.getCause();
      throw ProblemException.unreadable(
          "The table cannot be read: "
              + cause.getMessage()
              + " A quote that is not closed is the usual reason. Nothing was stored.",
          List.of());
    }
  }

  /** Whichever of comma and semicolon stands in the header outside quotes, and more often. */
  private static char separator(String text) {
    int commas = 0;
    int semicolons = 0;
    int tabs = 0;
    boolean quoted = false;
    for (int i = 0; i < text.length(); i++) {
      char c = text.charAt(i);
      if (c == '"') {
        quoted = !quoted;
      } else if (!quoted && (c == '\n' || c == '\r')) {
        break;
      } else if (!quoted) {
        commas += c == ',' ? 1 : 0;
        semicolons += c == ';' ? 1 : 0;
        tabs += c == '\t' ? 1 : 0;
      }
    }
    if (commas + semicolons == 0 && tabs > 0) {
      throw ProblemException.unreadable(
          "The cells are apart by tabs. Save the table with commas or semicolons between them.",
          List.of());
    }
    return semicolons > commas ? ';' : ',';
  }

  private static List<String> header(CSVRecord row) {
    if (row.size() > MAX_COLUMNS) {
      throw ProblemException.unreadable(
          "The header has more than " + MAX_COLUMNS + " columns.", List.of());
    }
    List<String> columns = new ArrayList<>();
    Map<String, Integer> first = new HashMap<>();
    for (int i = 0; i < row.size(); i++) {
      String name = row.get(i).strip().toLowerCase(Locale.ROOT);
      Integer before = name.isEmpty() ? null : first.putIfAbsent(name, i + 1);
      if (before != null) {
        throw ProblemException.unreadable(
            "The column “%s” is there twice, as number %d and %d.".formatted(name, before, i + 1),
            List.of());
      }
      columns.add(name);
    }
    return columns;
  }

  private static Row row(List<String> columns, CSVRecord record, long line) {
    Map<String, String> cells = new LinkedHashMap<>();
    for (int i = 0; i < record.size(); i++) {
      String name = i < columns.size() ? columns.get(i) : "column " + (i + 1);
      String cell = plain(record.get(i));
      if (!cell.isEmpty()) {
        cells.put(name, cell);
      }
    }
    return new Row((int) line, cells);
  }

  /** A table as text, CRLF at line ends, cells that begin like a formula marked as text. */
  public static String write(List<String> columns, List<List<String>> rows) {
    StringBuilder out = new StringBuilder();
    try (CSVPrinter printer = new CSVPrinter(out, CSVFormat.RFC4180)) {
      printer.printRecord(columns);
      for (List<String> row : rows) {
        printer.printRecord(row.stream().map(Tables::safe).toList());
      }
    } catch (IOException e) {
      throw new UncheckedIOException("text can always be written", e);
    }
    return out.toString();
  }

  /** With a mark before what a spreadsheet would compute. */
  public static String safe(String cell) {
    return FORMULA.matcher(cell).matches() ? "'" + cell : cell;
  }

  /** Without the mark that {@link #safe} set. */
  static String plain(String cell) {
    return cell.startsWith("'") && FORMULA.matcher(cell.substring(1)).matches()
        ? cell.substring(1)
        : cell;
  }
}
