package app.uprightwarden.server.bridge;

import app.uprightwarden.server.problem.ProblemException;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import java.time.Clock;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Where the conference service tells what happens: signed, and answered once it is stored. */
@RestController
class BridgeEventsController {
  /** What a stranger may send; whoever tells more tells it in several. */
  static final int MAX_BYTES = 64 * 1024;

  private final BridgeAccess access;
  private final SessionEvents events;
  private final JsonMapper json;
  private final Clock clock;

  BridgeEventsController(BridgeAccess access, SessionEvents events, JsonMapper json, Clock clock) {
    this.access = access;
    this.events = events;
    this.json = json;
    this.clock = clock;
  }

  @PostMapping(path = "/api/bridge/events", consumes = "application/json")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @PreAuthorize("permitAll()")
  void told(
      @RequestHeader(name = Wire.SIGNATURE, required = false) @Nullable String signature,
      HttpServletRequest request)
      throws IOException {
    // anybody can send something here: it is read no further than what is asked of a service
    byte[] body = request.getInputStream().readNBytes(MAX_BYTES + 1);
    if (body.length > MAX_BYTES) {
      throw ProblemException.tooLarge("Tell at most 64 KB of events at once.");
    }
    if (!Wire.isSigned(access.getSecret(), clock.instant(), body, signature)) {
      throw ProblemException.unauthorised("These events do not carry the right signature.");
    }
    List<Wire.EventTold> told = read(body).events();
    if (told == null || told.stream().anyMatch(BridgeEventsController::lacks)) {
      throw ProblemException.unreadable(
          "An event has a session, a seq, at, happened, a kind and with.", List.of());
    }
    events.take(
        told.stream().map(each -> new SessionEvents.Told(each.session(), each.event())).toList());
  }

  /** JSON may leave out, or give as null, what the record says is there. */
  private static boolean lacks(Wire.@Nullable EventTold event) {
    return event == null
        || Stream.of(event.session(), event.at(), event.happened(), event.kind(), event.with())
            .anyMatch(Objects::isNull);
  }

  private Wire.EventsTold read(byte[] body) {
    try {
      return json.readValue(body, Wire.EventsTold.class);
    } catch (JacksonException e) {
      throw ProblemException.unreadable("The events cannot be read as JSON.", List.of());
    }
  }
}
