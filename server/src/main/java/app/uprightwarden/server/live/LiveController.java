package app.uprightwarden.server.live;

import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.concurrent.CopyOnWriteArrayList;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.transaction.TransactionException;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;
import org.springframework.web.servlet.mvc.method.annotation.SseEmitter;

/**
 * Server-sent events (HTML Standard, section 9.2): each names a topic whose data a page may want to
 * ask for again. Nothing else goes this way, so that everybody signed in may listen.
 */
@RestController
class LiveController {
  private static final Logger LOG = LoggerFactory.getLogger(LiveController.class);
  private static final long CONNECTED_FOR = 10 * 60_000L;

  private final Signals.Reader signals;
  private final List<SseEmitter> open = new CopyOnWriteArrayList<>();
  private boolean isDatabaseAway;

  LiveController(Signals signals) {
    this.signals = signals.reader();
  }

  /** Listens. The connection ends by itself after a while; browsers come again. */
  @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  @PreAuthorize("isAuthenticated()")
  SseEmitter listen() throws IOException {
    SseEmitter emitter = new SseEmitter(CONNECTED_FOR);
    emitter.onCompletion(() -> open.remove(emitter));
    emitter.onTimeout(emitter::complete);
    emitter.onError(e -> open.remove(emitter));
    // what happened while nobody listened is asked for by the page itself, once it is connected
    emitter.send(SseEmitter.event().name("connected").data("{}"));
    open.add(emitter);
    return emitter;
  }

  @Scheduled(fixedDelay = 400)
  void tell() {
    if (open.isEmpty()) {
      return;
    }
    try {
      Set<String> topics = signals.next();
      isDatabaseAway = false;
      topics.forEach(topic -> toAll(SseEmitter.event().name(topic).data("{}")));
    } catch (DataAccessException | TransactionException e) {
      if (!isDatabaseAway) {
        LOG.warn("no signals are read while the database is away");
      }
      isDatabaseAway = true;
    }
  }

  /** Finds out who has gone, and keeps proxies from closing what is only quiet. */
  @Scheduled(fixedDelay = 15_000)
  void keepAlive() {
    toAll(SseEmitter.event().comment("still here"));
  }

  private void toAll(SseEmitter.SseEventBuilder event) {
    Set<org.springframework.web.servlet.mvc.method.annotation.ResponseBodyEmitter.DataWithMediaType>
        parts = event.build();
    List<SseEmitter> gone = new ArrayList<>();
    for (SseEmitter emitter : open) {
      try {
        emitter.send(parts);
      } catch (IOException | IllegalStateException e) {
        gone.add(emitter);
      }
    }
    open.removeAll(gone);
  }

  /** An open connection would hold up the end of the server. */
  @EventListener(ContextClosedEvent.class)
  void end() {
    open.forEach(SseEmitter::complete);
  }
}
