package app.uprightwarden.server.access;

import app.uprightwarden.server.problem.Texts;
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

  static final String PASSWORD = "password";
  static final String PROVIDER = "provider";

  /** The stamp of the password that opened a session, until its first request has come. */
  static final String FRESH = "warden.fresh";

  private final SecurityContextRepository contexts;
  private final SessionEnds ends;

  SessionOpening(SecurityContextRepository contexts, SessionEnds ends) {
    this.contexts = contexts;
    this.ends = ends;
  }

  /** Opens one for whoever has given a password. */
  void open(AccessService.ByPassword in, HttpServletRequest request, HttpServletResponse response) {
    open(in.who(), PASSWORD, request, response);
    request.getSession().setAttribute(FRESH, in.password());
  }

  /**
   * Opens one.
   *
   * @param via {@link #PASSWORD} or {@link #PROVIDER}
   */
  void open(SignedIn who, String via, HttpServletRequest request, HttpServletResponse response) {
    HttpSession session = request.getSession(false);
    if (session != null) {
      request.changeSessionId(); // nobody may have planted the session
    }
    SecurityContext context = SecurityContextHolder.createEmptyContext();
    context.setAuthentication(BearerFilter.of(who));
    SecurityContextHolder.setContext(context);
    contexts.saveContext(context, request, response);
    HttpSession opened = request.getSession();
    ends.opened(opened, via);
    opened.setAttribute(Sessions.PLACE, request.getRemoteAddr());
    String agent = request.getHeader("User-Agent");
    opened.setAttribute(Sessions.AGENT, agent == null ? "" : Texts.cut(agent, AGENT_LENGTH));
  }
}
