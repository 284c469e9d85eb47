package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.SessionEvent;
import java.util.List;

/** Where events go that a conference service tells. */
public interface SessionEvents {
  /** An event and the session it belongs to. */
  record Told(String session, SessionEvent event) {}

  /**
   * Takes them in. They may come twice, late and in any order; once this returns, none is lost.
   *
   * @throws org.springframework.dao.DataAccessException where they could not be stored: all of them
   *     have to be told again
   */
  void take(List<Told> events);
}
