package app.uprightwarden.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.servlet.http.HttpSession;
import org.springframework.security.core.context.SecurityContext;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.stereotype.Component;

/** Opens a session for somebody who has proved who they are. */
@Component
class SessionOpening {
  private static final int AGENT_LENGTH = 200;

  private final SecurityContextRepository contexts;

  SessionOpening(SecurityContextRepository contexts) {
    this.contexts = contexts;
  }

  void open(SignedIn who, HttpServletRequest request, HttpServletResponse response) {
    HttpSession session = request.getSession(false);
    if (session != null) {
      request.changeSessionId(); // nobody may have planted the session
    }
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(BearerFilter.authentication(who));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    HttpSession opened = request.getSession();
    opened.setAttribute(Sessions.PLACE, request.getRemoteAddr());
    String agent = request.getHeader("User-Agent");
    opened.setAttribute(
        Sessions.AGENT,
        agent == null ? "" : agent.substring(0, Math.min(agent.length(), AGENT_LENGTH)));
  }
}
