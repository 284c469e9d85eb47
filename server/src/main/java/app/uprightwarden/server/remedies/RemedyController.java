package app.uprightwarden.server.remedies;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.limits.Takes;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.schema.Plain;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Remedies: sketched by anyone who sees the meeting, applied by wardens. */
@Takes(kilobytes = 4096)
@RestController
@RequestMapping("/api/remedies")
@Validated
class RemedyController {
  private static final String READERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')";
  private static final String MENDERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN')";

  private final RemedyService remedies;
  private final RemedyJobs jobs;

  RemedyController(RemedyService remedies, RemedyJobs jobs) {
    this.remedies = remedies;
    this.jobs = jobs;
  }

  /** One meeting, or one finding in it; see {@link RemedyService.Target}. */
  record TargetForm(
      @NotNull @Size(max = 64) String meeting,
      @Nullable @Size(max = 40) String occurrence,
      @Nullable @Size(max = 64) String check,
      @Nullable @Size(max = 120) String subject) {
    RemedyService.Target target() {
      return new RemedyService.Target(meeting, occurrence, check, subject);
    }
  }

  /** A target with another choice of controls in pencil, or none for the cheapest. */
  record SketchForm(
      @NotNull @Valid TargetForm target,
      @Plain @Nullable @Size(max = 200) Map<String, Object> controls) {}

  /**
   * What to apply: targets, or everything one check finds.
   *
   * @param controls for one target: another choice than the cheapest
   * @param evenIfAsked also where the host was asked and still has time
   */
  record ApplyForm(
      @Nullable @Size(max = 20_000) List<@Valid @NotNull TargetForm> targets,
      @Nullable @Size(max = 64) String wholeCheck,
      @Nullable @Size(max = 120) String wholeSubject,
      @Plain @Nullable @Size(max = 200) Map<String, Object> controls,
      boolean evenIfAsked) {
    RemedyService.Selection selection() {
      List<TargetForm> some = targets == null ? List.of() : targets;
      return new RemedyService.Selection(
          some.stream().map(TargetForm::target).toList(), wholeCheck, wholeSubject);
    }
  }

  /** A job with its items, those that are not done first. */
  record JobView(RemedyJobs.RemedyJob job, List<RemedyJobs.RemedyItem> items) {}

  @PostMapping("/sketch")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  RemedyService.Sketch sketch(
      @RequestBody @Valid SketchForm form, @AuthenticationPrincipal SignedIn who) {
    return remedies.sketch(form.target().target(), form.controls(), who);
  }

  @PostMapping("/preview")
  @PreAuthorize(MENDERS)
  RemedyService.Preview preview(
      @RequestBody @Valid ApplyForm form, @AuthenticationPrincipal SignedIn who) {
    return remedies.preview(form.selection(), form.evenIfAsked(), who);
  }

  @PostMapping
  @ResponseStatus(HttpStatus.ACCEPTED)
  @PreAuthorize(MENDERS)
  RemedyJobs.RemedyJob apply(
      @RequestBody @Valid ApplyForm form, @AuthenticationPrincipal SignedIn who) {
    return jobs.job(remedies.apply(form.selection(), form.controls(), form.evenIfAsked(), who));
  }

  @GetMapping
  @PreAuthorize(READERS)
  List<RemedyJobs.RemedyJob> newest(
      @RequestParam(defaultValue = "20") @Min(1) @Max(200) int most,
      @AuthenticationPrincipal SignedIn who) {
    return who.role() == Role.UNIT_WARDEN ? jobs.newestOf(who.email(), most) : jobs.newest(most);
  }

  @GetMapping("/{id}")
  @PreAuthorize(READERS)
  JobView get(
      @PathVariable long id,
      @RequestParam(defaultValue = "200") @Min(1) @Max(2000) int most,
      @AuthenticationPrincipal SignedIn who) {
    return new JobView(job(id, who), jobs.items(id, most));
  }

  @PostMapping("/{id}/undo")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @PreAuthorize(MENDERS)
  RemedyJobs.RemedyJob undo(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    job(id, who);
    return jobs.job(remedies.undo(id, who));
  }

  /** A unit's warden has the remedies they applied. */
  private RemedyJobs.RemedyJob job(long id, SignedIn who) {
    RemedyJobs.RemedyJob job = jobs.job(id);
    if (who.role() == Role.UNIT_WARDEN && !job.by().equals(who.email())) {
      throw ProblemException.notFound("There is no remedy " + id + " for you.");
    }
    return job;
  }

  @PostMapping("/{id}/retry")
  @ResponseStatus(HttpStatus.ACCEPTED)
  @PreAuthorize(MENDERS)
  RemedyJobs.RemedyJob retry(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    job(id, who);
    remedies.retry(id);
    return jobs.job(id);
  }
}
