package app.uprightwarden.server.reports;

import app.uprightwarden.server.audit.AuditRun;
import app.uprightwarden.server.audit.ContinuousAudit;
import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.problem.Languages;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.constraints.Pattern;
import java.util.Locale;
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
  private final ReportService reports;
  private final FindingQueries reading;
  private final ContinuousAudit standing;

  ReportController(ReportService reports, FindingQueries reading, ContinuousAudit standing) {
    this.reports = reports;
    this.reading = reading;
    this.standing = standing;
  }

  /**
   * The audit as {@code pdf}, {@code csv}, {@code json}, {@code sarif} or {@code evidence}.
   *
   * @param paper what a PDF is printed on: {@code a4} or {@code letter}
   */
  @GetMapping("/api/audits/{id}/report")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  ResponseEntity<StreamingResponseBody> report(
      @PathVariable long id,
      @RequestParam @Pattern(regexp = "pdf|csv|json|sarif|evidence") String as,
      @RequestParam(defaultValue = "a4") @Pattern(regexp = "a4|letter") String paper) {
    AuditRun run =
        id == 0
            ? standing
                .now()
                .orElseThrow(() -> ProblemException.notFound("Nothing has been looked at yet."))
            : reading.run(id);
    ReportService.Form form = ReportService.Form.valueOf(as.toUpperCase(Locale.ROOT));
    Locale language = Languages.current(); // what is written later has no request any more
    return ResponseEntity.ok()
        .header(HttpHeaders.CONTENT_TYPE, form.type)
        .header(
            HttpHeaders.CONTENT_DISPOSITION,
            "attachment; filename=\"" + ReportService.name(run, form) + "\"")
        .body(out -> reports.write(run, form, paper, language, out));
  }
}
