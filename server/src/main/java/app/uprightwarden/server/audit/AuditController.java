package app.uprightwarden.server.audit;

import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.http.ResponseEntity;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.RestController;

/** Audits: run by wardens, read by wardens and auditors. */
@RestController
@RequestMapping("/api/audits")
@Validated
class AuditController {
  private static final Duration DEFAULT_WINDOW = Duration.ofDays(90);

  private final AuditService audits;
  private final AuditStore store;
  private final Clock clock;

  AuditController(AuditService audits, AuditStore store, Clock clock) {
    this.audits = audits;
    this.store = store;
    this.clock = clock;
  }

  /** The window to look at; from now for 90 days where left out. */
  record Window(@Nullable Instant from, @Nullable Instant to) {}

  /** A run with its findings counted by severity, 5 first. */
  record RunView(AuditRun run, Map<Integer, Integer> bySeverity) {}

  @PostMapping
  @PreAuthorize("hasRole('WARDEN')")
  ResponseEntity<AuditRun> start(
      @RequestBody(required = false) @Nullable Window window,
      @AuthenticationPrincipal SignedIn who) {
    Instant from = window == null || window.from() == null ? clock.instant() : window.from();
    Instant to = window == null || window.to() == null ? from.plus(DEFAULT_WINDOW) : window.to();
    AuditRun run = audits.start(from, to, who);
    return ResponseEntity.status(HttpStatus.ACCEPTED)
        .header("Location", "/api/audits/" + run.id())
        .body(run);
  }

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<AuditRun> newest(@RequestParam(defaultValue = "20") @Min(1) @Max(200) int most) {
    return store.newest(most);
  }

  @GetMapping("/{id}")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  RunView get(@PathVariable long id) {
    return new RunView(store.get(id), store.bySeverity(id));
  }

  /**
   * Findings in the order in which to fix them.
   *
   * @param severity the least severity wanted
   */
  @GetMapping("/{id}/findings")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  AuditStore.FindingPage findings(
      @PathVariable long id,
      @RequestParam(required = false) @Nullable String meeting,
      @RequestParam(required = false) @Nullable String check,
      @RequestParam(required = false) @Nullable @Min(1) @Max(5) Integer severity,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "100") @Min(1) @Max(1000) int size) {
    store.get(id);
    return store.findings(id, meeting, check, severity, page, size);
  }

  /** The wall: meetings down, families across; the worst first. */
  @GetMapping("/{id}/wall")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  AuditStore.WallPage wall(
      @PathVariable long id,
      @RequestParam(defaultValue = "true") boolean open,
      @RequestParam(defaultValue = "0") @Min(0) int page,
      @RequestParam(defaultValue = "200") @Min(1) @Max(1000) int size) {
    store.get(id);
    return store.wall(id, open, page, size);
  }
}
