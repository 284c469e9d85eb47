package app.uprightwarden.server.exchange;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingLimits;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.Stored;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** The part of an import that is about meetings, whatever they were written in. */
@Component
class MeetingImport {
  private static final int CHUNK = 500;

  private final RegisterService register;
  private final ImportBatches batches;

  MeetingImport(RegisterService register, ImportBatches batches) {
    this.register = register;
    this.batches = batches;
  }

  /** How what is stored and what the document leaves open become one. */
  @FunctionalInterface
  interface Merge {
    Scheduled with(Scheduled given, @Nullable Stored before);
  }

  static final Merge AS_GIVEN = (given, before) -> given;

  /**
   * A meeting as read.
   *
   * @param meeting null where it was refused, as the place's remarks say
   * @param merge for formats that cannot say everything
   * @param isCancelled whether it is cancelled, as it is stored
   */
  record Candidate(
      String id,
      @Nullable Scheduled meeting,
      ImportTally.Place place,
      Merge merge,
      boolean isCancelled) {
    Candidate(String id, @Nullable Scheduled meeting, ImportTally.Place place, Merge merge) {
      this(id, meeting, place, merge, false);
    }

    /** One that is cancelled where it came from. */
    static Candidate cancelled(Scheduled meeting, ImportTally.Place place) {
      return new Candidate(meeting.meeting().id(), meeting, place, AS_GIVEN, true);
    }

    static Candidate of(Scheduled scheduled) {
      return new Candidate(
          scheduled.meeting().id(), scheduled, ImportTally.Place.UNKNOWN, AS_GIVEN);
    }

    static Candidate refused(String id, ImportTally.Place place) {
      return new Candidate(id, null, place, AS_GIVEN);
    }
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void take(List<Candidate> given, ImportRun run) {
    run.job().progress().of(given.size());
    Set<String> seen = new HashSet<>();
    for (int i = 0; i < given.size(); i += CHUNK) {
      List<Candidate> some = given.subList(i, Math.min(i + CHUNK, given.size()));
      Map<String, Stored> known = register.among(some.stream().map(Candidate::id).toList());
      int done = i;
      for (Candidate candidate : some) {
        take(candidate, known.get(candidate.id()), seen, run);
        run.job().progress().done().accept(++done);
      }
    }
  }

  private void take(Candidate candidate, @Nullable Stored before, Set<String> seen, ImportRun run) {
    if (candidate.meeting() == null) {
      run.tally().refuse("meetings", candidate.id(), candidate.place());
      return;
    }
    if (!seen.add(candidate.id())) {
      ImportTally.Place place = candidate.place();
      run.tally()
          .refuse(
              "meetings",
              candidate.id(),
              new ImportTally.Place(
                  place.title(),
                  place.line(),
                  List.of("the same meeting came before; that one is taken")));
      return;
    }
    if (candidate.isCancelled()) {
      cancel(candidate, before, run);
      return;
    }
    Scheduled merged = candidate.merge().with(candidate.meeting(), before);
    List<Fault> beyond = MeetingLimits.faults(merged.meeting(), merged.details());
    if (!beyond.isEmpty()) {
      ImportTally.Place place = candidate.place();
      run.tally()
          .refuse(
              "meetings",
              candidate.id(),
              new ImportTally.Place(
                  place.title(),
                  place.line(),
                  beyond.stream().map(f -> f.pointer().substring(1) + " " + f.message()).toList()));
      return;
    }
    String uid = merged.details().uid();
    if (uid != null
        && (before == null || !uid.equals(before.details().uid()))
        && register.isOthers(candidate.id(), uid)) {
      ImportTally.Place place = candidate.place();
      run.tally()
          .refuse(
              "meetings",
              candidate.id(),
              new ImportTally.Place(
                  place.title(),
                  place.line(),
                  List.of("another meeting here has its name in calendars (UID) already")));
      return;
    }
    Scheduled scheduled = withStoredPasscode(merged, before);
    // passcodes compare by their fingerprint, which is part of the meeting
    boolean same =
        before != null
            && before.meeting().equals(scheduled.meeting())
            && before.details().withoutStamp().equals(scheduled.details().withoutStamp());
    run.tally().count("meetings", candidate.id(), before == null, same, candidate.place());
    if (!same && !run.job().dryRun()) {
      long version = register.put(scheduled, "imported", run.job().by());
      if (run.batch() != null) {
        batches.meeting(
            Objects.requireNonNull(run.batch()),
            run.nextItem(),
            candidate.id(),
            before == null,
            version);
      }
    }
  }

  private void cancel(Candidate candidate, @Nullable Stored before, ImportRun run) {
    if (before == null) {
      return; // it was cancelled in this moment
    }
    ImportTally.Place place = candidate.place();
    run.tally()
        .count(
            "meetings",
            candidate.id(),
            false,
            false,
            new ImportTally.Place(
                place.title(),
                place.line(),
                List.of("it is cancelled: it goes from the register")));
    if (!run.job().dryRun()) {
      register.cancel(candidate.id(), "it was cancelled where it came from", run.job().by());
      if (run.batch() != null) {
        batches.cancelled(Objects.requireNonNull(run.batch()), run.nextItem(), candidate.id());
      }
    }
  }

  /** What was given out without passcodes must not wipe them when it comes back. */
  private Scheduled withStoredPasscode(Scheduled given, @Nullable Stored before) {
    if (!given.passcodeLeftOut() || before == null || before.meeting().passcode() == null) {
      return given;
    }
    Meeting meeting = given.meeting();
    String passcode = register.passcode(meeting.id());
    if (passcode == null) {
      return given;
    }
    return new Scheduled(
        meeting.withPasscode(
            register.judge(passcode, meeting.title(), meeting.description(), meeting.host())),
        given.details(),
        passcode);
  }

  /** Details of a format that does not carry them. */
  static Details detailsOf(@Nullable Stored before) {
    return before == null ? Details.NONE : before.details();
  }
}
