package app.uprightwarden.server.bridge.standin;

import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.bridge.BridgeStandIn;
import app.uprightwarden.server.bridge.Wire;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells events by webhook, several at once, until it is heard. In a mood to, it repeats some and
 * tells others late.
 */
final class EventSender {
  private static final Logger LOG = LoggerFactory.getLogger(EventSender.class);
  private static final int MAX_AT_ONCE = 500;

  /** What is taken of whoever has not shown yet who they are. */
  private static final int MAX_BYTES = 64 * 1024;

  private static final Duration ANSWER = Duration.ofSeconds(30);
  private static final int LONGEST_PAUSE_MILLIS = 2_000;

  private final URI callback;
  private final String secret;
  private final JsonMapper json;
  private final Clock clock;
  private final Supplier<BridgeStandIn.Mood> mood;
  private final BlockingQueue<Wire.EventTold> queue = new LinkedBlockingQueue<>();
  private final List<Wire.EventTold> heldBack = new ArrayList<>();
  private final Random random = new Random(7);
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private final Thread thread = new Thread(this::run, "bridge-teller");
  private volatile boolean stopped;

  EventSender(
      URI callback,
      String secret,
      JsonMapper json,
      Clock clock,
      Supplier<BridgeStandIn.Mood> mood) {
    this.callback = callback;
    this.secret = secret;
    this.json = json;
    this.clock = clock;
    this.mood = mood;
    thread.setDaemon(true);
  }

  void start() {
    thread.start();
  }

  void stop() {
    stopped = true;
    thread.interrupt();
  }

  void tell(String session, SessionEvent event) {
    queue.add(Wire.EventTold.of(session, event));
  }

  private void run() {
    try {
      while (!stopped) {
        List<Wire.EventTold> batch = next();
        if (!batch.isEmpty()) {
          untilHeard(batch);
        }
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  private List<Wire.EventTold> next() throws InterruptedException {
    List<Wire.EventTold> batch = new ArrayList<>();
    Wire.EventTold first = queue.poll(200, TimeUnit.MILLISECONDS);
    if (first != null) {
      batch.add(first);
      queue.drainTo(batch, MAX_AT_ONCE - 1);
    }
    BridgeStandIn.Mood now = mood.get();
    batch.addAll(heldBack);
    heldBack.clear();
    if (now.shuffles() && first != null) {
      Collections.shuffle(batch, random);
      int late = random.nextInt(batch.size() + 1) / 2;
      heldBack.addAll(batch.subList(0, late));
      batch = new ArrayList<>(batch.subList(late, batch.size()));
    }
    if (now.repeats() && !batch.isEmpty()) {
      batch.add(batch.get(random.nextInt(batch.size())));
    }
    return batch;
  }

  private void untilHeard(List<Wire.EventTold> batch) throws InterruptedException {
    byte[] body = json.writeValueAsBytes(new Wire.EventsTold(batch));
    if (body.length > MAX_BYTES && batch.size() > 1) {
      untilHeard(batch.subList(0, batch.size() / 2));
      untilHeard(batch.subList(batch.size() / 2, batch.size()));
      return;
    }
    int pause = 50;
    while (!stopped && (isAway() || !isHeard(body))) {
      TimeUnit.MILLISECONDS.sleep(pause);
      pause = Math.min(pause * 2, LONGEST_PAUSE_MILLIS);
    }
  }

  private boolean isAway() {
    Instant until = mood.get().awayUntil();
    return until != null && until.isAfter(clock.instant());
  }

  private boolean isHeard(byte[] body) throws InterruptedException {
    HttpRequest request =
        HttpRequest.newBuilder(callback)
            .timeout(ANSWER)
            .header("Content-Type", "application/json")
            .header(Wire.SIGNATURE, Wire.sign(secret, clock.instant(), body))
            .POST(HttpRequest.BodyPublishers.ofByteArray(body))
            .build();
    try {
      int status = http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode();
      if (status >= 300) {
        LOG.warn("events were answered with {}", status);
      }
      return status < 300;
    } catch (IOException e) {
      LOG.debug("events are not heard: {}", e.getMessage());
      return false;
    }
  }
}
