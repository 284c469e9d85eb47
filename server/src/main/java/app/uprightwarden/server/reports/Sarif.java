package app.uprightwarden.server.reports;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
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
class Sarif {
  private static final String SCHEMA =
      "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

  private final FindingQueries reading;
  private final WaiverService waivers;
  private final JsonMapper json;

  Sarif(FindingQueries reading, WaiverService waivers, JsonMapper json) {
    this.reading = reading;
    this.waivers = waivers;
    this.json = json.rebuild().disable(StreamWriteFeature.AUTO_CLOSE_TARGET).build();
  }

  void write(AuditRun run, OutputStream out) {
    try (JsonGenerator to = json.createGenerator(out)) {
      to.writeStartObject();
      to.writeStringProperty("$schema", SCHEMA);
      to.writeStringProperty("version", "2.1.0");
      to.writeArrayPropertyStart("runs");
      to.writeStartObject();
      to.writePOJOProperty("tool", Map.of("driver", driver()));
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
      Map<String, Integer> places = places();
      Map<Long, String> reasons = new HashMap<>();
      to.writeArrayPropertyStart("results");
      reading.each(run.id(), row -> to.writePOJO(result(row, places, reasons)));
      to.writeEndArray();
      to.writeEndObject();
      to.writeEndArray();
      to.writeEndObject();
    }
  }

  private static Map<String, Object> driver() {
    return InOrder.map(
        "name",
        "Upright Warden",
        "semanticVersion",
        "0.1.0",
        "rules",
        Auditor.catalogue().stream().map(Sarif::rule).toList());
  }

  private static Map<String, Object> rule(Check check) {
    Map<String, Object> rule = new LinkedHashMap<>();
    rule.put("id", check.id());
    rule.put("shortDescription", Map.of("text", check.summary()));
    rule.put("fullDescription", Map.of("text", check.why()));
    rule.put("help", Map.of("text", check.mend()));
    int base = check.baseSeverity() == 0 ? 3 : check.baseSeverity();
    rule.put("defaultConfiguration", Map.of("level", level(base)));
    return rule;
  }

  private static Map<String, Integer> places() {
    Map<String, Integer> places = new HashMap<>();
    Auditor.catalogue().forEach(check -> places.put(check.id(), places.size()));
    return places;
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

  /** Five severities on SARIF's three levels; the severity itself is among the properties. */
  private static String level(int severity) {
    return severity >= 4 ? "error" : severity == 3 ? "warning" : "note";
  }

  private Map<String, Object> result(
      FindingQueries.Reported row, Map<String, Integer> places, Map<Long, String> reasons) {
    FindingView finding = row.found().finding();
    Map<String, Object> result = new LinkedHashMap<>();
    result.put("ruleId", finding.check());
    Integer place = places.get(finding.check());
    if (place != null) {
      result.put("ruleIndex", place);
    }
    result.put("level", level(finding.severity()));
    result.put("message", Map.of("text", finding.text()));
    String at = finding.occurrence() == null ? "" : "/" + finding.occurrence();
    result.put(
        "locations",
        List.of(
            Map.of(
                "logicalLocations",
                List.of(
                    InOrder.map(
                        "name",
                        row.title(),
                        "fullyQualifiedName",
                        row.found().meeting() + at,
                        "kind",
                        "meeting")))));
    result.put("partialFingerprints", Map.of("uprightWardenIdentity/v1", row.found().identity()));
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
