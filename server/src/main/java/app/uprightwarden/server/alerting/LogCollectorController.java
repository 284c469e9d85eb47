package app.uprightwarden.server.alerting;

import app.uprightwarden.server.access.SignedIn;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Size;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** The log collector that takes the ledger. */
@RestController
@RequestMapping("/api/log-collector")
class LogCollectorController {
  private final LogCollector collector;

  LogCollectorController(LogCollector collector) {
    this.collector = collector;
  }

  /**
   * Who takes it.
   *
   * @param address null for nobody
   * @param fromStart whether all that is in the ledger goes too
   * @param seen the address as it was looked at, empty where there was none; left out, nobody asks
   *     whether somebody changed it since
   */
  record CollectorWanted(
      @Nullable @Size(max = 300) String address,
      boolean fromStart,
      @Nullable @Size(max = 300) String seen) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  LogCollector.Collector view() {
    return collector.view();
  }

  @PutMapping
  @PreAuthorize("hasRole('WARDEN')")
  LogCollector.Collector set(
      @RequestBody @Valid CollectorWanted wanted, @AuthenticationPrincipal SignedIn who) {
    String address = wanted.address();
    return collector.set(
        address == null || address.isBlank() ? null : address.strip(),
        wanted.fromStart(),
        wanted.seen(),
        who);
  }
}
