package app.uprightwarden.server.deputies;

import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import java.util.List;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Those who stand in for a unit's warden for a time. */
@RestController
@RequestMapping("/api/deputies")
class DeputiesController {
  private final Deputies deputies;

  DeputiesController(Deputies deputies) {
    this.deputies = deputies;
  }

  /** Whose place somebody takes, and when. */
  record DeputyToName(
      @NotBlank @Size(max = 64) String unit, @NotNull Instant from, @NotNull Instant until) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR')")
  List<AccessService.Deputy> all(@AuthenticationPrincipal SignedIn who) {
    return deputies.all(who);
  }

  @PutMapping("/{email}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN')")
  List<AccessService.Deputy> name(
      @PathVariable @Email @Size(max = 254) String email,
      @RequestBody @Valid DeputyToName wanted,
      @AuthenticationPrincipal SignedIn who) {
    deputies.name(email, wanted.unit(), wanted.from(), wanted.until(), who);
    return deputies.all(who);
  }

  @DeleteMapping("/{email}")
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN')")
  List<AccessService.Deputy> end(
      @PathVariable @Email @Size(max = 254) String email, @AuthenticationPrincipal SignedIn who) {
    deputies.end(email, who);
    return deputies.all(who);
  }
}
