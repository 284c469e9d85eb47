package app.uprightwarden.server.access;

import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where a link to set a password leads. Whoever holds it is who it is for. */
@RestController
@RequestMapping("/api/welcome")
@WithoutFactor
class WelcomeController {
  private final Accounts accounts;

  WelcomeController(Accounts accounts) {
    this.accounts = accounts;
  }

  /** The link's token; it is in no address, so that no log has it. */
  record Token(@NotBlank @Size(max = 100) String token) {
    @Override
    public String toString() {
      return "a link's token";
    }
  }

  /** A password for the account behind the link. */
  record FirstPassword(
      @NotBlank @Size(max = 100) String token, @NotBlank @Size(max = 1000) String password) {
    @Override
    public String toString() {
      return "a first password";
    }
  }

  @PostMapping("/look")
  @PreAuthorize("permitAll()")
  Accounts.Welcome look(@RequestBody @Valid Token body) {
    return accounts.whose(body.token());
  }

  @PostMapping
  @PreAuthorize("permitAll()")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void setPassword(@RequestBody @Valid FirstPassword body) {
    accounts.welcome(body.token(), body.password());
  }
}
