package app.uprightwarden.server.lookout;

import app.uprightwarden.server.access.SignedIn;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The first page after sign-in. */
@RestController
@RequestMapping("/api/lookout")
class LookoutController {
  private final LookoutService lookout;

  LookoutController(LookoutService lookout) {
    this.lookout = lookout;
  }

  /** What is for somebody who looks after the organisation, or after a unit. */
  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')")
  LookoutService.Lookout all(@AuthenticationPrincipal SignedIn who) {
    return lookout.all(who);
  }

  /** What is for a host: whoever asks. */
  @GetMapping("/mine")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  LookoutService.HostLookout mine(
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return lookout.mine(who);
  }
}
