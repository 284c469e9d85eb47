package app.uprightwarden.server.alerting;

import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Whom alerts of sessions reach. */
@RestController
@RequestMapping("/api/alerting")
class AlertingController {
  private static final String TIME = "([01]\\d|2[0-3]):[0-5]\\d";

  private final Alerting alerting;

  AlertingController(Alerting alerting) {
    this.alerting = alerting;
  }

  /**
   * See {@link Alerting.AlertSettings}.
   *
   * @param version the one that was looked at; left out, nobody asks whether somebody set them
   *     since
   */
  record AlertSettingsWanted(
      @NotNull @Size(max = 20) List<@NotBlank @Email @Size(max = 254) String> onCall,
      @Min(1) @Max(120) int nextMinutes,
      @Min(1) @Max(5) int leastSeverity,
      @Nullable @Pattern(regexp = TIME) String quietFrom,
      @Nullable @Pattern(regexp = TIME) String quietTo,
      @NotBlank @Size(max = 64) String quietZone,
      @Nullable @Size(max = 300) String webhook,
      @Nullable Long version) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  Alerting.AlertingView view() {
    return alerting.view();
  }

  @PutMapping
  @PreAuthorize("hasRole('WARDEN')")
  Alerting.AlertingView set(
      @RequestBody @Valid AlertSettingsWanted wanted, @AuthenticationPrincipal SignedIn who) {
    return alerting.set(
        new Alerting.AlertSettings(
            wanted.onCall().stream().map(String::strip).distinct().toList(),
            wanted.nextMinutes(),
            wanted.leastSeverity(),
            wanted.quietFrom(),
            wanted.quietTo(),
            wanted.quietZone(),
            wanted.webhook() == null || wanted.webhook().isBlank()
                ? null
                : wanted.webhook().strip()),
        wanted.version(),
        who);
  }

  /** Sends a message that says it is a test, by every way there is. */
  @PostMapping("/test")
  @PreAuthorize("hasRole('WARDEN')")
  Alerting.TestSent test(@AuthenticationPrincipal SignedIn who) {
    return alerting.test(who);
  }
}
