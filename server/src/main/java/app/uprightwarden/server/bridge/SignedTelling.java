package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.problem.ProblemException;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** What a conference service tells by itself: whose it is shows in its signature. */
@Component
public class SignedTelling {
  /** What a stranger may send; whoever tells more tells it in several. */
  static final int MAX_BYTES = 64 * 1024;

  private final JsonMapper json;
  private final Clock clock;

  SignedTelling(JsonMapper json, Clock clock) {
    this.json = json;
    this.clock = clock;
  }

  /**
   * Reads what is told.
   *
   * @param secret what it is to be signed with; null where there is none, so that nothing is right
   * @throws ProblemException 413 where it is too much, 401 where it is not signed so, 400 where it
   *     cannot be read
   */
  public Wire.Told read(
      HttpServletRequest request, @Nullable String signature, @Nullable String secret)
      throws IOException {
    // anybody can send something here: it is read no further than what is asked of a service
    byte[] body = request.getInputStream().readNBytes(MAX_BYTES + 1);
    if (body.length > MAX_BYTES) {
      throw ProblemException.tooLarge("Tell at most 64 KB of events at once.");
    }
    if (secret == null || !Wire.isSigned(secret, clock.instant(), body, signature)) {
      throw ProblemException.unauthorised("These events do not carry the right signature.");
    }
    Wire.Told told;
    try {
      told = json.readValue(body, Wire.Told.class);
    } catch (JacksonException e) {
      throw ProblemException.unreadable("The events cannot be read as JSON.", List.of());
    }
    List<Wire.EventTold> events = told.events();
    if (events == null || events.stream().anyMatch(SignedTelling::lacks)) {
      throw ProblemException.unreadable(
          "An event has a session, a seq, at, happened, a kind and with.", List.of());
    }
    return told;
  }

  /** JSON may leave out, or give as null, what the record says is there. */
  private static boolean lacks(Wire.@Nullable EventTold event) {
    return event == null
        || Stream.of(event.session(), event.at(), event.happened(), event.kind(), event.with())
            .anyMatch(Objects::isNull);
  }
}
