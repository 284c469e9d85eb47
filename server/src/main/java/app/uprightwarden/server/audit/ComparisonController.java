package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Audits over time: compared, as trends, and at set times. */
@RestController
@RequestMapping("/api/audit-history")
@Validated
class ComparisonController {
  private static final String READERS = "hasAnyRole('WARDEN', 'AUDITOR')";

  private final Comparison comparison;
  private final Trends trends;
  private final AuditSchedules schedules;
  private final AuditRuns runs;

  ComparisonController(
      Comparison comparison, Trends trends, AuditSchedules schedules, AuditRuns runs) {
    this.comparison = comparison;
    this.trends = trends;
    this.schedules = schedules;
    this.runs = runs;
  }

  private long real(long id) {
    return id != 0
        ? id
        : runs.standing()
            .map(AuditRun::id)
            .orElseThrow(() -> ProblemException.notFound("Nothing has been looked at yet."));
  }

  /** Two audits held against each other; 0 is the standing one. */
  @GetMapping("/compare")
  @PreAuthorize(READERS)
  Comparison.Compared compare(@RequestParam long earlier, @RequestParam long later) {
    return comparison.compare(real(earlier), real(later));
  }

  /** One side of a comparison, the worst first. */
  @GetMapping("/compare/{side}")
  @PreAuthorize(READERS)
  Comparison.MovedPage side(
      @PathVariable @Pattern(regexp = "come|gone|still") String side,
      @RequestParam long earlier,
      @RequestParam long later,
      @RequestParam(required = false) @Nullable String reason,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "100") @Min(1) @Max(1000) int size) {
    return comparison.side(real(earlier), real(later), side, reason, page, size);
  }

  /** How things moved over the last audits of the whole register. */
  @GetMapping("/trends")
  @PreAuthorize(READERS)
  Trends.Trend trends(
      @RequestParam(required = false) @Nullable String unit,
      @RequestParam(defaultValue = "26") @Min(1) @Max(200) int most) {
    return trends.trend(unit == null ? null : List.of(unit), most);
  }

  /**
   * A schedule as it is given; see {@link AuditSchedules.Schedule}.
   *
   * @param version the one that was looked at; left out, nobody asks whether somebody changed it
   *     since
   */
  record ScheduleForm(
      @NotNull @Size(max = 120) String name,
      @NotNull @Size(max = 7) List<@Size(max = 16) @NotNull String> days,
      @NotNull @Size(max = 16) String time,
      @NotNull @Size(max = 64) String zone,
      @Nullable @Valid AuditScope scope,
      int windowDays,
      @NotNull @Size(max = 50) List<@Size(max = 254) @NotNull String> recipients,
      boolean active,
      @Nullable @Pattern(regexp = "a4|letter") String paper,
      @Nullable Long version) {
    AuditSchedules.Wanted wanted() {
      return new AuditSchedules.Wanted(
          name,
          days,
          time,
          zone,
          scope == null ? AuditScope.ALL : scope,
          windowDays,
          recipients,
          active,
          paper == null ? "a4" : paper);
    }
  }

  @GetMapping("/schedules")
  @PreAuthorize(READERS)
  List<AuditSchedules.Schedule> list() {
    return schedules.list();
  }

  @PostMapping("/schedules")
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize("hasRole('WARDEN')")
  AuditSchedules.Schedule create(
      @RequestBody @Valid ScheduleForm form, @AuthenticationPrincipal SignedIn who) {
    return schedules.create(form.wanted(), who);
  }

  @PutMapping("/schedules/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  AuditSchedules.Schedule change(
      @PathVariable long id,
      @RequestBody @Valid ScheduleForm form,
      @AuthenticationPrincipal SignedIn who) {
    return schedules.change(id, form.wanted(), form.version(), who);
  }

  @DeleteMapping("/schedules/{id}")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @PreAuthorize("hasRole('WARDEN')")
  void delete(@PathVariable long id) {
    schedules.delete(id);
  }
}
