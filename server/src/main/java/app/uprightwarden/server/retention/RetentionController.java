package app.uprightwarden.server.retention;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How long things are kept. */
@RestController
@RequestMapping("/api/keeping")
class RetentionController {
  private final RetentionService retention;

  RetentionController(RetentionService retention) {
    this.retention = retention;
  }

  /** So many days; null for ever. */
  record KeptFor(@Nullable @Min(1) @Max(36_500) Integer days) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<RetentionService.RetentionRule> rules() {
    return retention.rules();
  }

  @PutMapping("/{what}")
  @PreAuthorize("hasRole('WARDEN')")
  List<RetentionService.RetentionRule> set(
      @PathVariable String what, @RequestBody @Valid KeptFor wanted) {
    return retention.set(what, wanted.days());
  }
}
