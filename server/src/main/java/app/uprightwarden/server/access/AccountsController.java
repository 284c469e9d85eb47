package app.uprightwarden.server.access;

import jakarta.validation.Valid;
import jakarta.validation.constraints.Email;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.NotNull;
import jakarta.validation.constraints.Pattern;
import jakarta.validation.constraints.Size;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Accounts, for those who look after them. */
@RestController
@RequestMapping("/api/accounts")
class AccountsController {
  private static final String ROLES = "warden|unit-warden|auditor|host";

  private final Accounts accounts;
  private final AccessService access;

  AccountsController(Accounts accounts, AccessService access) {
    this.accounts = accounts;
    this.access = access;
  }

  /** Somebody to be invited. */
  record Invitation(
      @NotBlank @Email @Size(max = 254) String email,
      @NotBlank @Size(max = 200) String name,
      @NotNull @Pattern(regexp = ROLES) String role,
      @Nullable @Size(max = 64) String unit) {}

  /** What an account was when it was looked at. */
  record AccountSeen(
      @NotNull @Pattern(regexp = ROLES) String role,
      @Nullable @Size(max = 64) String unit,
      boolean active) {}

  /**
   * What an account may do from now on.
   *
   * @param seen what it was when it was looked at; left out, nobody asks whether somebody changed
   *     it since
   */
  record AccountChange(
      @NotNull @Pattern(regexp = ROLES) String role,
      @Nullable @Size(max = 64) String unit,
      boolean active,
      @Nullable @Valid AccountSeen seen) {}

  /** Who must have a second factor. */
  record AccessSetting(@NotNull @Pattern(regexp = "nobody|wardens|everybody") String factorFor) {}

  @GetMapping
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  List<Accounts.AccountLine> all() {
    return accounts.all();
  }

  /** Makes the account; the link that comes back lets its owner set a password, once. */
  @PostMapping
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  Accounts.PasswordLink invite(
      @RequestBody @Valid Invitation wanted, @AuthenticationPrincipal SignedIn who) {
    return accounts.invite(
        wanted.email(), wanted.name(), Role.byId(wanted.role()), wanted.unit(), who);
  }

  @PutMapping("/{email}")
  @PreAuthorize("hasRole('WARDEN')")
  Accounts.AccountLine change(
      @PathVariable String email,
      @RequestBody @Valid AccountChange wanted,
      @AuthenticationPrincipal SignedIn who) {
    AccountSeen seen = wanted.seen();
    return accounts.change(
        email,
        new Accounts.Access(Role.byId(wanted.role()), wanted.unit(), wanted.active()),
        seen == null
            ? null
            : new Accounts.Access(Role.byId(seen.role()), seen.unit(), seen.active()),
        who);
  }

  /** A new link for somebody who has lost theirs, or their password. */
  @PostMapping("/{email}/link")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.CREATED)
  Accounts.PasswordLink link(@PathVariable String email, @AuthenticationPrincipal SignedIn who) {
    return accounts.newLink(email, who);
  }

  @DeleteMapping("/{email}/second-factor")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void dropFactor(@PathVariable String email, @AuthenticationPrincipal SignedIn who) {
    accounts.dropFactor(email, who);
  }

  @DeleteMapping("/{email}/sessions")
  @PreAuthorize("hasRole('WARDEN')")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void endSessions(@PathVariable String email) {
    accounts.endSessions(email);
  }

  @GetMapping("/settings")
  @PreAuthorize("hasAnyRole('WARDEN', 'AUDITOR')")
  AccessSetting setting() {
    return new AccessSetting(access.factorFor());
  }

  @PutMapping("/settings")
  @PreAuthorize("hasRole('WARDEN')")
  AccessSetting set(@RequestBody @Valid AccessSetting wanted) {
    accounts.setFactorFor(wanted.factorFor());
    return setting();
  }
}
