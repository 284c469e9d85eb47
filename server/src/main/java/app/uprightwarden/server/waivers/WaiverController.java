package app.uprightwarden.server.waivers;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.register.RegisterService;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.validation.annotation.Validated;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RequestParam;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Waivers: granted and ended by wardens, read by auditors too. */
@RestController
@RequestMapping("/api/waivers")
@Validated
class WaiverController {
  private static final int MAX = 500;
  private static final String READERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')";
  private static final String GRANTERS = "hasAnyRole('WARDEN', 'UNIT_WARDEN')";

  private final WaiverService waivers;
  private final WaiverRequests requests;
  private final RegisterService register;
  private final UnitWaivers unitWaivers;

  WaiverController(
      WaiverService waivers,
      WaiverRequests requests,
      RegisterService register,
      UnitWaivers unitWaivers) {
    this.unitWaivers = unitWaivers;
    this.register = register;
    this.waivers = waivers;
    this.requests = requests;
  }

  /** What to waive: a finding by meeting, check and subject; a meeting; or a rule in a unit. */
  record NewWaiver(
      @NotNull @Size(max = 16) String scope,
      @Nullable @Size(max = 64) String meeting,
      @Nullable @Size(max = 40) String occurrence,
      @Nullable @Size(max = 64) String check,
      @Nullable @Size(max = 120) String subject,
      @Nullable @Size(max = 64) String unit,
      @NotNull @Size(max = 2000) String reason,
      @NotNull Instant until,
      @Nullable @Size(max = 254) String askedBy) {}

  record SecondWord(boolean consent) {}

  record ByTwo(boolean byTwo) {}

  /** Up to which severity a unit's warden waives; 0 for none. */
  record UnitSeverity(@Min(0) @Max(5) int severity) {}

  @GetMapping
  @PreAuthorize(READERS)
  List<WaiverService.GrantedWaiver> list(
      @RequestParam(required = false) @Nullable String meeting,
      @RequestParam(required = false) @Nullable String state,
      @AuthenticationPrincipal SignedIn who) {
    return waivers.list(meeting, state, MAX).stream()
        .filter(each -> unitWaivers.concerns(who, each.meeting(), each.unit()))
        .toList();
  }

  /** The waivers in force on a meeting, for whoever may see the meeting. */
  @GetMapping("/of/{meeting}")
  @PreAuthorize("isAuthenticated()")
  List<WaiverService.GrantedWaiver> of(
      @PathVariable String meeting, @AuthenticationPrincipal SignedIn who) {
    return waivers.covering(register.get(meeting, who).meeting());
  }

  /** Waivers that hosts have asked for and nobody has answered. */
  @GetMapping("/asked")
  @PreAuthorize(READERS)
  List<WaiverRequests.WaiverRequest> asked(@AuthenticationPrincipal SignedIn who) {
    return requests.openFor(who);
  }

  @PostMapping
  @ResponseStatus(HttpStatus.CREATED)
  @PreAuthorize(GRANTERS)
  WaiverService.GrantedWaiver grant(
      @RequestBody @Valid NewWaiver wanted, @AuthenticationPrincipal SignedIn who) {
    return waivers.grant(
        new WaiverService.Wanted(
            wanted.scope(),
            wanted.meeting(),
            wanted.occurrence(),
            wanted.check(),
            wanted.subject(),
            wanted.unit(),
            wanted.reason(),
            wanted.until(),
            wanted.askedBy()),
        who);
  }

  @PostMapping("/{id}/second")
  @PreAuthorize("hasRole('WARDEN')")
  WaiverService.GrantedWaiver second(
      @PathVariable long id,
      @RequestBody @Valid SecondWord word,
      @AuthenticationPrincipal SignedIn who) {
    return waivers.second(id, word.consent(), who);
  }

  @PostMapping("/{id}/end")
  @PreAuthorize(GRANTERS)
  WaiverService.GrantedWaiver end(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return waivers.end(id, who);
  }

  @GetMapping("/settings")
  @PreAuthorize(READERS)
  WaiverService.WaiverSettings settings() {
    return waivers.settings();
  }

  @PutMapping("/settings")
  @PreAuthorize("hasRole('WARDEN')")
  WaiverService.WaiverSettings set(
      @RequestBody @Valid ByTwo wanted, @AuthenticationPrincipal SignedIn who) {
    return waivers.setByTwo(wanted.byTwo(), who);
  }

  @PutMapping("/settings/units")
  @PreAuthorize("hasRole('WARDEN')")
  WaiverService.WaiverSettings setUnits(
      @RequestBody @Valid UnitSeverity wanted, @AuthenticationPrincipal SignedIn who) {
    return waivers.setUnitSeverity(wanted.severity(), who);
  }
}
