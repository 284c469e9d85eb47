package app.uprightwarden.server.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import org.springframework.http.HttpStatus;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Somebody who needs a second factor and has none can set one up, and nothing else. */
class LimitedFilter extends OncePerRequestFilter {
  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    Authentication known = SecurityContextHolder.getContext().getAuthentication();
    boolean isLimited =
        known != null && known.getPrincipal() instanceof SignedIn who && who.limited();
    String path = request.getRequestURI();
    boolean isOpen =
        !path.startsWith("/api/")
            || path.equals("/api/session")
            || path.equals("/api/organisation")
            || path.equals("/api/account")
            || path.startsWith("/api/account/");
    if (isLimited && !isOpen) {
      SecurityConfig.answer(
          response,
          HttpStatus.FORBIDDEN,
          "second-factor-missing",
          "Your role needs a second factor. Set one up on the page of your account first.");
      return;
    }
    chain.doFilter(request, response);
  }
}
