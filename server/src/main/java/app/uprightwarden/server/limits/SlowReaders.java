package app.uprightwarden.server.limits;

import app.uprightwarden.server.problem.ProblemException;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import org.springframework.stereotype.Component;

/**
 * Bounds how many large bodies are read at once, since a thread waits with each: by address, and in
 * all. How slowly one may send is {@link LimitedRequest}'s.
 */
@Component
class SlowReaders {
  private static final int FOR_ONE = 8;
  private static final int FOR_ALL = 32;

  private final Map<String, Integer> reading = new ConcurrentHashMap<>();
  private final Room all = new Room(FOR_ALL);

  /**
   * Begins to read.
   *
   * @throws ProblemException 429 or 503 where too many are read already
   */
  void begin(String address) {
    if (!all.take(1)) {
      throw ProblemException.busy("Too many large requests are being sent. Try again soon.");
    }
    if (reading.merge(address, 1, Integer::sum) > FOR_ONE) {
      end(address);
      throw ProblemException.tooMany(
          "Too many large requests come from where you are. Send one after another.");
    }
  }

  void end(String address) {
    all.give(1);
    reading.computeIfPresent(address, (a, n) -> n > 1 ? n - 1 : null);
  }
}
