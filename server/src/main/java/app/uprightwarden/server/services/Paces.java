package app.uprightwarden.server.services;

import java.time.Duration;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.locks.LockSupport;
import org.springframework.stereotype.Component;

/** Keeps to each service's rate, whoever of this server speaks with it. */
@Component
class Paces {
  private final Map<Long, Pace> paces = new ConcurrentHashMap<>();

  Pace of(long service) {
    return paces.computeIfAbsent(service, id -> new Pace());
  }

  /** Somebody has set something about a service: it is not left waiting for that. */
  void forget(long service) {
    paces.remove(service);
  }

  /** Of one service: when it may be asked next, and what is remembered of asking it. */
  static final class Pace {
    private static final Duration FIRST_PAUSE = Duration.ofSeconds(1);
    private static final Duration ASKED = Duration.ofHours(1);

    private long next = System.nanoTime();
    private long asked = System.nanoTime() - ASKED.toNanos();
    private int failures;
    private volatile boolean isHooked;
    private int sessionsTurn;
    private long lastTurn;

    /** Waits until one more request keeps to the rate; whoever came first goes first. */
    void await(int perSecond) {
      long mine;
      synchronized (this) {
        mine = Math.max(System.nanoTime(), next);
        next = mine + 1_000_000_000L / perSecond;
      }
      long wait = mine - System.nanoTime();
      while (wait > 0 && !Thread.currentThread().isInterrupted()) {
        LockSupport.parkNanos(wait);
        wait = mine - System.nanoTime();
      }
    }

    /** Whether it is to be asked again what it is. */
    synchronized boolean isToBeAsked() {
      return System.nanoTime() - asked >= ASKED.toNanos();
    }

    synchronized void asked() {
      asked = System.nanoTime();
      isHooked = false; // and told again where to tell
    }

    /** Another server that spoke with it meanwhile has it tell there: it is told again. */
    synchronized void speaks(long turn) {
      if (turn != lastTurn + 1) {
        isHooked = false;
      }
      lastTurn = turn;
    }

    /** Whether it was told where to tell that something is new. */
    boolean isHooked() {
      return isHooked;
    }

    void hooked() {
      isHooked = true;
    }

    /** At whose turn it is among so many sessions, for some of which there is time. */
    synchronized int turnOf(int sessions, int some) {
      int from = sessionsTurn % Math.max(1, sessions);
      sessionsTurn = from + some;
      return from;
    }

    /** Twice as long after each failure. */
    synchronized Duration pause(Duration longest) {
      Duration pause = FIRST_PAUSE.multipliedBy(1L << Math.min(failures++, 8));
      return pause.compareTo(longest) > 0 ? longest : pause;
    }

    synchronized void answered() {
      failures = 0;
    }
  }
}
