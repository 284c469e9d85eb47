package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
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

/** One's own account. A session only: an access token cannot change what signs its owner in. */
@RestController
@RequestMapping("/api/account")
@WithoutFactor
class AccountController {
  private final Accounts accounts;
  private final OwnFactor factor;
  private final Sessions sessions;
  private final SessionOpening opening;

  AccountController(
      Accounts accounts, OwnFactor factor, Sessions sessions, SessionOpening opening) {
    this.accounts = accounts;
    this.factor = factor;
    this.sessions = sessions;
    this.opening = opening;
  }

  /** The password as it is and as it is to be. */
  record NewPassword(
      @NotBlank @Size(max = Passwords.LONGEST) String current,
      @NotBlank @Size(max = 1000) String password) {
    @Override
    public String toString() {
      return "a new password";
    }
  }

  /** A language that pages can have; null is none chosen. */
  record SpokenLanguage(
      @Nullable @Pattern(regexp = "en|de", message = "is en or de") String language) {}

  /** One's password once more. */
  record CurrentPassword(@NotBlank @Size(max = Passwords.LONGEST) String current) {
    @Override
    public String toString() {
      return "a password";
    }
  }

  /** One's password once more, and a code of the factor that is to go. */
  record Farewell(
      @NotBlank @Size(max = Passwords.LONGEST) String current,
      @NotBlank @Size(max = 40) String code) {
    @Override
    public String toString() {
      return "a password and a code";
    }
  }

  /** A code that the authenticator shows. */
  record FactorCode(@NotBlank @Size(max = 40) String code) {
    @Override
    public String toString() {
      return "a code";
    }
  }

  /** Codes to get in without the authenticator, each good once; shown this once. */
  record RecoveryCodes(List<String> recoveryTokens) {
    @Override
    public String toString() {
      return recoveryTokens.size() + " recovery codes";
    }
  }

  private static HttpSession session(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (BearerFilter.isBearer(request) || session == null) {
      throw ProblemException.forbidden(
          "needs-a-session", "Sign in with your password for this; an access token cannot do it.");
    }
    return session;
  }

  @GetMapping
  @PreAuthorize("isAuthenticated()")
  OwnFactor.OwnAccount mine(@AuthenticationPrincipal SignedIn who, HttpServletRequest request) {
    return factor.account(who, session(request).getId());
  }

  @PutMapping("/password")
  @PreAuthorize("isAuthenticated()")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void changePassword(
      @RequestBody @Valid NewPassword wanted,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request) {
    accounts.changePassword(who, wanted.current(), wanted.password(), session(request).getId());
  }

  @PutMapping("/language")
  @PreAuthorize("isAuthenticated()")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void speak(
      @RequestBody @Valid SpokenLanguage wanted,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request) {
    session(request);
    accounts.speak(who, wanted.language());
  }

  /** Begins to set up a second factor: the secret to put into an authenticator. */
  @PostMapping("/second-factor")
  @PreAuthorize("isAuthenticated()")
  SecondFactor.Offer begin(
      @RequestBody @Valid CurrentPassword body,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request) {
    session(request);
    return factor.begin(who, body.current());
  }

  /** Ends it with a first code, which shows that the authenticator has the secret. */
  @PutMapping("/second-factor")
  @PreAuthorize("isAuthenticated()")
  RecoveryCodes confirm(
      @RequestBody @Valid FactorCode body,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request,
      HttpServletResponse response) {
    HttpSession session = session(request);
    List<String> codes = factor.confirm(who, body.code());
    sessions.endAll(who.email(), session.getId());
    if (who.limited()) {
      opening.open(
          new SignedIn(who.email(), who.name(), who.role(), who.unit(), false),
          SessionOpening.PASSWORD,
          request,
          response);
    }
    return new RecoveryCodes(codes);
  }

  @PostMapping("/recovery-codes")
  @PreAuthorize("isAuthenticated()")
  RecoveryCodes newCodes(
      @RequestBody @Valid CurrentPassword body,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request) {
    session(request);
    return new RecoveryCodes(factor.newCodes(who, body.current()));
  }

  @PostMapping("/second-factor/end")
  @PreAuthorize("isAuthenticated()")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void drop(
      @RequestBody @Valid Farewell body,
      @AuthenticationPrincipal SignedIn who,
      HttpServletRequest request) {
    factor.drop(who, body.current(), body.code(), session(request).getId());
  }

  @DeleteMapping("/sessions/{id}")
  @PreAuthorize("isAuthenticated()")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void endSession(
      @PathVariable String id, @AuthenticationPrincipal SignedIn who, HttpServletRequest request) {
    session(request);
    if (!sessions.end(who.email(), id)) {
      throw ProblemException.notFound("That session has ended already.");
    }
  }

  static ProblemException wrongCode() {
    return ProblemException.invalid(
        "The code is not the one of this moment. Look whether the device's clock is right.",
        List.of(new Fault("/code", "is not right")));
  }
}
