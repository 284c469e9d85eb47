package app.uprightwarden.standins.sessions;

import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.Wire;
import java.io.IOException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.time.Clock;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import java.util.concurrent.BlockingQueue;
import java.util.concurrent.LinkedBlockingQueue;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import tools.jackson.databind.json.JsonMapper;

/**
 * Tells by webhook what happens, several events at once, until it is heard. In a mood to, it
 * repeats some and tells others late.
 */
public final class EventSender {
  private static final int MAX_AT_ONCE = 500;

  /** Who is not asked to be told has the last of them by asking. */
  private static final int MAX_WAITING = 200_000;

  /** What is taken of whoever has not shown yet who they are. */
  private static final int MAX_BYTES = 64 * 1024;

  private static final Duration ANSWER = Duration.ofSeconds(30);
  private static final int LONGEST_PAUSE_MILLIS = 2_000;

  private final Supplier<? extends @Nullable URI> hook;
  private final String secret;
  private final JsonMapper json;
  private final Clock clock;
  private final Supplier<Mood> mood;
  private final BlockingQueue<Wire.EventTold> queue = new LinkedBlockingQueue<>(MAX_WAITING);
  private final List<Wire.EventTold> heldBack = new ArrayList<>();
  private final Random random = new Random(7);
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private final Thread thread = new Thread(this::run, "stand-in-sender");
  private volatile boolean isChanged;
  private volatile boolean stopped;

  /**
   * How it is to go wrong.
   *
   * @param away it tells nobody anything for now
   * @param repeats it tells some twice
   * @param shuffles it tells them out of order
   */
  public record Mood(boolean away, boolean repeats, boolean shuffles) {}

  /**
   * One that tells; it has to be started.
   *
   * @param hook where what happens is told; null for nowhere
   * @param secret what it is signed with
   */
  public EventSender(
      Supplier<? extends @Nullable URI> hook,
      String secret,
      JsonMapper json,
      Clock clock,
      Supplier<Mood> mood) {
    this.hook = hook;
    this.secret = secret;
    this.json = json;
    this.clock = clock;
    this.mood = mood;
    thread.setDaemon(true);
  }

  /** Begins to tell. */
  public void start() {
    thread.start();
  }

  /** Tells nothing more. */
  public void stop() {
    stopped = true;
    thread.interrupt();
  }

  /** Tells of an event of a session. */
  void tell(String session, SessionEvent event) {
    if (hook.get() != null) {
      var unused = queue.offer(Wire.EventTold.of(session, event));
    }
  }

  /** Tells that there is something new among the meetings. */
  public void changed() {
    isChanged = true;
  }

  private void run() {
    try {
      while (!stopped) {
        List<Wire.EventTold> batch = next();
        boolean changed = isChanged;
        isChanged = false;
        if (changed || !batch.isEmpty()) {
          untilHeard(changed, batch);
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
    Mood now = mood.get();
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

  private void untilHeard(boolean changed, List<Wire.EventTold> batch) throws InterruptedException {
    byte[] body = json.writeValueAsBytes(new Wire.Told(changed, batch));
    if (body.length > MAX_BYTES && batch.size() > 1) {
      untilHeard(changed, batch.subList(0, batch.size() / 2));
      untilHeard(false, batch.subList(batch.size() / 2, batch.size()));
      return;
    }
    int pause = 50;
    while (!stopped && (mood.get().away() || !isHeard(body))) {
      TimeUnit.MILLISECONDS.sleep(pause);
      pause = Math.min(pause * 2, LONGEST_PAUSE_MILLIS);
    }
  }

  /** Whether it was heard; where nobody is to be told any more there is nothing to hear. */
  private boolean isHeard(byte[] body) throws InterruptedException {
    URI to = hook.get();
    if (to == null) {
      return true;
    }
    HttpRequest request =
        HttpRequest.newBuilder(to)
            .timeout(ANSWER)
            .header("Content-Type", "application/json")
            .header(Wire.SIGNATURE, Wire.sign(secret, clock.instant(), body))
            .POST(HttpRequest.BodyPublishers.ofByteArray(body))
            .build();
    try {
      return http.send(request, HttpResponse.BodyHandlers.discarding()).statusCode() < 300;
    } catch (IOException e) {
      return false;
    }
  }
}
