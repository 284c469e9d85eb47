package app.uprightwarden.server.access;

import app.uprightwarden.core.people.Directory;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.validation.Valid;
import jakarta.validation.constraints.Max;
import jakarta.validation.constraints.Min;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.time.Duration;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Access tokens: issued, listed, ended. */
@RestController
@RequestMapping("/api/tokens")
class TokenController {
  private final AccessTokens tokens;
  private final StillThere still;

  TokenController(AccessTokens tokens, StillThere still) {
    this.tokens = tokens;
    this.still = still;
  }

  /**
   * What a token is for.
   *
   * @param actsAs the address whose meetings a host's token reaches; the issuer's where left out
   */
  record Wanted(
      @NotBlank @Size(max = 200) String purpose,
      @NotNull @Pattern(regexp = "warden|auditor|host|directory") String role,
      @Nullable @Size(max = 254) String actsAs,
      @Min(1) @Max(366 * 24 * 60) int minutes) {}

  @PostMapping
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  AccessTokens.Issued issue(
      @RequestBody @Valid Wanted wanted, @AuthenticationPrincipal SignedIn who) {
    String actsAs = Directory.fold(wanted.actsAs() == null ? who.email() : wanted.actsAs());
    boolean isHosts = wanted.role().equals("host");
    if (isHosts && !still.isHere(actsAs)) {
      throw ProblemException.invalid(
          "Nobody here has that address. Nothing was issued.",
          List.of(new Fault("/actsAs", "must be somebody's in the directory, or an account's")));
    }
    if (!isHosts && !actsAs.equals(Directory.fold(who.email()))) {
      // or one administrator could be two, and give their own drafts a second one's consent
      throw ProblemException.invalid(
          "Only a host's token acts as somebody else. Nothing was issued.",
          List.of(new Fault("/actsAs", "must be your own address, or left out")));
    }
    return tokens.issue(
        wanted.purpose(),
        Role.byId(wanted.role()),
        actsAs,
        Duration.ofMinutes(wanted.minutes()),
        who);
  }

  /** All of them, newest first, also those that have ended. */
  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<AccessTokens.TokenLine> all() {
    return tokens.newest();
  }

  @DeleteMapping("/{id}")
  @PreAuthorize("hasRole('WARDEN')")
  AccessTokens.TokenLine end(@PathVariable long id, @AuthenticationPrincipal SignedIn who) {
    return tokens.end(id, who);
  }
}
