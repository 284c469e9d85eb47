package app.uprightwarden.server.access;

import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.session.FindByIndexNameSessionRepository;
import org.springframework.session.Session;
import org.springframework.stereotype.Component;

/** The sessions that are open, in the database, whichever server opened them. */
@Component
class Sessions {
  static final String PLACE = "warden.place";
  static final String AGENT = "warden.agent";

  private final FindByIndexNameSessionRepository<? extends Session> sessions;

  Sessions(FindByIndexNameSessionRepository<? extends Session> sessions) {
    this.sessions = sessions;
  }

  /**
   * An open session.
   *
   * @param id names it to its owner; it is not what the cookie holds
   * @param place the network address it was opened from
   * @param agent what the browser says it is
   */
  record OpenSession(
      String id, String place, String agent, Instant since, Instant lastSeen, boolean thisOne) {}

  List<OpenSession> of(String email, @Nullable String current) {
    return sessions.findByPrincipalName(email).values().stream()
        .map(
            s ->
                new OpenSession(
                    handle(s.getId()),
                    text(s, PLACE),
                    text(s, AGENT),
                    time(s, SessionEnds.OPENED, s.getCreationTime()),
                    time(s, SessionEnds.ACTIVE, s.getLastAccessedTime()),
                    s.getId().equals(current)))
        .sorted(Comparator.comparing(OpenSession::lastSeen).reversed())
        .toList();
  }

  private static Instant time(Session session, String name, Instant otherwise) {
    Object at = session.getAttribute(name);
    return at instanceof Long millis ? Instant.ofEpochMilli(millis) : otherwise;
  }

  private static String text(Session session, String name) {
    String text = session.getAttribute(name);
    return text == null ? "" : text;
  }

  private static String handle(String id) {
    return AccessHash.sha256(id).substring(0, 16);
  }

  /** Ends one session of somebody's; whether there was such a one. */
  boolean end(String email, String handle) {
    List<String> ids =
        sessions.findByPrincipalName(email).keySet().stream()
            .filter(id -> handle(id).equals(handle))
            .toList();
    ids.forEach(sessions::deleteById);
    return !ids.isEmpty();
  }

  /**
   * Ends all sessions of somebody's.
   *
   * @param but the one that stays, or null
   */
  void endAll(String email, @Nullable String but) {
    sessions.findByPrincipalName(email).keySet().stream()
        .filter(id -> !id.equals(but))
        .toList()
        .forEach(sessions::deleteById);
  }
}
