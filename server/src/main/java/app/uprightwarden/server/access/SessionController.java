package app.uprightwarden.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out. Anybody may call these. */
@RestController
@RequestMapping("/api/session")
@WithoutFactor
class SessionController {
  private final AccessService access;
  private final SessionOpening opening;
  private final OidcProperties oidc;

  SessionController(AccessService access, SessionOpening opening, OidcProperties oidc) {
    this.access = access;
    this.opening = opening;
    this.oidc = oidc;
  }

  /**
   * An address and its password.
   *
   * @param code of the second factor, where the account has one
   */
  record SignIn(
      @NotBlank @Size(max = 254) String email,
      @NotBlank @Size(max = Passwords.LONGEST) String password,
      @Nullable @Size(max = 40) String code) {
    @Override
    public String toString() {
      return "sign-in of " + email;
    }
  }

  /**
   * Who is signed in; all null where nobody is.
   *
   * @param unit the unit that a unit's warden looks after
   * @param deputyUntil until when they stand in for a unit's warden; null where they do not
   * @param language the language they chose; null where they chose none
   * @param limited whether a second factor has to be set up before anything else
   * @param provider whether one can also sign in at the organisation's own provider
   */
  record Session(
      @Nullable String email,
      @Nullable String name,
      @Nullable String role,
      @Nullable String unit,
      @Nullable Instant deputyUntil,
      @Nullable String language,
      boolean limited,
      boolean provider) {}

  @GetMapping
  Session current(@AuthenticationPrincipal @Nullable SignedIn who) {
    return who == null
        ? new Session(null, null, null, null, null, null, false, oidc.isConfigured())
        : session(who);
  }

  @PostMapping
  Session signIn(
      @RequestBody @Valid SignIn body, HttpServletRequest request, HttpServletResponse response) {
    String code = body.code() == null ? "" : body.code();
    AccessService.ByPassword in =
        access.signIn(
            body.email(), body.password(), code, KnownNetworks.of(request.getRemoteAddr()));
    opening.open(in, request, response);
    return session(in.who());
  }

  @DeleteMapping
  @ResponseStatus(HttpStatus.NO_CONTENT)
  void signOut(HttpServletRequest request) {
    HttpSession session = request.getSession(false);
    if (session != null) {
      session.invalidate();
    }
    SecurityContextHolder.clearContext();
  }

  private Session session(SignedIn who) {
    return new Session(
        who.email(),
        who.name(),
        who.role().id(),
        who.unit(),
        who.role() == Role.UNIT_WARDEN ? access.standsInUntil(who.email()).orElse(null) : null,
        access.language(who.email()),
        who.limited(),
        oidc.isConfigured());
  }
}
