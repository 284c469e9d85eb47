package app.uprightwarden.server.bridge.standin;

import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.BridgeAccess;
import app.uprightwarden.server.bridge.BridgeStandIn;
import app.uprightwarden.server.bridge.ConferenceBridge;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.standins.sessions.EventSender;
import app.uprightwarden.standins.sessions.PlayedSessions;
import com.sun.net.httpserver.HttpExchange;
import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.io.OutputStream;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.URI;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Clock;
import java.time.Instant;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.web.server.context.WebServerInitializedEvent;
import org.springframework.context.event.ContextClosedEvent;
import org.springframework.context.event.EventListener;
import org.springframework.dao.DataAccessException;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** The stand-in's own little server, on a port and threads of its own, on loopback alone. */
@Component
public class StandInServer {
  private static final Logger LOG = LoggerFactory.getLogger(StandInServer.class);
  private static final Map<String, String> NOTHING = Map.of("error", "there is nothing here");

  private final BridgeAccess access;
  private final BridgeStandIn settings;
  private final JsonMapper json;
  private final Clock clock;
  private @Nullable HttpServer server;
  private @Nullable EventSender sender;
  private @Nullable PlayedSessions played;
  private volatile BridgeStandIn.Mood mood = new BridgeStandIn.Mood(null, "", 0, false, false);
  private final ScheduledExecutorService clockwork =
      Executors.newSingleThreadScheduledExecutor(named("bridge-clock"));
  private final ExecutorService handlers = Executors.newFixedThreadPool(8, named("bridge"));

  StandInServer(BridgeAccess access, BridgeStandIn settings, JsonMapper json, Clock clock) {
    this.access = access;
    this.settings = settings;
    this.json = json;
    this.clock = clock;
  }

  private static java.util.concurrent.ThreadFactory named(String name) {
    return runnable -> {
      Thread thread = new Thread(runnable, name);
      thread.setDaemon(true);
      return thread;
    };
  }

  /** Starts once the server it tells has its port. */
  @EventListener
  void start(WebServerInitializedEvent event) throws IOException {
    if (access.isStandIn() && server == null) {
      start("http://127.0.0.1:" + event.getWebServer().getPort() + "/api/bridge/events");
    }
  }

  /** Starts it and tells what happens at this address, unless another is configured. */
  public void start(String tells) throws IOException {
    HttpServer own =
        HttpServer.create(
            new InetSocketAddress(InetAddress.getLoopbackAddress(), access.getPort()), 0);
    own.setExecutor(handlers);
    own.createContext("/v1/", this::handle);
    own.start();
    server = own;
    access.standInListens(URI.create("http://127.0.0.1:" + own.getAddress().getPort()));
    URI callback = URI.create(access.getCallback().isEmpty() ? tells : access.getCallback());
    EventSender made =
        new EventSender(() -> callback, access.getSecret(), json, clock, this::telling);
    sender = made;
    made.start();
    played = new PlayedSessions(clock, made);
    var unused = clockwork.scheduleWithFixedDelay(this::feel, 0, 250, TimeUnit.MILLISECONDS);
  }

  @EventListener(ContextClosedEvent.class)
  void stop() {
    clockwork.shutdownNow();
    if (server != null) {
      server.stop(0);
    }
    if (sender != null) {
      sender.stop();
    }
    if (played != null) {
      played.close();
    }
    handlers.shutdownNow();
  }

  private PlayedSessions sessions() {
    return Objects.requireNonNull(played);
  }

  private EventSender.Mood telling() {
    return new EventSender.Mood(isAway(), mood.repeats(), mood.shuffles());
  }

  /** How it is to behave is asked rarely, lest each event cost a question. */
  private void feel() {
    try {
      mood = settings.mood();
    } catch (DataAccessException | TransactionException e) {
      LOG.debug("the stand-in stays as it was while the database is away");
    }
  }

  private boolean isAway() {
    Instant until = mood.awayUntil();
    return until != null && until.isAfter(clock.instant());
  }

  private void handle(HttpExchange exchange) throws IOException {
    try (exchange) {
      byte[] body = exchange.getRequestBody().readAllBytes();
      String bearer = exchange.getRequestHeaders().getFirst("Authorization");
      if (bearer == null
          || !MessageDigest.isEqual(
              bearer.getBytes(StandardCharsets.UTF_8),
              ("Bearer " + access.getSecret()).getBytes(StandardCharsets.UTF_8))) {
        answer(exchange, 401, Map.of("error", "not signed in"));
        return;
      }
      feel();
      if (isAway()) {
        answer(exchange, 503, Map.of("error", "away"));
        return;
      }
      pause();
      route(exchange, body);
    } catch (RuntimeException e) {
      LOG.warn("the stand-in could not answer: {}", String.valueOf(e.getMessage()));
      answer(exchange, e instanceof JacksonException ? 400 : 500, Map.of("error", "failed"));
    }
  }

  private void pause() {
    if (mood.slowMillis() > 0) {
      try {
        TimeUnit.MILLISECONDS.sleep(mood.slowMillis());
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  private void route(HttpExchange exchange, byte[] body) throws IOException {
    String path = exchange.getRequestURI().getPath();
    String[] parts = path.split("/", -1); // "", v1, what, id, then
    String call = exchange.getRequestMethod() + " " + (parts.length > 2 ? parts[2] : "");
    String then = parts.length > 4 ? parts[4] : "";
    String id = parts.length > 3 ? parts[3] : "";
    if (call.equals("POST meetings") && then.equals("changes")) {
      change(exchange, json.readValue(body, ConferenceBridge.Command.class));
    } else if (call.equals("PUT sessions") && then.isEmpty()) {
      open(exchange, json.readValue(body, SessionPlan.class));
    } else if (call.equals("POST sessions") && then.equals("orders")) {
      order(exchange, id, json.readValue(body, Wire.OrderSent.class));
    } else if (call.equals("GET sessions") && then.equals("events")) {
      events(exchange, id);
    } else {
      answer(exchange, 404, NOTHING);
    }
  }

  private void change(HttpExchange exchange, ConferenceBridge.Command command) throws IOException {
    try {
      answer(exchange, 200, settings.change(command));
    } catch (SessionHolder.Away e) {
      answer(exchange, 503, Map.of("error", "away"));
    }
  }

  private void open(HttpExchange exchange, SessionPlan plan) throws IOException {
    boolean isOpen = sessions().open(plan);
    answer(exchange, isOpen ? 200 : 503, Map.of("id", plan.id()));
  }

  private void order(HttpExchange exchange, String id, Wire.OrderSent sent) throws IOException {
    String refused = mood.refuses();
    boolean refuses = !refused.isBlank() && (sent.act() + "/" + sent.control()).contains(refused);
    Wire.Answered answer =
        refuses
            ? new Wire.Answered(
                false, "the conference service does not let " + sent.act() + " be done")
            : sessions().order(id, sent);
    answer(exchange, answer == null ? 404 : 200, answer == null ? NOTHING : answer);
  }

  private void events(HttpExchange exchange, String id) throws IOException {
    String query = String.valueOf(exchange.getRequestURI().getQuery());
    long after = query.matches("after=\\d{1,15}") ? Long.parseLong(query.substring(6)) : 0;
    List<Wire.EventTold> told = sessions().after(id, after);
    answer(exchange, told == null ? 404 : 200, told == null ? NOTHING : new Wire.EventsTold(told));
  }

  private void answer(HttpExchange exchange, int status, Object body) throws IOException {
    byte[] bytes = json.writeValueAsBytes(body);
    exchange.getResponseHeaders().set("Content-Type", "application/json");
    exchange.sendResponseHeaders(status, bytes.length);
    try (OutputStream out = exchange.getResponseBody()) {
      out.write(bytes);
    }
  }
}
