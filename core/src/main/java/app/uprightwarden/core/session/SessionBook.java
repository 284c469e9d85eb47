package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.InvalidValueException;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;

/**
 * A session as its events tell it, told in order. Not for several threads. What an event says of
 * somebody who is not there, or not where it takes them to be, changes nothing: the service is
 * believed about what it saw, and never crashes those who read it.
 */
public final class SessionBook {
  /** How many recordings of a session are kept apart. */
  static final int MAX_RECORDINGS = 500;

  private final Instant start;
  private final Map<String, Seat> seats = new LinkedHashMap<>();
  private ControlValues values;
  private long seq;
  private boolean locked;
  private boolean ended;
  private int hostsIn;
  private @Nullable Instant hostFirstIn;
  private @Nullable Instant opened;
  private @Nullable Instant last;
  private @Nullable String sharing;
  private @Nullable String recording;
  private final List<Recording> recordings = new ArrayList<>();
  private int recorded;
  private int chatted;

  /**
   * Before anything happened.
   *
   * @param start when the meeting is to begin
   * @param values its controls then
   */
  public SessionBook(Instant start, ControlValues values) {
    this.start = start;
    this.values = values;
  }

  /**
   * Takes in the next event.
   *
   * @throws IllegalArgumentException where it is not the next
   */
  public void take(SessionEvent event) {
    if (event.seq() != seq + 1) {
      throw new IllegalArgumentException(event.seq() + " does not follow " + seq);
    }
    seq = event.seq();
    last = event.at();
    switch (event.kind()) {
      case OPENED -> opened = event.at();
      case LOCKED -> locked = true;
      case UNLOCKED -> locked = false;
      case SETTING -> set(event);
      case ENDED -> end(event.at());
      case ARRIVED -> arrived(event);
      case OTHER -> {}
      default -> ofSomebody(event);
    }
  }

  private void ofSomebody(SessionEvent event) {
    Seat seat = event.who() == null ? null : seats.get(event.who());
    if (seat == null) {
      return;
    }
    switch (event.kind()) {
      case HELD -> seat.stepIs(with(event, SessionEvent.STEP, "waiting-room"));
      case REFUSED -> {
        out(seat, "refused", event.at());
        seat.stepIs(with(event, SessionEvent.STEP, "waiting-room"));
      }
      case ENTERED -> entered(seat, event);
      case LEFT -> out(seat, "left", event.at());
      case TURNED_AWAY -> out(seat, "turned-away", event.at());
      case REMOVED -> {
        out(seat, "removed", event.at());
        seat.removed("true".equals(event.get(SessionEvent.BARRED)), event.at());
      }
      case ROLE -> role(seat, event);
      case SILENCED -> seat.silenced(true);
      case SPOKE -> seat.silenced(false);
      case SHARE_STARTED -> sharing = seat.who();
      case SHARE_STOPPED -> sharing = null;
      case RECORDING_STARTED -> records(seat, event.at());
      case RECORDING_STOPPED ->
          recordingEnds(Recording.End.STOPPED, event.get(SessionEvent.BY), event.at());
      case CONSENT_GIVEN -> seat.answered(true, event.at());
      case CONSENT_DECLINED -> seat.answered(false, event.at());
      case CHATTED -> chatted++;
      case RENAMED -> seat.renamed(with(event, SessionEvent.NAME, seat.name()));
      default -> throw new IllegalStateException(event.kind().toString());
    }
  }

  /** One is made at a time: whoever begins another ends the one before. */
  private void records(Seat seat, Instant at) {
    recordingEnds(Recording.End.REPLACED, seat.who(), at);
    recording = seat.who();
    recorded++;
    if (recordings.size() < MAX_RECORDINGS) {
      recordings.add(
          new Recording(
              recorded,
              seat.who(),
              at,
              null,
              Recording.End.RUNNING,
              null,
              String.valueOf(plain(Control.RECORDING_CONSENT)),
              String.valueOf(plain(Control.RECORDING_STORE))));
    }
  }

  private Object plain(Control control) {
    return control.plain(values.effective(control));
  }

  private void recordingEnds(Recording.End how, @Nullable String by, Instant at) {
    recording = null;
    int last = recordings.size() - 1;
    if (last >= 0 && recordings.get(last).end() == Recording.End.RUNNING) {
      recordings.set(last, recordings.get(last).ended(how, by, at));
    }
  }

  private static String with(SessionEvent event, String name, String otherwise) {
    String value = event.get(name);
    return value == null ? otherwise : value;
  }

  private void arrived(SessionEvent event) {
    String who = event.who();
    if (who == null) {
      return;
    }
    Seat seat = seats.get(who);
    Joiner joiner = joiner(event, seat != null && seat.removals() > 0);
    String name = with(event, SessionEvent.NAME, who);
    String address = event.get(SessionEvent.ADDRESS);
    if (seat == null) {
      seats.put(who, new Seat(who, name, address, joiner, event.at(), moment(event.at())));
    } else {
      out(seat, "left", event.at());
      seat.arrived(name, address, joiner, event.at(), moment(event.at()));
    }
  }

  private static Joiner joiner(SessionEvent event, boolean removed) {
    return new Joiner(
        word(event, SessionEvent.STANDING, Standing.UNKNOWN),
        word(event, SessionEvent.TIE, Tie.NONE),
        word(event, SessionEvent.ROUTE, Route.APP),
        "true".equals(event.get(SessionEvent.PASSCODE)),
        removed,
        event.get(SessionEvent.REGION),
        "true".equals(event.get(SessionEvent.LISTED_PRESENTER)),
        "true".equals(event.get(SessionEvent.CONTRIBUTOR)));
  }

  /** What a word means; one that is not known means the least trusted thing. */
  private static <E extends Enum<E>> E word(SessionEvent event, String name, E otherwise) {
    String id = with(event, name, otherwise.name()).toUpperCase(Locale.ROOT).replace('-', '_');
    for (E each : otherwise.getDeclaringClass().getEnumConstants()) {
      if (each.name().equals(id)) {
        return each;
      }
    }
    return otherwise;
  }

  private void entered(Seat seat, SessionEvent event) {
    if (seat.place() == Seat.Place.INSIDE) {
      return;
    }
    Role role = word(event, SessionEvent.ROLE, Role.ATTENDEE);
    String by = event.get(SessionEvent.BY);
    Moment then = moment(event.at());
    seat.entered(role, by, by == null ? Seat.Way.BY_THEMSELVES : wayBy(by), event.at(), then);
    count(role, 1, event.at());
  }

  /** Those picked by name to present vouch like hosts; who presents like everybody does not. */
  private Seat.Way wayBy(String by) {
    Seat keeper = seats.get(by);
    Role role = keeper == null ? Role.HOST : keeper.role();
    boolean vetted =
        role == Role.HOST
            || role == Role.CO_HOST
            || role == Role.PRESENTER && values.rank(Control.PRESENTER_ROLE) >= 2;
    return vetted ? Seat.Way.LET_IN_BY_HOST : Seat.Way.LET_IN_BY_PEER;
  }

  private void role(Seat seat, SessionEvent event) {
    Role was = seat.role();
    if (was != null) {
      Role role = word(event, SessionEvent.ROLE, Role.ATTENDEE);
      count(was, -1, event.at());
      seat.takes(role);
      count(role, 1, event.at());
    }
  }

  private void out(Seat seat, String why, Instant at) {
    if (seat.place() == Seat.Place.OUT) {
      return;
    }
    Role role = seat.role();
    if (role != null) {
      count(role, -1, at);
    }
    if (seat.who().equals(sharing)) {
      sharing = null;
    }
    if (seat.who().equals(recording)) {
      boolean over = why.equals("ended");
      recordingEnds(over ? Recording.End.SESSION_ENDED : Recording.End.LEFT, null, at);
    }
    seat.out(why, at);
  }

  private void count(Role role, int by, Instant at) {
    if (role == Role.HOST || role == Role.CO_HOST) {
      hostsIn += by;
      if (hostFirstIn == null && hostsIn > 0) {
        hostFirstIn = at;
      }
    }
  }

  private void set(SessionEvent event) {
    Control control = Control.byId(with(event, SessionEvent.CONTROL, ""));
    String value = event.get(SessionEvent.VALUE);
    if (control == null || value == null) {
      return;
    }
    try {
      values = values.with(control, value(control, value));
    } catch (InvalidValueException e) {
      // a word this edition of the controls does not have: the value is not evidenced then
      values = values.with(control, null);
    }
  }

  /**
   * A value as events write it: a word, a number, or names with commas between them.
   *
   * @throws InvalidValueException where the control has no such value
   */
  public static Value value(Control control, String text) {
    if (control.scale() instanceof Scale.Sets) {
      return control.parse(text.isEmpty() ? List.of() : List.of(text.split(",")));
    }
    boolean isNumber = !text.isEmpty() && text.chars().allMatch(Character::isDigit);
    return control.parse(isNumber && text.length() < 9 ? Integer.valueOf(text) : text);
  }

  /** Whether a control has this value, written as events write it. */
  public static boolean isValue(Control control, String text) {
    try {
      value(control, text);
      return true;
    } catch (InvalidValueException e) {
      return false;
    }
  }

  private void end(Instant at) {
    seats.values().forEach(seat -> out(seat, "ended", at));
    ended = true;
  }

  /** The moment at the door at an instant of the session's clock. */
  public Moment moment(Instant at) {
    long seconds = Duration.between(start, at).toSeconds();
    // a minute that has begun counts before the start as not yet gone, after it as not yet full
    return new Moment((int) Math.floorDiv(seconds, 60), hostsIn > 0, locked);
  }

  /** Somebody's seat, or null where they were never at the door. */
  public @Nullable Seat seat(String who) {
    return seats.get(who);
  }

  /** Everybody who was ever at the door, in the order in which they came first. */
  public Collection<Seat> seats() {
    return Collections.unmodifiableCollection(seats.values());
  }

  /** When the session is to start, by its own clock. */
  public Instant start() {
    return start;
  }

  /** The controls as they stand now. */
  public ControlValues values() {
    return values;
  }

  /** The number of the last event taken in. */
  public long seq() {
    return seq;
  }

  /** Whether the meeting is locked now. */
  public boolean locked() {
    return locked;
  }

  /** Whether the session is over. */
  public boolean ended() {
    return ended;
  }

  /** How many hosts and co-hosts are inside. */
  public int hostsIn() {
    return hostsIn;
  }

  /** When a host was inside first, or null. */
  public @Nullable Instant hostFirstIn() {
    return hostFirstIn;
  }

  /** When the door was opened, or null. */
  public @Nullable Instant opened() {
    return opened;
  }

  /** When the last event was, by the session's clock. */
  public @Nullable Instant last() {
    return last;
  }

  /** Who shares the screen, or null. */
  public @Nullable String sharing() {
    return sharing;
  }

  /** Who records, or null. */
  public @Nullable String recording() {
    return recording;
  }

  /** How many recordings were begun. */
  public int recorded() {
    return recorded;
  }

  /** The recordings in the order in which they were begun, the first {@value #MAX_RECORDINGS}. */
  public List<Recording> recordings() {
    return Collections.unmodifiableList(recordings);
  }

  /** How many messages were written to all. */
  public int chatted() {
    return chatted;
  }
}
