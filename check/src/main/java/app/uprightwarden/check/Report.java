package app.uprightwarden.check;

import app.uprightwarden.server.exchange.OfflineCheck;
import app.uprightwarden.server.exchange.OfflineCheck.Found;
import app.uprightwarden.server.reports.SarifParts;
import java.io.PrintStream;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * What was found, written for people and for programs. With another rulebook to hold it against,
 * what is found more and what no longer.
 */
final class Report {
  private final OfflineCheck.Outcome outcome;
  private final @Nullable List<Found> more;
  private final List<Found> gone;
  private final int failFrom;
  private final JsonMapper json =
      JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

  Report(OfflineCheck.Outcome outcome, OfflineCheck.@Nullable Outcome before, int failFrom) {
    this.outcome = outcome;
    this.failFrom = failFrom;
    if (before == null) {
      more = null;
      gone = List.of();
    } else {
      Set<String> now = identities(outcome);
      Set<String> then = identities(before);
      more = outcome.findings().stream().filter(f -> !then.contains(f.identity())).toList();
      gone = before.findings().stream().filter(f -> !now.contains(f.identity())).toList();
    }
  }

  private static Set<String> identities(OfflineCheck.Outcome of) {
    return of.findings().stream().map(Found::identity).collect(Collectors.toSet());
  }

  private List<Found> counted() {
    return more == null ? outcome.findings() : more;
  }

  /** The gravest severity that counts, or 0. */
  int status() {
    int worst = counted().stream().mapToInt(found -> found.finding().severity()).max().orElse(0);
    return worst >= failFrom ? worst : 0;
  }

  void text(PrintStream out) {
    if (more == null) {
      outcome.findings().forEach(found -> out.println(line(' ', found)));
    } else {
      more.forEach(found -> out.println(line('+', found)));
      gone.forEach(found -> out.println(line('-', found)));
    }
    outcome.notes().forEach(note -> out.println("note: " + clean(note)));
    out.println(summary());
  }

  private String summary() {
    String meetings = counted(outcome.meetings(), "meeting", "meetings");
    return more == null
        ? counted(outcome.findings().size(), "finding", "findings") + " in " + meetings + "."
        : more.size()
            + " more and "
            + gone.size()
            + " fewer in "
            + meetings
            + ", "
            + (outcome.findings().size() - more.size())
            + " the same.";
  }

  private static String counted(int n, String one, String many) {
    return n + " " + (n == 1 ? one : many);
  }

  private static String line(char sign, Found found) {
    String at = found.finding().occurrence() == null ? "" : " on " + found.finding().occurrence();
    return clean(
        (sign == ' ' ? "" : sign + " ")
            + found.file()
            + ": "
            + found.title()
            + at
            + " ["
            + found.finding().severity()
            + " "
            + found.finding().check()
            + "] "
            + found.finding().text());
  }

  /** What people wrote begins no line of its own, and moves no cursor. */
  private static String clean(String text) {
    return text.replaceAll("\\p{Cntrl}", " ");
  }

  void json(PrintStream out) {
    Map<String, Object> document = new LinkedHashMap<>();
    document.put("meetings", outcome.meetings());
    document.put("worst", status());
    if (more == null) {
      document.put("findings", outcome.findings());
    } else {
      document.put("more", more);
      document.put("fewer", gone);
      document.put("same", outcome.findings().size() - more.size());
    }
    document.put("notes", outcome.notes());
    out.println(json.writeValueAsString(document));
  }

  /** SARIF 2.1.0 (OASIS); with another rulebook each result has its {@code baselineState}. */
  void sarif(PrintStream out) {
    Map<String, Object> run = new LinkedHashMap<>();
    run.put("tool", Map.of("driver", SarifParts.driver()));
    run.put("columnKind", "utf16CodeUnits");
    List<Map<String, Object>> results =
        outcome.findings().stream()
            .map(
                found ->
                    result(found, more == null ? null : more.contains(found) ? "new" : "unchanged"))
            .collect(Collectors.toCollection(java.util.ArrayList::new));
    gone.forEach(found -> results.add(result(found, "absent")));
    run.put("results", results);
    Map<String, Object> document = new LinkedHashMap<>();
    document.put("$schema", SarifParts.SCHEMA);
    document.put("version", "2.1.0");
    document.put("runs", List.of(run));
    out.println(json.writeValueAsString(document));
  }

  private static Map<String, Object> result(Found found, @Nullable String state) {
    Map<String, Object> result =
        SarifParts.result(
            found.file().replace('\\', '/'),
            found.meeting(),
            found.title(),
            found.identity(),
            found.finding());
    if (state != null) {
      result.put("baselineState", state);
    }
    result.put("properties", Map.of("severity", found.finding().severity()));
    return result;
  }
}
