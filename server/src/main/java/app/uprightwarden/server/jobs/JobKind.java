package app.uprightwarden.server.jobs;

import java.time.Duration;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import java.util.function.UnaryOperator;

/**
 * A kind of work that is done in the background, one item after the other. An item that fails is
 * tried again after growing pauses; after the last try it is <em>failed</em>, and waits for
 * somebody to have it tried again. Work is done at least once: a server that dies in the middle of
 * an item leaves it to another, which begins it anew.
 *
 * @param name as it is stored: {@code mail}; 40 characters at most
 * @param title what an item is called where somebody reads of it: {@code Message}
 * @param lane whose threads it takes
 * @param retries how it is tried again
 * @param work what is done for an item; outside of any transaction
 * @param title how an item is named, by its id
 * @param whenFailed told of an item that is tried no more, and why
 * @param whenTriedAgain told of an item that somebody has tried again
 */
public record JobKind(
    String name,
    String title,
    Lane lane,
    Retries retries,
    Consumer<String> work,
    UnaryOperator<String> item,
    BiConsumer<String, String> whenFailed,
    Consumer<String> whenTriedAgain) {

  /** Threads that some kinds of work share; each lane has its own. */
  public enum Lane {
    /** Work within the house. */
    HOUSE(3),
    /** Work that waits for mail servers and receivers. */
    OUTWARD(4),
    /**
     * Speaking with conference services, a thread for each there can be: none waits for another.
     */
    SERVICE(8),
    /** Reading calendars where they are kept; some servers take their time. */
    SOURCE(3),
    /** Recorded audits, one after the other. */
    AUDIT(1);

    private final int threads;

    Lane(int threads) {
      this.threads = threads;
    }

    int threads() {
      return threads;
    }

    String id() {
      return name().toLowerCase(java.util.Locale.ROOT);
    }
  }

  /**
   * How work is tried again: each pause is twice the one before.
   *
   * @param most tries in all
   */
  public record Retries(int most, Duration first, Duration longest) {
    /**
     * How long to wait after some tries, 1 or more.
     *
     * @return at most the longest
     */
    public Duration after(int tries) {
      Duration wait = first.multipliedBy(1L << Math.max(0, Math.min(tries - 1, 20)));
      return wait.compareTo(longest) > 0 ? longest : wait;
    }
  }

  /** A kind of which nobody is told when it fails. */
  public JobKind(String name, String title, Lane lane, Retries retries, Consumer<String> work) {
    this(name, title, lane, retries, work, id -> id, (id, why) -> {}, id -> {});
  }

  /** The same whose items have names. */
  public JobKind named(UnaryOperator<String> names) {
    return new JobKind(name, title, lane, retries, work, names, whenFailed, whenTriedAgain);
  }

  /** The same with something to do when an item has failed, and when it is tried again. */
  public JobKind telling(BiConsumer<String, String> failed, Consumer<String> triedAgain) {
    return new JobKind(name, title, lane, retries, work, item, failed, triedAgain);
  }

  /** Thrown by work that is not to be done now. It is no failure and counts as no try. */
  public static final class Later extends RuntimeException {
    private static final long serialVersionUID = 1;

    private final Duration pause;
    private final boolean goesOn;

    public Later(Duration pause) {
      this(pause, false);
    }

    private Later(Duration pause, boolean goesOn) {
      super("later", null, false, false);
      this.pause = pause;
      this.goesOn = goesOn;
    }

    /** By work that went well as far as it went: what failed before it is over. */
    public static Later goingOn(Duration pause) {
      return new Later(pause, true);
    }

    Duration pause() {
      return pause;
    }

    boolean goesOn() {
      return goesOn;
    }
  }

  /** Thrown by work that another try would not help: the item is failed at once. */
  public static final class Refused extends RuntimeException {
    private static final long serialVersionUID = 1;

    public Refused(String reason) {
      super(reason);
    }
  }
}
