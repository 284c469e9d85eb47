package app.uprightwarden.server.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import java.io.IOException;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/**
 * Looks at each request whether its session still holds: whether the account is as it was, whether
 * a second factor is owed by now, whether the session has come to its end. What is remembered in a
 * session is only who it is; what they may do is read anew.
 */
class Recheck extends OncePerRequestFilter {
  private final AccessService access;
  private final SessionEnds ends;

  Recheck(AccessService access, SessionEnds ends) {
    this.access = access;
    this.ends = ends;
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    Authentication known = SecurityContextHolder.getContext().getAuthentication();
    if (known != null
        && known.getPrincipal() instanceof SignedIn who
        && !BearerFilter.isBearer(request)) {
      SecurityContext now = SecurityContextHolder.createEmptyContext();
      HttpSession session = request.getSession(false);
      current(who, session, request).ifPresent(w -> now.setAuthentication(BearerFilter.of(w)));
      if (now.getAuthentication() == null && session != null) {
        session.invalidate();
      }
      SecurityContextHolder.setContext(now);
    }
    chain.doFilter(request, response);
  }

  private Optional<SignedIn> current(
      SignedIn who, @Nullable HttpSession session, HttpServletRequest request) {
    if (session == null || ends.isOver(session)) {
      return Optional.empty();
    }
    ends.touch(session, request);
    // one that was being opened while the password was changed is not among those that ended then
    Long fresh = session.getAttribute(SessionOpening.FRESH) instanceof Long stamp ? stamp : null;
    Optional<SignedIn> now =
        access.current(who.email(), SessionOpening.PROVIDER.equals(ends.via(session)), fresh);
    if (fresh != null && now.isPresent()) {
      session.removeAttribute(SessionOpening.FRESH);
    }
    return now;
  }
}
