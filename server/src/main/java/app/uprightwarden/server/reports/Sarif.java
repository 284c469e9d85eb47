package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.waivers.WaiverService;
import java.io.OutputStream;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.springframework.stereotype.Component;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * An audit as SARIF 2.1.0 (OASIS): a check is a rule, a finding a result, the meeting a logical
 * location, a waiver a suppression.
 */
@Component
class Sarif implements ReportFormat {
  private final FindingQueries reading;
  private final WaiverService waivers;
  private final JsonMapper json;

  Sarif(FindingQueries reading, WaiverService waivers, JsonMapper json) {
    this.reading = reading;
    this.waivers = waivers;
    this.json = json.rebuild().disable(StreamWriteFeature.AUTO_CLOSE_TARGET).build();
  }

  @Override
  public String id() {
    return "sarif";
  }

  @Override
  public String title() {
    return "Findings for other tools";
  }

  @Override
  public String mediaType() {
    return "application/sarif+json";
  }

  @Override
  public String ending() {
    return ".sarif";
  }

  @Override
  public int place() {
    return 40;
  }

  @Override
  public void write(AuditRun run, Wish wish, OutputStream out) {
    write(run, out);
  }

  void write(AuditRun run, OutputStream out) {
    try (JsonGenerator to = json.createGenerator(out)) {
      to.writeStartObject();
      to.writeStringProperty("$schema", SarifParts.SCHEMA);
      to.writeStringProperty("version", "2.1.0");
      to.writeArrayPropertyStart("runs");
      to.writeStartObject();
      to.writePOJOProperty("tool", Map.of("driver", SarifParts.driver()));
      to.writePOJOProperty("automationDetails", Map.of("id", "upright-warden/audit/" + run.id()));
      to.writePOJOProperty("invocations", List.of(invocation(run)));
      to.writeStringProperty("columnKind", "utf16CodeUnits");
      to.writePOJOProperty(
          "properties",
          InOrder.map(
              "edition", run.edition(),
              "windowFrom", run.from().toString(),
              "windowTo", run.to().toString(),
              "meetings", run.judged()));
      Map<Long, String> reasons = new HashMap<>();
      to.writeArrayPropertyStart("results");
      reading.each(run.id(), row -> to.writePOJO(result(row, reasons)));
      to.writeEndArray();
      to.writeEndObject();
      to.writeEndArray();
      to.writeEndObject();
    }
  }

  private static Map<String, Object> invocation(AuditRun run) {
    Map<String, Object> invocation = new LinkedHashMap<>();
    invocation.put(
        "executionSuccessful", run.state().equals("done") || run.state().equals("standing"));
    invocation.put("startTimeUtc", run.startedAt().toString());
    if (run.finishedAt() != null) {
      invocation.put("endTimeUtc", run.finishedAt().toString());
    }
    return invocation;
  }

  private Map<String, Object> result(FindingQueries.Reported row, Map<Long, String> reasons) {
    FindingView finding = row.found().finding();
    Map<String, Object> result =
        SarifParts.result(
            null, row.found().meeting(), row.title(), row.found().identity(), finding);
    Long waiver = row.found().waiver();
    if (waiver != null) {
      String reason = reasons.computeIfAbsent(waiver, id -> waivers.get(id).reason());
      result.put(
          "suppressions",
          List.of(InOrder.map("kind", "external", "status", "accepted", "justification", reason)));
    }
    result.put("properties", properties(row, finding));
    return result;
  }

  private static Map<String, Object> properties(FindingQueries.Reported row, FindingView finding) {
    Map<String, Object> properties = new LinkedHashMap<>();
    properties.put("severity", finding.severity());
    properties.put("host", row.host());
    properties.put("family", finding.family());
    put(properties, "unit", row.unit());
    put(properties, "control", finding.control());
    put(properties, "guarantee", finding.guarantee());
    put(properties, "value", finding.value());
    put(properties, "allowed", finding.allowed());
    put(properties, "layer", finding.layer());
    return properties;
  }

  private static void put(
      Map<String, Object> map, String key, @org.jspecify.annotations.Nullable Object value) {
    if (value != null) {
      map.put(key, value);
    }
  }
}
