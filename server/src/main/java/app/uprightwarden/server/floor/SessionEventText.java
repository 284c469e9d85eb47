package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;

/** What happened, as people say it. */
final class SessionEventText {
  private SessionEventText() {}

  static FloorView.Moment moment(SessionEvent event, SessionBook book) {
    return new FloorView.Moment(
        event.seq(), event.at(), event.kind().id(), event.who(), of(event, book));
  }

  static String of(SessionEvent event, SessionBook book) {
    String name = name(event, book);
    String by = by(event, book);
    return switch (event.kind()) {
      case OPENED -> "The session was opened.";
      case ARRIVED -> name + " came to the door" + came(event) + ".";
      case HELD -> name + " waits: " + step(event) + ".";
      case REFUSED -> name + " was refused: " + step(event) + ".";
      case ENTERED -> name + " is in as " + event.get(SessionEvent.ROLE) + letIn(by) + ".";
      case LEFT -> name + " left.";
      case TURNED_AWAY -> name + " was turned away" + doneBy(by) + ".";
      case REMOVED ->
          "true".equals(event.get(SessionEvent.BARRED))
              ? name + " was removed and barred" + doneBy(by) + "."
              : name + " was removed" + doneBy(by) + ".";
      case LOCKED -> "The meeting was locked" + doneBy(by) + ".";
      case UNLOCKED -> "The meeting was unlocked" + doneBy(by) + ".";
      case SETTING -> setting(event, by);
      case ROLE -> name + " was made " + event.get(SessionEvent.ROLE) + doneBy(by) + ".";
      case SILENCED -> name + " was silenced" + doneBy(by) + ".";
      case SPOKE -> name + " speaks.";
      case SHARE_STARTED -> name + " shares the screen.";
      case SHARE_STOPPED -> name + " no longer shares the screen" + doneBy(by) + ".";
      case RECORDING_STARTED -> name + " records.";
      case RECORDING_STOPPED -> name + " no longer records" + doneBy(by) + ".";
      case CONSENT_GIVEN -> name + " agrees to being recorded.";
      case CONSENT_DECLINED -> name + " does not agree to being recorded.";
      case CHATTED -> name + " wrote to all.";
      case RENAMED -> name + " now goes by “" + event.get(SessionEvent.NAME) + "”.";
      case ENDED -> "The session ended" + doneBy(by) + ".";
      case OTHER -> "Something happened that this program has no word for.";
    };
  }

  private static String came(SessionEvent event) {
    return "phone".equals(event.get(SessionEvent.ROUTE)) ? " by telephone" : "";
  }

  private static String letIn(@Nullable String by) {
    return by == null ? "" : ", let in by " + by;
  }

  private static String doneBy(@Nullable String by) {
    return by == null ? "" : " by " + by;
  }

  private static @Nullable String by(SessionEvent event, SessionBook book) {
    String by = event.get(SessionEvent.BY);
    Seat seat = by == null ? null : book.seat(by);
    return seat == null ? by : seat.name();
  }

  private static String name(SessionEvent event, SessionBook book) {
    String said = event.get(SessionEvent.NAME);
    Seat seat = event.who() == null ? null : book.seat(event.who());
    if (event.kind() == SessionEvent.Kind.ARRIVED && said != null) {
      return said;
    }
    return seat == null ? String.valueOf(event.who()) : seat.name();
  }

  private static String step(SessionEvent event) {
    String id = event.get(SessionEvent.STEP);
    return Arrays.stream(DoorStep.values())
        .filter(step -> step.id().equals(id))
        .map(SessionEventText::stops)
        .findFirst()
        .orElse(String.valueOf(id));
  }

  /** What holds or stops somebody at a step. */
  static String stops(DoorStep step) {
    return switch (step) {
      case LOCKED -> "the meeting is locked";
      case REMOVED -> "removed before";
      case LATE -> "too late";
      case REGION -> "their region is not allowed";
      case ROUTE -> "nobody may join by phone";
      case SIGN_IN -> "not signed in as the meeting asks";
      case REGISTRATION -> "not approved beforehand";
      case PASSCODE -> "does not hold the passcode";
      case HOST_ABSENT -> "no host is in yet";
      case WAITING_ROOM -> "in the waiting room";
    };
  }

  private static String setting(SessionEvent event, @Nullable String by) {
    Control control = Control.byId(event.get(SessionEvent.CONTROL));
    String title =
        control == null ? String.valueOf(event.get(SessionEvent.CONTROL)) : control.title();
    String value = String.valueOf(event.get(SessionEvent.VALUE));
    if (control != null && SessionBook.isValue(control, value)) {
      value = control.label(SessionBook.value(control, value));
    }
    return by == null
        ? title + " was set to “" + value + "”."
        : title + " was set to “" + value + "” by " + by + ".";
  }
}
