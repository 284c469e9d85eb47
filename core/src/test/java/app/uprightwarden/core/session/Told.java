package app.uprightwarden.core.session;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.session.SessionEvent.Kind;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import java.util.Objects;

/** Tells a book of a session one event after the other, by seconds from its start. */
final class Told {
  static final Instant START = Instant.parse("2026-03-02T10:00:00Z");

  final SessionBook book;
  private int seconds;

  Told(Map<Control, String> controls) {
    ControlValues values = ControlValues.NONE;
    for (Map.Entry<Control, String> each : controls.entrySet()) {
      values = values.with(each.getKey(), each.getKey().parse(each.getValue()));
    }
    book = new SessionBook(START, values);
  }

  /** The seat of somebody who was at the door. */
  Seat seat(String who) {
    return Objects.requireNonNull(book.seat(who), who);
  }

  /** What follows happens at this second. */
  Told at(int fromStart) {
    seconds = fromStart;
    return this;
  }

  Instant now() {
    return START.plusSeconds(seconds);
  }

  /** An event by pairs of names and values. */
  SessionEvent event(Kind kind, String who, String... with) {
    Map<String, String> facts = new HashMap<>();
    for (int i = 0; i < with.length; i += 2) {
      facts.put(with[i], with[i + 1]);
    }
    return new SessionEvent(book.seq() + 1, now(), now(), kind, who, facts);
  }

  Told tell(Kind kind, String who, String... with) {
    book.take(event(kind, who, with));
    return this;
  }

  Told comes(String who, String standing, String tie) {
    return tell(
        Kind.ARRIVED, who, "name", who, "standing", standing, "tie", tie, "passcode", "true");
  }

  Told enters(String who, String role) {
    return tell(Kind.ENTERED, who, "role", role);
  }

  /** The host comes and is in. */
  Told host() {
    comes("host", "member", "host");
    return enters("host", "host");
  }
}
