package app.uprightwarden.standins.sessions;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.Wire;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.Executors;
import java.util.concurrent.ScheduledExecutorService;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/** The sessions that a stand-in holds, in memory: they end with the program. */
public final class PlayedSessions implements AutoCloseable {
  private static final int TICK_MILLIS = 40;
  private static final int MAX_SESSIONS = 5_000;

  /** So long it can be asked what happened. */
  private static final Duration KEPT = Duration.ofHours(1);

  private static final int EVENTS_AT_ONCE = 1000;

  private final Clock clock;
  private final EventSender sender;
  private final Map<String, PlayedSession> sessions = new ConcurrentHashMap<>();
  private final ScheduledExecutorService clockwork =
      Executors.newSingleThreadScheduledExecutor(
          runnable -> {
            Thread thread = new Thread(runnable, "stand-in-clock");
            thread.setDaemon(true);
            return thread;
          });

  /** None as yet; their clocks run. */
  public PlayedSessions(Clock clock, EventSender sender) {
    this.clock = clock;
    this.sender = sender;
    var unused =
        clockwork.scheduleWithFixedDelay(
            this::tick, TICK_MILLIS, TICK_MILLIS, TimeUnit.MILLISECONDS);
  }

  private void tick() {
    Instant now = clock.instant();
    for (PlayedSession session : sessions.values()) {
      try {
        session.tick(now);
        if (session.endedBefore(now.minus(KEPT))) {
          sessions.values().remove(session);
        }
      } catch (RuntimeException e) {
        System.err.println("a session of the stand-in came to a halt: " + e);
      }
    }
  }

  /**
   * Opens a session; one that is open stays as it is.
   *
   * @return false where there are too many
   */
  public boolean open(SessionPlan plan) {
    if (sessions.size() >= MAX_SESSIONS && !sessions.containsKey(plan.id())) {
      return false;
    }
    sessions.computeIfAbsent(
        plan.id(),
        id ->
            new PlayedSession(
                plan, values(plan), clock.instant(), event -> sender.tell(id, event)));
    return true;
  }

  /** What a later version can hold, or cannot be read, is left out. */
  private static ControlValues values(SessionPlan plan) {
    Map<Control, Value> values = new EnumMap<>(Control.class);
    plan.controls()
        .forEach(
            (id, plain) -> {
              Control control = Control.byId(id);
              try {
                if (control != null) {
                  values.put(control, control.parse(plain));
                }
              } catch (IllegalArgumentException e) {
                System.err.println("a session's " + id + " cannot be read: " + e.getMessage());
              }
            });
    return ControlValues.of(values);
  }

  /** Whether there is one of this name. */
  public boolean has(String id) {
    return sessions.containsKey(id);
  }

  /** Has something done, once for each id; null where there is no such session. */
  public Wire.@Nullable Answered order(String id, Wire.OrderSent sent) {
    PlayedSession session = sessions.get(id);
    return session == null
        ? null
        : session.order(sent.id(), sent.order(), sent.by(), clock.instant());
  }

  /** The events behind one, in order; null where there is no such session. */
  public @Nullable List<Wire.EventTold> after(String id, long seq) {
    PlayedSession session = sessions.get(id);
    return session == null
        ? null
        : session.after(seq, EVENTS_AT_ONCE).stream()
            .map(event -> Wire.EventTold.of(id, event))
            .toList();
  }

  @Override
  public void close() {
    clockwork.shutdownNow();
  }
}
