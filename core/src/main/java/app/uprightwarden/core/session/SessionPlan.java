package app.uprightwarden.core.session;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A session to be held by a conference service.
 *
 * @param meeting the service's id of its meeting
 * @param from where its clock stands when it is opened
 * @param controls control → value in plain form
 * @param roster those who are expected
 * @param practice how a stand-in is to play it; a real service holds real ones
 */
public record SessionPlan(
    String id,
    @Nullable String meeting,
    String title,
    String host,
    Instant start,
    Instant end,
    Instant from,
    Map<String, Object> controls,
    List<Comer> roster,
    Practice practice) {

  /**
   * Somebody who may come.
   *
   * @param who the name for them in events
   */
  public record Comer(
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
   * How a session is played.
   *
   * @param script {@code usual}, {@code strangers}, {@code storm} or {@code crowd}
   * @param speed how fast its clock runs, 1 to 120
   * @param strangers how many come who were not asked
   * @param seed the same seed plays the same
   */
  public record Practice(String script, double speed, int strangers, long seed) {}
}
