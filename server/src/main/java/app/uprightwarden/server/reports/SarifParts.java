package app.uprightwarden.server.reports;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.Check;
import app.uprightwarden.server.judging.FindingView;
import app.uprightwarden.server.problem.InOrder;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** What every SARIF document of ours has: the checks as rules, and a finding as a result. */
public final class SarifParts {
  /** Where the schema of the format stands. */
  public static final String SCHEMA =
      "https://docs.oasis-open.org/sarif/sarif/v2.1.0/errata01/os/schemas/sarif-schema-2.1.0.json";

  private static final Map<String, Integer> PLACES = places();

  private SarifParts() {}

  /** The tool with a rule for each check. */
  public static Map<String, Object> driver() {
    return InOrder.map(
        "name",
        "Upright Warden",
        "semanticVersion",
        "0.1.0",
        "rules",
        Auditor.catalogue().stream().map(SarifParts::rule).toList());
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

  /** Five severities on SARIF's three levels; the severity itself is among the properties. */
  static String level(int severity) {
    return severity >= 4 ? "error" : severity == 3 ? "warning" : "note";
  }

  /**
   * A finding as a result.
   *
   * @param file where its meeting stands, or null where in no file
   * @param identity the same for the same thing in another run
   */
  public static Map<String, Object> result(
      @Nullable String file, String meeting, String title, String identity, FindingView finding) {
    Map<String, Object> result = new LinkedHashMap<>();
    result.put("ruleId", finding.check());
    Integer place = PLACES.get(finding.check());
    if (place != null) {
      result.put("ruleIndex", place);
    }
    result.put("level", level(finding.severity()));
    result.put("message", Map.of("text", finding.text()));
    String at = finding.occurrence() == null ? "" : "/" + finding.occurrence();
    Map<String, Object> location = new LinkedHashMap<>();
    if (file != null) {
      location.put("physicalLocation", Map.of("artifactLocation", Map.of("uri", file)));
    }
    location.put(
        "logicalLocations",
        List.of(InOrder.map("name", title, "fullyQualifiedName", meeting + at, "kind", "meeting")));
    result.put("locations", List.of(location));
    result.put("partialFingerprints", Map.of("uprightWardenIdentity/v1", identity));
    return result;
  }
}
