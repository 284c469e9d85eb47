package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionEvent;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/** A conference service: what remedies and the floor ask of it. It tells events by itself. */
public interface ConferenceBridge {
  /**
   * A change of a meeting's settings.
   *
   * @param id the same whenever the same command is sent again
   * @param occurrence the original local start of the one concerned, empty for all
   * @param controls control → value in plain form; null takes a value away
   * @param newPasscode whether a new passcode goes with it, {@code newNumber} a new number
   */
  record Command(
      String id,
      String meeting,
      String occurrence,
      Map<String, @Nullable Object> controls,
      boolean newPasscode,
      boolean newNumber) {}

  /**
   * What it says to a command.
   *
   * @param reason why it was refused, or empty
   */
  record Answer(boolean done, String reason) {}

  /** The service cannot be reached, or does not answer: it may or may not have heard. */
  final class Away extends Exception {
    private static final long serialVersionUID = 1;

    public Away(String message) {
      super(message);
    }
  }

  /**
   * Somebody who may come to a session.
   *
   * @param who the service's name for them
   */
  record Comer(
      String who,
      String name,
      @Nullable String address,
      String standing,
      String tie,
      String route,
      @Nullable String region,
      boolean passcode,
      boolean listedPresenter,
      boolean contributor) {}

  /**
   * A session to be held.
   *
   * @param from where its clock stands when it is opened
   * @param controls in plain form
   * @param roster those who are expected
   * @param practice how the stand-in is to play it; a real service holds real ones
   */
  record SessionPlan(
      String id,
      String title,
      String host,
      Instant start,
      Instant end,
      Instant from,
      Map<String, Object> controls,
      List<Comer> roster,
      Practice practice) {}

  /**
   * How a session is played.
   *
   * @param script {@code usual}, {@code strangers}, {@code storm} or {@code crowd}
   * @param speed how fast its clock runs, 1 to 120
   * @param strangers how many come who were not asked
   * @param seed the same seed plays the same
   */
  record Practice(String script, double speed, int strangers, long seed) {}

  /**
   * Carries a command out, once however often it is sent.
   *
   * @throws Away where nobody knows whether it was; send it again later
   */
  Answer change(Command command) throws Away;

  /**
   * Opens a session, once however often it is asked.
   *
   * @throws Away as above
   */
  void open(SessionPlan plan) throws Away;

  /**
   * Has something done in a session, once for each id.
   *
   * @param by who wants it
   * @throws Away as above
   */
  Answer order(String session, String id, Order order, String by) throws Away;

  /**
   * The events of a session behind one, in order; a thousand at most.
   *
   * @return empty where there are none, null where the service knows no such session
   * @throws Away where it does not answer
   */
  @Nullable List<SessionEvent> eventsAfter(String session, long seq) throws Away;
}
