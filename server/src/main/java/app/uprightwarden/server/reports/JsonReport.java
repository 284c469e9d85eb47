package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditCounts;
import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import java.io.OutputStream;
import org.springframework.stereotype.Component;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.json.JsonMapper;

/** An audit as one JSON document: the run, the counts, and every finding in fix order. */
@Component
class JsonReport implements ReportFormat {
  private final FindingQueries reading;
  private final AuditCounts counts;
  private final JsonMapper json;

  JsonReport(FindingQueries reading, AuditCounts counts, JsonMapper json) {
    this.reading = reading;
    this.counts = counts;
    this.json = json.rebuild().disable(StreamWriteFeature.AUTO_CLOSE_TARGET).build();
  }

  @Override
  public String id() {
    return "json";
  }

  @Override
  public String title() {
    return "Findings for programs";
  }

  @Override
  public String mediaType() {
    return "application/json";
  }

  @Override
  public String ending() {
    return ".json";
  }

  @Override
  public int place() {
    return 30;
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) {
    write(run, out);
  }

  void write(AuditRun run, OutputStream out) {
    try (JsonGenerator to = json.createGenerator(out)) {
      to.writeStartObject();
      to.writeStringProperty("format", "upright-warden-audit/1");
      to.writePOJOProperty("run", run);
      to.writePOJOProperty("bySeverity", counts.tally(run.id(), null).open());
      to.writePOJOProperty("byUnit", counts.byUnit(run.id()));
      to.writeArrayPropertyStart("findings");
      reading.each(run.id(), row -> write(to, row));
      to.writeEndArray();
      to.writeEndObject();
    }
  }

  private static void write(JsonGenerator to, FindingQueries.Reported row) {
    to.writeStartObject();
    to.writeStringProperty("identity", row.found().identity());
    to.writeStringProperty("meeting", row.found().meeting());
    to.writeStringProperty("title", row.title());
    to.writeStringProperty("host", row.host());
    to.writePOJOProperty("unit", row.unit());
    to.writePOJOProperty("kind", row.kind());
    to.writePOJOProperty("next", row.found().next());
    to.writeNumberProperty("exposure", row.exposure());
    to.writePOJOProperty("waiver", row.found().waiver());
    to.writePOJOProperty("controlValues", row.judgedSet());
    to.writePOJOProperty("finding", row.found().finding());
    to.writeEndObject();
  }
}
