package app.uprightwarden.server.reports;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import java.util.Comparator;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** The report formats there are, in the order in which they are offered. */
@Component
class ReportFormats {
  private final List<ReportFormat> all;

  ReportFormats(List<ReportFormat> all) {
    this.all = all.stream().sorted(Comparator.comparingInt(ReportFormat::place)).toList();
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
    return all.stream()
        .filter(format -> format.id().equals(id))
        .findFirst()
        .orElseThrow(
            () ->
                ProblemException.invalid(
                    "There is no such report format.",
                    List.of(
                        new Fault(
                            "/as",
                            "must be one of "
                                + all.stream()
                                    .map(ReportFormat::id)
                                    .collect(Collectors.joining(", "))))));
  }
}
