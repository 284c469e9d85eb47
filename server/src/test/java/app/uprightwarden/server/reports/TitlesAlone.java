package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import java.io.OutputStream;
import java.io.PrintStream;
import java.nio.charset.StandardCharsets;
import org.springframework.stereotype.Component;

/** A further report format, which is this one file: the meetings' titles. */
@Component
class TitlesAlone implements ReportFormat {
  private final FindingQueries reading;

  TitlesAlone(FindingQueries reading) {
    this.reading = reading;
  }

  @Override
  public String id() {
    return "titles";
  }

  @Override
  public String title() {
    return "Titles alone";
  }

  @Override
  public String mediaType() {
    return "text/plain; charset=UTF-8";
  }

  @Override
  public String ending() {
    return ".txt";
  }

  @Override
  public int place() {
    return 25;
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) {
    PrintStream lines = new PrintStream(out, false, StandardCharsets.UTF_8);
    reading.each(run.id(), row -> lines.println(row.title()));
    lines.flush();
  }
}
