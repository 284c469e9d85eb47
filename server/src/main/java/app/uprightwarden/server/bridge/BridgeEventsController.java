package app.uprightwarden.server.bridge;

import app.uprightwarden.core.session.Wire;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/** Where the conference service tells what happens: signed, and answered once it is stored. */
@RestController
class BridgeEventsController {
  private final BridgeAccess access;
  private final SignedTelling telling;
  private final SessionEvents events;

  BridgeEventsController(BridgeAccess access, SignedTelling telling, SessionEvents events) {
    this.access = access;
    this.telling = telling;
    this.events = events;
  }

  @PostMapping(path = "/api/bridge/events", consumes = "application/json")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @PreAuthorize("permitAll()")
  void told(
      @RequestHeader(name = Wire.SIGNATURE, required = false) @Nullable String signature,
      HttpServletRequest request)
      throws IOException {
    Wire.Told told = telling.read(request, signature, access.getSecret());
    events.take(null, SessionEvents.told(told.events()));
  }
}
