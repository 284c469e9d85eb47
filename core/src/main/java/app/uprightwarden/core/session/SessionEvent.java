package app.uprightwarden.core.session;

import java.time.Instant;
import java.util.Collections;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;

/**
 * One thing that happened in a session, as the conference service tells it.
 *
 * @param seq counts the events of a session from 1 without gaps
 * @param at by the session's own clock, which a practice session runs faster
 * @param happened by the clock on the wall
 * @param who the service's name for a participant; the same person on the same device keeps it
 * @param with the facts of it, by the names in {@link Kind}
 */
public record SessionEvent(
    long seq,
    Instant at,
    Instant happened,
    Kind kind,
    @Nullable String who,
    Map<String, String> with) {

  public static final String NAME = "name";
  public static final String ADDRESS = "address";
  public static final String STANDING = "standing";
  public static final String TIE = "tie";
  public static final String ROUTE = "route";
  public static final String REGION = "region";
  public static final String PASSCODE = "passcode";
  public static final String LISTED_PRESENTER = "listed-presenter";
  public static final String CONTRIBUTOR = "contributor";
  public static final String STEP = "step";
  public static final String ROLE = "role";
  public static final String BY = "by";
  public static final String BARRED = "barred";
  public static final String CONTROL = "control";
  public static final String VALUE = "value";

  /** The command that caused it. */
  public static final String CAUSE = "cause";

  public SessionEvent {
    with = Collections.unmodifiableMap(new TreeMap<>(with)); // in one order, on every run
  }

  /** What can happen, each with what it tells beside {@code cause}. */
  public enum Kind {
    OPENED,
    /** name, address, standing, tie, route, region, passcode, listed-presenter, contributor. */
    ARRIVED,
    /** step. */
    HELD,
    /** step. */
    REFUSED,
    /** role; by, where somebody let them in. */
    ENTERED,
    /** Waits no longer, or has gone. */
    LEFT,
    /** by. */
    TURNED_AWAY,
    /** by, barred. */
    REMOVED,
    LOCKED,
    UNLOCKED,
    /** control, value. */
    SETTING,
    /** role, by. */
    ROLE,
    /** by. */
    SILENCED,
    SPOKE,
    SHARE_STARTED,
    SHARE_STOPPED,
    RECORDING_STARTED,
    RECORDING_STOPPED,
    /** Somebody who is in agrees to being recorded. */
    CONSENT_GIVEN,
    /** Somebody who is in does not. */
    CONSENT_DECLINED,
    CHATTED,
    /** name. */
    RENAMED,
    ENDED,
    /**
     * Something this edition has no word for; it has its place in the order and changes nothing.
     */
    OTHER;

    /** As it is written in files and answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The kind of an id, {@code OTHER} where there is none. */
    public static Kind byId(String id) {
      for (Kind kind : values()) {
        if (kind.id().equals(id)) {
          return kind;
        }
      }
      return OTHER;
    }
  }

  /** The fact of this name, or null. */
  public @Nullable String get(String name) {
    return with.get(name);
  }
}
