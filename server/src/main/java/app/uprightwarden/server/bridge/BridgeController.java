package app.uprightwarden.server.bridge;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Size;
import java.time.Clock;
import org.jspecify.annotations.Nullable;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** How the stand-in for the conference service behaves, to see what then happens. */
@RestController
@RequestMapping("/api/bridge")
class BridgeController {
  private final BridgeStandIn bridge;
  private final Clock clock;

  BridgeController(BridgeStandIn bridge, Clock clock) {
    this.bridge = bridge;
    this.clock = clock;
  }

  /**
   * How it is to behave.
   *
   * @param awaySeconds for how long from now it cannot be reached; 0 for not at all
   * @param refuses it refuses changes of controls whose names hold this; empty refuses none
   * @param slowMillis how long it takes to answer; absent for as it was
   * @param repeats tells some events twice; absent for as it was
   * @param shuffles tells events out of order; absent for as it was
   */
  record Behaviour(
      @Min(0) @Max(86_400) int awaySeconds,
      @NotNull @Size(max = 100) String refuses,
      @Nullable @Min(0) @Max(10_000) Integer slowMillis,
      @Nullable Boolean repeats,
      @Nullable Boolean shuffles) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  BridgeStandIn.Mood mood() {
    return bridge.mood();
  }

  @PutMapping
  @PreAuthorize("hasRole('WARDEN')")
  BridgeStandIn.Mood set(@RequestBody @Valid Behaviour wanted) {
    BridgeStandIn.Mood was = bridge.mood();
    Integer slow = wanted.slowMillis();
    Boolean repeats = wanted.repeats();
    Boolean shuffles = wanted.shuffles();
    return bridge.set(
        new BridgeStandIn.Mood(
            wanted.awaySeconds() == 0 ? null : clock.instant().plusSeconds(wanted.awaySeconds()),
            wanted.refuses().strip(),
            slow == null ? was.slowMillis() : slow,
            repeats == null ? was.repeats() : repeats,
            shuffles == null ? was.shuffles() : shuffles));
  }
}
