package app.uprightwarden.server.services;

import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Who asked to take part in a meeting, and what is answered. */
@RestController
@RequestMapping("/api/meetings/{id}/registrations")
class RegistrationsController {
  private final Registrations registrations;

  RegistrationsController(Registrations registrations) {
    this.registrations = registrations;
  }

  /**
   * A decision.
   *
   * @param addresses whom it is about; null for all who have no answer
   */
  record ToDecide(
      @Nullable @Size(min = 1, max = 5000) List<@NotNull @Size(max = 254) String> addresses,
      @NotNull @Pattern(regexp = "approve|decline") String decision) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'AUDITOR', 'HOST')")
  Registrations.RegistrationList list(
      @PathVariable String id,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return registrations.of(id, who);
  }

  @PostMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'UNIT_WARDEN', 'HOST')")
  Registrations.RegistrationList decide(
      @PathVariable String id,
      @RequestBody @Valid ToDecide wanted,
      @AuthenticationPrincipal(expression = SignedIn.AS_HOST) SignedIn who) {
    return registrations.decide(id, wanted.addresses(), wanted.decision().equals("approve"), who);
  }
}
