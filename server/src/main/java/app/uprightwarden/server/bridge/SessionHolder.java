package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** Who holds sessions: what the floor asks of a conference service. */
public interface SessionHolder {
  /** The service cannot be reached, or does not answer: it may or may not have heard. */
  final class Away extends Exception {
    private static final long serialVersionUID = 1;

    public Away(String message) {
      super(message);
    }
  }

  /**
   * Opens a session, once however often it is asked.
   *
   * @throws Away where nobody knows whether it was; ask again later
   */
  void open(SessionPlan plan) throws Away;

  /**
   * Has something done in a session, once for each id.
   *
   * @param by who wants it
   * @throws Away as above
   */
  Wire.Answered order(String session, String id, Order order, String by) throws Away;

  /**
   * The events of a session behind one, in order; a thousand at most.
   *
   * @return empty where there are none, null where the service knows no such session
   * @throws Away where it does not answer
   */
  @Nullable List<SessionEvent> eventsAfter(String session, long seq) throws Away;
}
