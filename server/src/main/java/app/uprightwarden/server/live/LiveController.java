package app.uprightwarden.server.live;

import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.problem.ProblemException;
import java.io.IOException;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.RejectedExecutionException;
import java.util.concurrent.SynchronousQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.http.MediaType;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.security.access.prepost.PreAuthorize;
import org.springframework.security.core.annotation.AuthenticationPrincipal;
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

  private final Signals signals;
  private final Signals.Reader reader;

  private static final String STILL_HERE = "still here";
  private static final long PATIENCE_NANOS = 20_000_000_000L;

  /** How many pages of one person listen, and of all; browsers open six to one address. */
  private static final int FOR_ONE = 12;

  private static final int FOR_ALL = 2000;

  private final Map<String, Integer> byPerson = new ConcurrentHashMap<>();
  private final List<Listener> open = new CopyOnWriteArrayList<>();

  /** As many as read slowly at once are waited for; a connection holds some text by itself. */
  private final ExecutorService senders =
      new ThreadPoolExecutor(
          0, 32, 30, TimeUnit.SECONDS, new SynchronousQueue<>(), LiveController::daemon);

  private volatile boolean isDatabaseAway;

  LiveController(Signals signals) {
    this.signals = signals;
    this.reader = signals.reader();
  }

  private static Thread daemon(Runnable work) {
    Thread thread = new Thread(work, "live");
    thread.setDaemon(true);
    return thread;
  }

  /** Listens. The connection ends by itself after a while; browsers come again. */
  @GetMapping(path = "/api/live", produces = MediaType.TEXT_EVENT_STREAM_VALUE)
  @PreAuthorize("isAuthenticated()")
  SseEmitter listen(@AuthenticationPrincipal SignedIn who) throws IOException {
    String name = who.email();
    if (open.size() >= FOR_ALL) {
      throw ProblemException.busy("Too many pages listen at this moment. Try again soon.");
    }
    if (byPerson.merge(name, 1, Integer::sum) > FOR_ONE) {
      byPerson.merge(name, -1, Integer::sum);
      throw ProblemException.tooMany(
          "You have " + FOR_ONE + " pages open that listen. Close one of them.");
    }
    SseEmitter emitter = new SseEmitter(CONNECTED_FOR);
    AtomicBoolean isCounted = new AtomicBoolean(true);
    Listener listener = new Listener(emitter);
    Runnable gone =
        () -> {
          open.remove(listener);
          if (isCounted.getAndSet(false)) {
            byPerson.computeIfPresent(name, (n, count) -> count > 1 ? count - 1 : null);
          }
        };
    emitter.onCompletion(gone);
    emitter.onTimeout(emitter::complete);
    emitter.onError(e -> gone.run());
    // what happened while nobody listened is asked for by the page itself, once it is connected
    emitter.send(SseEmitter.event().name("connected").data("{}"));
    open.add(listener);
    // what a page read before it listens may have changed by now, and is told to nobody again
    told(signals::recent).forEach(listener::tell);
    return emitter;
  }

  @Scheduled(fixedDelay = 400)
  void tell() {
    if (open.isEmpty()) {
      return;
    }
    told(reader::next).forEach(this::toAll);
  }

  /** What pages are told of; none while the database is away. */
  private Set<String> told(Supplier<Set<String>> read) {
    try {
      Set<String> topics = read.get();
      topics.remove(Signals.Topic.REGISTER.id());
      isDatabaseAway = false;
      return topics;
    } catch (DataAccessException | TransactionException e) {
      if (!isDatabaseAway) {
        LOG.warn("no signals are read while the database is away");
      }
      isDatabaseAway = true;
      return Set.of();
    }
  }

  /** Finds out who has gone, and keeps proxies from closing what is only quiet. */
  @Scheduled(fixedDelay = 15_000)
  void keepAlive() {
    toAll(STILL_HERE);
  }

  /**
   * Tells everybody, each by themselves: one who reads slowly is waited for by nobody else. What a
   * page is to ask for again is a topic, so that no more than the topics ever waits for one; who
   * has not read what was told before for too long is let go, and comes again.
   */
  private void toAll(String name) {
    List<Listener> behind = open.stream().filter(listener -> !listener.tell(name)).toList();
    open.removeAll(behind);
    behind.forEach(listener -> listener.emitter.complete());
  }

  /** Somebody's open page. */
  private final class Listener {
    private final SseEmitter emitter;
    private final Set<String> waiting = new LinkedHashSet<>();
    private boolean isTelling;
    private long toldSince;

    Listener(SseEmitter emitter) {
      this.emitter = emitter;
    }

    /** Whether they still keep up. */
    synchronized boolean tell(String name) {
      waiting.add(name);
      if (isTelling) {
        return System.nanoTime() - toldSince < PATIENCE_NANOS;
      }
      isTelling = true;
      toldSince = System.nanoTime();
      try {
        senders.execute(this::work);
      } catch (RejectedExecutionException e) {
        isTelling = false; // everybody who tells is busy: it goes with the next
      }
      return true;
    }

    private synchronized @Nullable String next() {
      String name = waiting.isEmpty() ? null : waiting.iterator().next();
      waiting.remove(name);
      isTelling = name != null;
      toldSince = System.nanoTime();
      return name;
    }

    private void work() {
      try {
        for (String name = next(); name != null; name = next()) {
          emitter.send(
              name.equals(STILL_HERE)
                  ? SseEmitter.event().comment(STILL_HERE)
                  : SseEmitter.event().name(name).data("{}"));
        }
      } catch (IOException | IllegalStateException e) {
        open.remove(this);
      }
    }
  }

  /** An open connection would hold up the end of the server. */
  @EventListener(ContextClosedEvent.class)
  void end() {
    open.forEach(listener -> listener.emitter.complete());
    senders.shutdownNow();
  }
}
