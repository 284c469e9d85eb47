package app.uprightwarden.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
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
class SessionController {
  private final AccessService access;
  private final SecurityContextRepository contexts;

  SessionController(AccessService access, SecurityContextRepository contexts) {
    this.access = access;
    this.contexts = contexts;
  }

  /** An address and its password. */
  record SignIn(
      @NotBlank @Size(max = 254) String email, @NotBlank @Size(max = 200) String password) {}

  /** Who is signed in; all null where nobody is. */
  record Session(@Nullable String email, @Nullable String name, @Nullable String role) {}

  @GetMapping
  Session current(@AuthenticationPrincipal @Nullable SignedIn who) {
    return who == null ? new Session(null, null, null) : session(who);
  }

  @PostMapping
  Session signIn(
      @RequestBody @Valid SignIn body, HttpServletRequest request, HttpServletResponse response) {
    SignedIn who = access.signIn(body.email(), body.password(), request.getRemoteAddr());
    if (request.getSession(false) != null) {
      request.changeSessionId(); // nobody may have planted the session
    }
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(BearerFilter.authentication(who));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    return session(who);
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
    return new Session(who.email(), who.name(), who.role().id());
  }
}
