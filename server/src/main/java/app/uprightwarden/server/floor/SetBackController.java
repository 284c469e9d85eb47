package app.uprightwarden.server.floor;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.SettingsService;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import java.util.Locale;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Which rules a session is set back to by itself when somebody loosens it in the service. */
@RestController
@RequestMapping("/api/floor/set-back")
class SetBackController {
  private final SettingsService settings;

  SetBackController(SettingsService settings) {
    this.settings = settings;
  }

  /**
   * Which rules.
   *
   * @param rules none, sealed or all
   */
  record SetBackView(@NotNull @Pattern(regexp = "none|sealed|all") String rules) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  SetBackView view() {
    return new SetBackView(settings.setBack().id());
  }

  @PutMapping
  @PreAuthorize("hasRole('WARDEN')")
  SetBackView set(@RequestBody @Valid SetBackView wanted, @AuthenticationPrincipal SignedIn who) {
    SettingsService.SetBack which =
        SettingsService.SetBack.valueOf(wanted.rules().toUpperCase(Locale.ROOT));
    return new SetBackView(settings.setSetBack(which, who.email()).id());
  }
}
