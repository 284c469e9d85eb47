package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.exchange.Tables;
import app.uprightwarden.server.judging.FindingView;
import java.io.IOException;
import java.io.OutputStream;
import java.io.OutputStreamWriter;
import java.io.UncheckedIOException;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.apache.commons.csv.CSVFormat;
import org.apache.commons.csv.CSVPrinter;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;

/** Findings as a table (RFC 4180), a row each, in the order in which to fix them. */
@Component
class FindingTable implements ReportFormat {
  private static final List<String> COLUMNS =
      List.of(
          "severity",
          "check",
          "meeting",
          "title",
          "unit",
          "host",
          "kind",
          "next",
          "occurrence",
          "control",
          "guarantee",
          "value",
          "allowed",
          "layer",
          "text",
          "waiver",
          "exposure");

  private final FindingQueries reading;

  FindingTable(FindingQueries reading) {
    this.reading = reading;
  }

  @Override
  public String id() {
    return "csv";
  }

  @Override
  public String title() {
    return "Findings as a table";
  }

  @Override
  public String mediaType() {
    return "text/csv; charset=UTF-8";
  }

  @Override
  public String ending() {
    return ".csv";
  }

  @Override
  public int place() {
    return 20;
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) {
    write(run.id(), out);
  }

  void write(long audit, OutputStream out) {
    try {
      Writer writer = new OutputStreamWriter(out, StandardCharsets.UTF_8);
      CSVPrinter printer = new CSVPrinter(writer, CSVFormat.RFC4180);
      printer.printRecord(COLUMNS);
      reading.each(audit, row -> print(printer, row));
      printer.flush();
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static void print(CSVPrinter printer, FindingQueries.Reported row) {
    FindingView finding = row.found().finding();
    List<@Nullable Object> cells = new ArrayList<>();
    cells.add(finding.severity());
    cells.addAll(
        Arrays.asList(
            finding.check(),
            row.found().meeting(),
            row.title(),
            row.unit(),
            row.host(),
            row.kind(),
            row.found().next(),
            finding.occurrence(),
            finding.control(),
            finding.guarantee(),
            finding.value(),
            finding.allowed(),
            finding.layer(),
            finding.text(),
            row.found().waiver(),
            row.exposure()));
    try {
      printer.printRecord(
          cells.stream().map(cell -> cell == null ? "" : Tables.safe(text(cell))).toList());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  private static String text(Object cell) {
    return cell instanceof List<?> list
        ? String.join(" ", list.stream().map(String::valueOf).toList())
        : String.valueOf(cell);
  }
}
