package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.Wire;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Where events go that a conference service tells. */
public interface SessionEvents {
  /** An event and the session it belongs to. */
  record Told(String session, SessionEvent event) {}

  /** A session that runs, and up to where its events are known. */
  record Running(String session, long seq) {}

  /** The sessions that a linked service holds and that are not over. */
  List<Running> running(long service);

  /** As the core knows them. */
  static List<Told> told(List<Wire.EventTold> events) {
    return events.stream().map(each -> new Told(each.session(), each.event())).toList();
  }

  /**
   * Takes them in. They may come twice, late and in any order; once this returns, none is lost.
   *
   * @param service the linked service that tells them, whose own sessions alone it can speak of;
   *     null for the one that holds what no linked service does
   * @throws org.springframework.dao.DataAccessException where they could not be stored: all of them
   *     have to be told again
   */
  void take(@Nullable Long service, List<Told> events);
}
