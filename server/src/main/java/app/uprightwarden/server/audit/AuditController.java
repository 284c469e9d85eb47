package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.Pattern;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
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
import org.springframework.web.bind.annotation.RestController;

/**
 * Audits: run by wardens, read by wardens and auditors. The id 0 is the standing audit, which is
 * always current.
 */
@RestController
@RequestMapping("/api/audits")
@Validated
class AuditController {
  private static final Duration DEFAULT_WINDOW = Duration.ofDays(90);
  private static final String READERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')";
  private static final String RUNNERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN')";

  private final AuditService audits;
  private final AuditRuns runs;
  private final FindingQueries reading;
  private final AuditCounts counts;
  private final Wall wall;
  private final UnitScope units;
  private final Clock clock;

  AuditController(
      AuditService audits,
      AuditRuns runs,
      FindingQueries reading,
      AuditCounts counts,
      Wall wall,
      UnitScope units,
      Clock clock) {
    this.units = units;
    this.audits = audits;
    this.runs = runs;
    this.reading = reading;
    this.counts = counts;
    this.wall = wall;
    this.clock = clock;
  }

  /**
   * What to look at: the window, from now for 90 days where left out; and the scope, everything
   * where left out.
   */
  record NewAudit(
      @Nullable Instant from, @Nullable Instant to, @Nullable @Valid AuditScope scope) {}

  /** A run with its open findings counted by severity, 5 first, and how many are waived. */
  record RunView(AuditRun run, Map<Integer, Integer> bySeverity, int waived) {}

  @PostMapping
  @PreAuthorize(RUNNERS)
  ResponseEntity<AuditRun> start(
      @RequestBody(required = false) @Valid @Nullable NewAudit wanted,
      @AuthenticationPrincipal SignedIn who) {
    Instant from = wanted == null || wanted.from() == null ? clock.instant() : wanted.from();
    Instant to = wanted == null || wanted.to() == null ? from.plus(DEFAULT_WINDOW) : wanted.to();
    AuditScope scope = wanted == null || wanted.scope() == null ? AuditScope.ALL : wanted.scope();
    if (who.role() == Role.UNIT_WARDEN) {
      // a unit's warden audits the unit, or what they choose within it
      scope =
          new AuditScope(
              scope.unit() == null || !only(who).contains(scope.unit()) ? who.unit() : scope.unit(),
              scope.kind(),
              scope.host());
    }
    AuditRun run = audits.start(from, to, scope, who);
    return ResponseEntity.status(HttpStatus.ACCEPTED)
        .header("Location", "/api/audits/" + run.id())
        .body(run);
  }

  @GetMapping
  @PreAuthorize(READERS)
  List<AuditRun> newest(
      @RequestParam(defaultValue = "20") @Min(1) @Max(200) int most,
      @AuthenticationPrincipal SignedIn who) {
    return reading.newest(most, run -> concerns(run, who));
  }

  /** A unit's warden reads audits of that unit, and in the standing one what concerns it. */
  private boolean concerns(AuditRun run, SignedIn who) {
    return who.role() != Role.UNIT_WARDEN
        || run.state().equals("standing")
        || (run.scope().unit() != null && only(who).contains(run.scope().unit()));
  }

  private Set<String> only(SignedIn who) {
    Set<String> of = units.units(who);
    return of == null ? Set.of() : of;
  }

  private AuditRun run(long id, SignedIn who) {
    AuditRun run = run(id);
    if (!concerns(run, who)) {
      throw ProblemException.notFound("There is no audit " + id + " for you.");
    }
    return run;
  }

  @GetMapping("/{id}")
  @PreAuthorize(READERS)
  RunView get(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    AuditRun run = run(id, who);
    Set<String> of = units.units(who);
    AuditCounts.Tally tally = counts.tally(run.id(), of);
    return new RunView(run, tally.open(), tally.waived());
  }

  private AuditRun run(long id) {
    return id == 0
        ? runs.standing()
            .orElseThrow(
                () ->
                    ProblemException.notFound(
                        "Nothing has been looked at yet. Publish the first edition."))
        : runs.get(id);
  }

  /** Stops a run where it is; what it found stays, and it can go on. */
  @PostMapping("/{id}/cancel")
  @PreAuthorize(RUNNERS)
  AuditRun cancel(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    run(id, who);
    return audits.cancel(id);
  }

  @PostMapping("/{id}/resume")
  @PreAuthorize(RUNNERS)
  AuditRun resume(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    run(id, who);
    return audits.resume(id);
  }

  /** Makes a run the baseline to work down from. */
  @PutMapping("/{id}/baseline")
  @PreAuthorize("hasRole('WARDEN')")
  AuditRun setBaseline(@PathVariable long id) {
    AuditRun run = runs.get(id);
    if (!run.state().equals("done")) {
      throw ProblemException.conflict(
          "not-done", "Only an audit that came to its end can be the baseline.");
    }
    runs.baseline(id);
    return runs.get(id);
  }

  @DeleteMapping("/{id}/baseline")
  @PreAuthorize("hasRole('WARDEN')")
  AuditRun noBaseline(@PathVariable long id) {
    runs.get(id);
    runs.baseline(null);
    return runs.get(id);
  }

  /**
   * Findings in the order in which to fix them.
   *
   * @param severity the least severity wanted
   * @param waived only those that a waiver covers, or only the others
   */
  @GetMapping("/{id}/findings")
  @PreAuthorize(READERS)
  FindingQueries.FindingPage findings(
      @PathVariable long id,
      @RequestParam(required = false) @Nullable String meeting,
      @RequestParam(required = false) @Nullable String check,
      @RequestParam(required = false) @Nullable String subject,
      @RequestParam(required = false) @Nullable @Min(1) @Max(5) Integer severity,
      @RequestParam(required = false) @Nullable Boolean waived,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "100") @Min(1) @Max(1000) int size,
      @AuthenticationPrincipal SignedIn who) {
    return reading.findings(
        run(id, who).id(),
        new FindingQueries.FindingFilter(
            meeting, check, subject, severity, null, waived, units.units(who)),
        page,
        size);
  }

  /** Open findings counted by check and what it is about, the worst first. */
  @GetMapping("/{id}/checks")
  @PreAuthorize(READERS)
  List<AuditCounts.CheckCount> checks(
      @PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return counts.byCheck(run(id, who).id(), units.units(who));
  }

  /** The wall: meetings down, families across; the worst first. See {@link Wall.WallFilter}. */
  @GetMapping("/{id}/wall")
  @PreAuthorize(READERS)
  Wall.WallPage wall(
      @PathVariable long id,
      @RequestParam(defaultValue = "open") @Pattern(regexp = "open|waived|all") String show,
      @RequestParam(required = false) @Nullable @Pattern(regexp = "unit|host|kind") String group,
      @RequestParam(required = false) @Nullable String unit,
      @RequestParam(required = false) @Nullable String kind,
      @RequestParam(required = false) @Nullable String host,
      @RequestParam(required = false) @Nullable String check,
      @RequestParam(required = false) @Nullable String subject,
      @RequestParam(required = false) @Nullable @Pattern(regexp = "new|old") String baseline,
      @RequestParam(required = false) @Nullable @Min(1) @Max(5) Integer severity,
      @RequestParam(required = false) @Nullable String text,
      @RequestParam(required = false) @Nullable Instant from,
      @RequestParam(required = false) @Nullable Instant to,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "200") @Min(1) @Max(1000) int size,
      @AuthenticationPrincipal SignedIn who) {
    Long base = runs.baseline().map(AuditRun::id).orElse(null);
    return wall.page(
        run(id, who).id(),
        base,
        new Wall.WallFilter(
            show,
            group,
            unit,
            kind,
            host,
            check,
            subject,
            baseline,
            severity,
            text,
            from,
            to,
            units.units(who)),
        page,
        size);
  }
}
