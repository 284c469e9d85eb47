package app.uprightwarden.server.floor;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.session.Recording;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import app.uprightwarden.server.retention.RetentionService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;

/** The recordings of a session, its roll, and how long what is known of it is kept. */
@Service
class FloorRecords {
  /** So many people are named, of all recordings together; {@code people} counts all of each. */
  private static final int MAX_NAMED = 5_000;

  private final FloorHoldRepository holds;
  private final FloorRepository sessions;
  private final FloorRoster roster;
  private final RegisterService register;
  private final RetentionService retention;
  private final Ledger ledger;
  private final Clock clock;

  FloorRecords(
      FloorHoldRepository holds,
      FloorRepository sessions,
      FloorRoster roster,
      RegisterService register,
      RetentionService retention,
      Ledger ledger,
      Clock clock) {
    this.holds = holds;
    this.sessions = sessions;
    this.roster = roster;
    this.register = register;
    this.retention = retention;
    this.ledger = ledger;
    this.clock = clock;
  }

  /**
   * Somebody who was recorded; see the core's {@code Recording}.
   *
   * @param answer {@code not-told}, {@code told}, {@code given}, {@code declined} or {@code
   *     not-answered}
   */
  record RecordedPerson(
      String who, String name, Instant since, String answer, @Nullable Instant at) {}

  /**
   * A recording.
   *
   * @param by the name of who made it
   * @param to null while it runs
   * @param end {@code running}, {@code stopped}, {@code replaced}, {@code left} or {@code
   *     session-ended}
   * @param endedBy the name of who ended it, where the service says so
   * @param seconds how long it is by the session's clock
   * @param consent what the meeting asked of those recorded when it began
   * @param store where it is kept
   * @param people how many were recorded; of these the first are named
   */
  record RecordingLine(
      int number,
      String by,
      Instant from,
      @Nullable Instant to,
      String end,
      @Nullable String endedBy,
      long seconds,
      String consent,
      String store,
      int people,
      List<RecordedPerson> recorded) {}

  /** That what is known of a session is held. */
  record Hold(String reason, String by, Instant at) {}

  /**
   * How long what is known of who was there is kept.
   *
   * @param until null for ever, or while it is held
   */
  record KeptUntil(@Nullable Instant until, @Nullable Hold hold) {}

  /** The recordings of a session, in the order in which they were begun. */
  List<RecordingLine> recordings(FloorSession session, SessionBook book) {
    Instant until = session.clock(clock.instant());
    List<RecordingLine> lines = new ArrayList<>();
    int named = 0;
    for (Recording each : book.recordings()) {
      RecordingLine line = line(each, book, until, MAX_NAMED - named);
      named += line.recorded().size();
      lines.add(line);
    }
    return lines;
  }

  private static RecordingLine line(
      Recording recording, SessionBook book, Instant until, int most) {
    List<Recording.Recorded> people = recording.people(book, until);
    String endedBy = recording.endedBy();
    return new RecordingLine(
        recording.number(),
        name(recording.who(), book),
        recording.from(),
        recording.to(),
        recording.end().id(),
        endedBy == null ? null : name(endedBy, book),
        recording.length(until).toSeconds(),
        recording.consent(),
        recording.store(),
        people.size(),
        people.stream()
            .limit(most)
            .map(
                each ->
                    new RecordedPerson(
                        each.who(), each.name(), each.since(), each.answer().id(), each.at()))
            .toList());
  }

  private static String name(String who, SessionBook book) {
    Seat seat = book.seat(who);
    return seat == null ? who : seat.name();
  }

  /** Who was not there, of those whom its meeting asks now. Nobody where its people are let go. */
  FloorRoster.Roll roll(FloorSession session, SessionBook book) {
    Meeting meeting = register.find(session.meeting()).map(StoredMeeting::meeting).orElse(null);
    if (meeting == null || session.folded() == 0) {
      return FloorRoster.Roll.NONE;
    }
    return roster.roll(
        meeting,
        book.seats().stream()
            .filter(seat -> !seat.stays().isEmpty())
            .map(Seat::address)
            .filter(Objects::nonNull)
            .toList());
  }

  KeptUntil kept(FloorSession session) {
    Hold hold = hold(session.id());
    Integer days =
        retention.rules().stream()
            .filter(rule -> rule.what().equals("session-people"))
            .findFirst()
            .map(RetentionService.RetentionRule::days)
            .orElse(null);
    return new KeptUntil(
        hold != null || days == null ? null : session.ends().plus(Duration.ofDays(days)), hold);
  }

  private @Nullable Hold hold(String session) {
    return holds.find(session).map(row -> new Hold(row.reason, row.byWhom, row.at)).orElse(null);
  }

  /**
   * Holds what is known of a session: nothing of it is let go until it is released.
   *
   * @throws ProblemException 409 where it is held already, or who was there is let go already
   */
  @Transactional
  public KeptUntil hold(FloorSession session, String reason, SignedIn by) {
    // under the lock that retention takes: what is said to be held is there
    boolean isThere =
        sessions.forChange(List.of(session.id())).stream()
            .anyMatch(row -> row.folded > 0 || !List.of("ended", "lost").contains(row.state));
    if (!isThere) {
      throw ProblemException.conflict(
          "let-go", "Who was there was kept long enough and is gone: nothing is left to hold.");
    }
    if (hold(session.id()) != null) {
      throw ProblemException.conflict("held-already", "It is held already.");
    }
    FloorHoldEntity row = new FloorHoldEntity();
    row.session = session.id();
    row.reason = reason.strip();
    row.byWhom = by.email();
    row.at = clock.instant();
    holds.insert(row);
    ledger.changed(
        "session",
        session.id(),
        session.title(),
        null,
        () -> Map.of("held", reason.strip()),
        by.email());
    return kept(session);
  }

  /** Lets retention have a session again. */
  @Transactional
  public KeptUntil release(FloorSession session, SignedIn by) {
    Hold hold = hold(session.id());
    if (hold != null && holds.release(session.id()) > 0) {
      ledger.changed(
          "session",
          session.id(),
          session.title(),
          () -> Map.of("held", hold.reason()),
          null,
          by.email());
    }
    return kept(session);
  }
}
