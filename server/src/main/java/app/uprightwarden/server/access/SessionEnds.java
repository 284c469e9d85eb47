package app.uprightwarden.server.access;

import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpSession;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Value;
import org.springframework.stereotype.Component;

/**
 * When a session ends: a set time after it was opened whatever happens, and earlier where nobody
 * did anything for a while. A page that is left open listens and asks by itself; that is nobody's
 * doing and puts nothing off.
 */
@Component
class SessionEnds {
  static final String OPENED = "warden.opened";
  static final String ACTIVE = "warden.active";
  static final String VIA = "warden.via";

  /** What a page sends with questions that it asks by itself. */
  static final String BY_ITSELF = "X-Warden-By-Itself";

  /** The last activity is noted no more often than this. */
  private static final Duration NOTED = Duration.ofMinutes(1);

  private final Duration longest;
  private final Duration idle;
  private final Clock clock;

  SessionEnds(
      @Value("${warden.session.longest:12h}") Duration longest,
      @Value("${warden.session.idle:8h}") Duration idle,
      Clock clock) {
    this.longest = longest;
    this.idle = idle;
    this.clock = clock;
  }

  void opened(HttpSession session, String via) {
    long now = clock.millis();
    session.setAttribute(OPENED, now);
    session.setAttribute(ACTIVE, now);
    session.setAttribute(VIA, via);
  }

  String via(HttpSession session) {
    return session.getAttribute(VIA) instanceof String via ? via : "";
  }

  boolean isOver(HttpSession session) {
    Instant now = clock.instant();
    Instant opened = time(session, OPENED);
    Instant active = time(session, ACTIVE);
    return opened == null
        || active == null
        || !now.isBefore(opened.plus(longest))
        || !now.isBefore(active.plus(idle));
  }

  private static @Nullable Instant time(HttpSession session, String name) {
    return session.getAttribute(name) instanceof Long at ? Instant.ofEpochMilli(at) : null;
  }

  /** Somebody did something. */
  void touch(HttpSession session, HttpServletRequest request) {
    boolean isListening = "/api/live".equals(request.getServletPath());
    if (isListening || request.getHeader(BY_ITSELF) != null) {
      return;
    }
    Instant active = time(session, ACTIVE);
    if (active == null || active.plus(NOTED).isBefore(clock.instant())) {
      session.setAttribute(ACTIVE, clock.millis());
    }
  }
}
