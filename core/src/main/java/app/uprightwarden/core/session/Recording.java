package app.uprightwarden.core.session;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * A recording of a session, from its beginning to its end.
 *
 * @param number counts those of the session from 1
 * @param who began it
 * @param from by the session's clock
 * @param to null while it runs
 * @param endedBy who stopped it or began the next, where the service says so
 * @param consent what {@code recording-consent} was when it began
 * @param store what {@code recording-store} was then
 */
public record Recording(
    int number,
    String who,
    Instant from,
    @Nullable Instant to,
    End end,
    @Nullable String endedBy,
    String consent,
    String store) {

  /** How a recording came to its end. */
  public enum End {
    RUNNING,
    STOPPED,
    /** Somebody began another. */
    REPLACED,
    /** Whoever recorded left or was removed. */
    LEFT,
    SESSION_ENDED;

    /** As it is written in answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /** What somebody knew of being recorded. */
  public enum Answer {
    /** Nobody told them: the meeting gives no notice. */
    NOT_TOLD,
    /** They saw the notice, and could leave. */
    TOLD,
    GIVEN,
    DECLINED,
    /** They were asked and have not answered; a telephone has no way to. */
    NOT_ANSWERED;

    /** As it is written in answers, stable for ever. */
    public String id() {
      return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }
  }

  /**
   * Somebody who was in while it ran.
   *
   * @param since when they were first in while it ran: then they were told or asked
   * @param at when they answered; null where they did not
   */
  public record Recorded(
      String who, String name, Instant since, Answer answer, @Nullable Instant at) {}

  Recording ended(End how, @Nullable String by, Instant at) {
    return new Recording(number, who, from, at, how, by, consent, store);
  }

  /** How long it is, up to an instant where it still runs. */
  public Duration length(Instant until) {
    return Duration.between(from, to == null ? until : to);
  }

  /**
   * Everybody who was in while it ran, without whoever made it, and what they knew of it. An answer
   * counts for the recording during which it was given; the last one stands.
   */
  public List<Recorded> people(SessionBook book, Instant until) {
    Instant last = to == null ? until : to;
    List<Recorded> people = new ArrayList<>();
    for (Seat seat : book.seats()) {
      Instant since = seat.who().equals(who) ? null : firstIn(seat, last);
      if (since != null) {
        people.add(of(seat, since));
      }
    }
    return List.copyOf(people);
  }

  private @Nullable Instant firstIn(Seat seat, Instant last) {
    for (Seat.Stay stay : seat.stays()) {
      Instant left = stay.to();
      if (stay.from().isBefore(last) && (left == null || left.isAfter(from))) {
        return stay.from().isAfter(from) ? stay.from() : from;
      }
    }
    return null;
  }

  private Recorded of(Seat seat, Instant since) {
    Seat.Consent answer = null;
    for (Seat.Consent each : seat.consents()) {
      boolean isBefore = to == null || each.at().isBefore(to); // at its end: of the next one
      if (!each.at().isBefore(from) && isBefore) {
        answer = each;
      }
    }
    if (answer != null) {
      return new Recorded(
          seat.who(),
          seat.name(),
          since,
          answer.given() ? Answer.GIVEN : Answer.DECLINED,
          answer.at());
    }
    Answer without =
        switch (consent) {
          case "consent" -> Answer.NOT_ANSWERED;
          case "notice" -> Answer.TOLD;
          default -> Answer.NOT_TOLD;
        };
    return new Recorded(seat.who(), seat.name(), since, without, null);
  }
}
