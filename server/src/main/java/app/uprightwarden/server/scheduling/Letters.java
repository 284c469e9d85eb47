package app.uprightwarden.server.scheduling;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.jobs.JobKind;
import app.uprightwarden.server.jobs.Jobs;
import app.uprightwarden.server.outbox.OutboxService;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.register.MeetingDocument;
import app.uprightwarden.server.register.MeetingJsonParser;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Writes to those concerned by a meeting: to a few at once, in the transaction that saves it; to
 * many some at a time afterwards, so that nobody waits for a thousand letters. What is still to be
 * written is kept with the meeting as it was, goes on after an interruption, and is written once.
 */
@Component
class Letters {
  /** People that one meeting writes to; lists reach more than are named. */
  static final int MAX = 2000;

  private static final int AT_ONCE = 25;

  /** What the work is called. */
  static final String JOB = "letters";

  static final JobKind.Retries RETRIES =
      new JobKind.Retries(8, Duration.ofSeconds(10), Duration.ofHours(1));

  /** How soon a meeting is looked at again that a service is making. */
  private static final Duration WAIT = Duration.ofSeconds(2);

  private final Invitations invitations;
  private final MeetingHome home;
  private final Answers answers;
  private final OutboxService outbox;
  private final OrganisationService organisation;
  private final RegisterService register;
  private final LetterRoundRepository rounds;
  private final Jobs jobs;
  private final TransactionTemplate transaction;
  private final JsonMapper json;

  Letters(
      Invitations invitations,
      MeetingHome home,
      Answers answers,
      OutboxService outbox,
      OrganisationService organisation,
      RegisterService register,
      LetterRoundRepository rounds,
      Jobs jobs,
      TransactionTemplate transaction,
      JsonMapper json) {
    this.invitations = invitations;
    this.home = home;
    this.answers = answers;
    this.outbox = outbox;
    this.organisation = organisation;
    this.register = register;
    this.rounds = rounds;
    this.transaction = transaction;
    this.json = json;
    this.jobs = jobs;
  }

  /**
   * What a round of letters says.
   *
   * @param asksAnew whether those who have answered are asked again
   * @param changes what was changed, a line each
   */
  record Round(
      Scheduled meeting,
      Invitations.Sort sort,
      @Nullable String word,
      boolean asksAnew,
      String by,
      List<String> changes) {
    Round(
        Scheduled meeting,
        Invitations.Sort sort,
        @Nullable String word,
        boolean asksAnew,
        String by) {
      this(meeting, sort, word, asksAnew, by, List.of());
    }

    boolean isOver() {
      return sort == Invitations.Sort.CANCELLED || sort == Invitations.Sort.WITHDRAWN;
    }
  }

  /**
   * Writes letters; where a conference service still has to make the meeting, once it has: until
   * then nobody knows where to join.
   *
   * @return how many are written, or will be
   * @throws ProblemException 422 where they are too many
   */
  @Transactional(propagation = Propagation.MANDATORY)
  public int write(Round round, List<Recipients.Recipient> to) {
    if (to.size() > MAX) {
      throw ProblemException.invalid(
          "That would be "
              + to.size()
              + " letters; "
              + MAX
              + " are the most from one meeting. Save it without sending. Nothing was saved.",
          List.of(new Fault("/send", "reaches more than " + MAX + " people")));
    }
    boolean waits = !round.isOver() && home.isBeingMade(round.meeting().meeting().id());
    if (to.isEmpty() || to.size() <= AT_ONCE && !waits) {
      return now(round, to);
    }
    Scheduled plain = new Scheduled(round.meeting().meeting(), round.meeting().details(), null);
    LetterRoundEntity row = new LetterRoundEntity();
    row.meeting = plain.meeting().id();
    row.sort = round.sort().name();
    row.word = round.word() == null ? null : Texts.cut(round.word(), 2000);
    row.document = json.writeValueAsString(MeetingDocument.of(plain));
    row.recipients = json.writeValueAsString(to);
    row.sequence = plain.details().sequence();
    row.asksAnew = round.asksAnew();
    row.writtenBy = round.by();
    row.changes = Texts.cut(String.join("\n", round.changes()), 20_000);
    rounds.insert(row);
    jobs.give(JOB, row.id);
    return to.size();
  }

  private int now(Round round, List<Recipients.Recipient> to) {
    Invitations.Ground ground = invitations.ground(round.meeting(), null);
    int written =
        outbox.write(
            () ->
                to.stream()
                    .map(
                        r ->
                            invitations.letter(
                                round.meeting(),
                                r,
                                round.sort(),
                                round.word(),
                                round.changes(),
                                ground))
                    .iterator(),
            round.by());
    Meeting meeting = round.meeting().meeting();
    int sequence = round.meeting().details().sequence();
    for (Recipients.Recipient each : to) {
      if (round.isOver()) {
        answers.cancelled(meeting.id(), each.email(), sequence);
      } else {
        answers.sent(meeting.id(), each.email(), sequence, round.asksAnew());
      }
    }
    return written;
  }

  /**
   * Writes what is to be written of a round, one transaction after the other; stopped anywhere, it
   * goes on there.
   */
  void writeAll(String id) {
    long round = Long.parseLong(id);
    while (Boolean.TRUE.equals(transaction.execute(status -> some(round)))) {
      if (Thread.currentThread().isInterrupted()) {
        throw JobKind.Later.goingOn(Duration.ZERO);
      }
    }
  }

  /** Whether there is more. */
  private boolean some(long id) {
    LetterRoundEntity kept = rounds.locked(id).orElse(null);
    if (kept == null) {
      return false;
    }
    List<Recipients.Recipient> all =
        Arrays.asList(json.readValue(kept.recipients, Recipients.Recipient[].class));
    int end = Math.min(all.size(), kept.nextOne + AT_ONCE);
    Round round = round(kept);
    if (round != null && !round.isOver() && home.isBeingMade(kept.meeting)) {
      throw new JobKind.Later(WAIT);
    }
    if (round != null) {
      now(round, all.subList(kept.nextOne, end));
    }
    if (round == null || end == all.size()) {
      rounds.delete(kept);
      return false;
    }
    kept.nextOne = end;
    rounds.update(kept);
    return true;
  }

  /** What the letters say; null where the meeting was cancelled meanwhile, which was said then. */
  private @Nullable Round round(LetterRoundEntity kept) {
    Invitations.Sort sort = Invitations.Sort.valueOf(kept.sort);
    StoredMeeting stored = register.find(kept.meeting).orElse(null);
    boolean isThere = stored != null;
    if (sort != Invitations.Sort.CANCELLED && !isThere) {
      return null;
    }
    List<Fault> faults = new ArrayList<>();
    Scheduled read =
        new MeetingJsonParser(
                faults,
                MeetingJsonParser.Known.of(organisation.organisation()),
                (p, t, d, h) -> register.judge(p, t, d, h))
            .read(json.readTree(kept.document), "");
    if (read == null) {
      throw new IllegalStateException("the meeting cannot be read as it was: " + faults);
    }
    String passcode = isThere ? register.passcode(kept.meeting) : null;
    // a number that a service has given meanwhile is the one to call
    Meeting meeting =
        stored == null || stored.service() == null
            ? read.meeting()
            : read.meeting().withNumber(stored.meeting().number());
    Meeting whole =
        passcode == null
            ? meeting
            : meeting.withPasscode(
                register.judge(passcode, meeting.title(), meeting.description(), meeting.host()));
    return new Round(
        new Scheduled(whole, read.details(), passcode),
        sort,
        kept.word,
        kept.asksAnew,
        kept.writtenBy,
        kept.changes == null || kept.changes.isBlank()
            ? List.of()
            : List.of(kept.changes.split("\n")));
  }
}
