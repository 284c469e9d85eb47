package app.uprightwarden.server.reports;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The report formats there are, in the order in which they are offered. */
@Component
class ReportFormats {
  private final List<ReportFormat> all;
  private final Map<String, ReportFormat> byId;

  ReportFormats(List<ReportFormat> all) {
    this.all = all.stream().sorted(Comparator.comparingInt(ReportFormat::place)).toList();
    // of two with one id none starts
    this.byId = all.stream().collect(Collectors.toUnmodifiableMap(ReportFormat::id, f -> f));
  }

  List<ReportFormat> all() {
    return all;
  }

  /**
   * Finds one.
   *
   * @throws ProblemException 422 if there is none of that name
   */
  ReportFormat named(String id) {
    ReportFormat format = byId.get(id);
    if (format == null) {
      String known = all.stream().map(ReportFormat::id).collect(Collectors.joining(", "));
      throw ProblemException.invalid(
          "There is no such report format.", List.of(new Fault("/as", "must be one of " + known)));
    }
    return format;
  }
}
