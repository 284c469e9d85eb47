package app.uprightwarden.server.services;

import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.bridge.SignedTelling;
import jakarta.servlet.http.HttpServletRequest;
import java.io.IOException;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestHeader;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;

/**
 * Where a linked service tells that there is something new and what happens in its sessions: signed
 * with its key, and answered once it is stored. Of another service's sessions it can tell nothing.
 */
@RestController
class ServiceTellsController {
  private final ServiceLinks links;
  private final SignedTelling telling;
  private final SessionEvents events;

  ServiceTellsController(ServiceLinks links, SignedTelling telling, SessionEvents events) {
    this.links = links;
    this.telling = telling;
    this.events = events;
  }

  @PostMapping(path = "/api/services/{id}/told", consumes = "application/json")
  @ResponseStatus(HttpStatus.NO_CONTENT)
  @PreAuthorize("permitAll()")
  void told(
      @PathVariable long id,
      @RequestHeader(name = Wire.SIGNATURE, required = false) @Nullable String signature,
      HttpServletRequest request)
      throws IOException {
    Wire.Told told = telling.read(request, signature, links.keyOf(id));
    if (!told.events().isEmpty()) {
      events.take(id, SessionEvents.told(told.events()));
    }
    if (Boolean.TRUE.equals(told.changed())) {
      links.readSoon(id);
    }
  }
}
