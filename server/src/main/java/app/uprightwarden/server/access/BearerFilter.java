package app.uprightwarden.server.access;

import jakarta.servlet.FilterChain;
import jakarta.servlet.ServletException;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.io.IOException;
import java.util.List;
import org.springframework.security.authentication.UsernamePasswordAuthenticationToken;
import org.springframework.security.core.authority.SimpleGrantedAuthority;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.filter.OncePerRequestFilter;

/** Signs a request in by its access token (RFC 6750), for that request alone. */
class BearerFilter extends OncePerRequestFilter {
  private static final String SCHEME = "Bearer ";

  private final AccessTokens tokens;

  BearerFilter(AccessTokens tokens) {
    this.tokens = tokens;
  }

  static boolean isBearer(HttpServletRequest request) {
    String header = request.getHeader("Authorization");
    return header != null && header.regionMatches(true, 0, SCHEME, 0, SCHEME.length());
  }

  @Override
  protected void doFilterInternal(
      HttpServletRequest request, HttpServletResponse response, FilterChain chain)
      throws ServletException, IOException {
    if (isBearer(request)) {
      String token = request.getHeader("Authorization").substring(SCHEME.length()).strip();
      SecurityContext context = SecurityContextHolder.createEmptyContext();
      tokens.byToken(token).ifPresent(who -> context.setAuthentication(of(who)));
      SecurityContextHolder.setContext(context);
    }
    chain.doFilter(request, response);
  }

  /** Whoever still owes a second factor has no role at all. */
  static UsernamePasswordAuthenticationToken of(SignedIn who) {
    String role = who.limited() ? "ROLE_LIMITED" : "ROLE_" + who.role().name();
    return UsernamePasswordAuthenticationToken.authenticated(
        who, "", List.of(new SimpleGrantedAuthority(role)));
  }
}
