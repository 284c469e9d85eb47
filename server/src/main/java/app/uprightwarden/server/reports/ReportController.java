package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Worded;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.springframework.http.HttpHeaders;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.StreamingResponseBody;

/** An audit to take away. */
@RestController
@Validated
class ReportController {
  private final ReportFormats formats;
  private final FindingQueries reading;
  private final ContinuousAudit standing;

  ReportController(ReportFormats formats, FindingQueries reading, ContinuousAudit standing) {
    this.formats = formats;
    this.reading = reading;
    this.standing = standing;
  }

  /**
   * A report format, as it is offered.
   *
   * @param id what it is asked for by, as {@code as}
   * @param ending of its file's name, without the dot
   * @param papers what it can be printed on; empty for what is not printed
   */
  record ReportFormatView(String id, @Worded String title, String ending, List<String> papers) {}

  /** The report formats there are, in the order in which they are offered. */
  @GetMapping("/api/report-formats")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<ReportFormatView> formats() {
    return formats.all().stream()
        .map(
            format ->
                new ReportFormatView(
                    format.id(),
                    format.title(),
                    format.ending().substring(format.ending().lastIndexOf('.') + 1),
                    format.papers()))
        .toList();
  }

  /**
   * The audit in one of the report formats.
   *
   * @param as the format
   * @param paper what a PDF is printed on: {@code a4} or {@code letter}
   */
  @GetMapping("/api/audits/{id}/report")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ResponseEntity<StreamingResponseBody> report(
      @PathVariable long id,
      @RequestParam @Size(max = 20) String as,
      @RequestParam(defaultValue = "a4") @Pattern(regexp = "a4|letter") String paper) {
    ReportFormat format = formats.named(as);
    AuditRun run =
        id == 0
            ? standing
                .now()
                .orElseThrow(() -> ProblemException.notFound("Nothing has been looked at yet."))
            : reading.run(id);
    // what is written later has no request any more
    ReportFormat.Wish wish = new ReportFormat.Wish(paper, Languages.current());
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_TYPE, format.mediaType())
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"" + format.fileName(run) + "\"")
        .body(out -> format.write(run, wish, out));
  }
}
