package app.uprightwarden.server.exchange;

import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.server.problem.Fault;
import app.uprightwarden.server.register.Details;
import app.uprightwarden.server.register.MeetingLimits;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.Scheduled;
import app.uprightwarden.server.register.StoredMeeting;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Collectors;
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
    Scheduled with(Scheduled given, @Nullable StoredMeeting before);
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
    Map<String, String> names = new HashMap<>();
    for (int i = 0; i < given.size(); i += CHUNK) {
      // each is read here, once
      List<Candidate> some = List.copyOf(given.subList(i, Math.min(i + CHUNK, given.size())));
      Map<String, StoredMeeting> known = register.among(some.stream().map(Candidate::id).toList());
      Portion portion = new Portion(known, seen, names, named(some), new LinkedHashMap<>());
      int done = i;
      for (Candidate candidate : some) {
        take(candidate, portion, run);
        run.job().progress().done().accept(++done);
      }
      write(portion, run);
    }
  }

  /**
   * What is taken together.
   *
   * @param known what is stored of it
   * @param seen ids that were in the file
   * @param names names in calendars that the file has given, and to which meeting
   * @param named names in calendars that are stored, and whose they are
   * @param toPut what is to be written, by id
   */
  private record Portion(
      Map<String, StoredMeeting> known,
      Set<String> seen,
      Map<String, String> names,
      Map<String, Set<String>> named,
      Map<String, Scheduled> toPut) {
    boolean isOthers(String id, String uid) {
      String inFile = names.get(uid);
      return inFile != null && !inFile.equals(id)
          || named.getOrDefault(uid, Set.of()).stream().anyMatch(other -> !other.equals(id));
    }
  }

  private Map<String, Set<String>> named(List<Candidate> some) {
    return register.ownersOf(
        some.stream()
            .map(Candidate::meeting)
            .filter(Objects::nonNull)
            .map(scheduled -> scheduled.details().uid())
            .filter(Objects::nonNull)
            .collect(Collectors.toSet()));
  }

  private void write(Portion portion, ImportRun run) {
    if (portion.toPut().isEmpty()) {
      return;
    }
    Map<String, StoredMeeting> stored =
        register.putAll(List.copyOf(portion.toPut().values()), "imported", run.job().by());
    if (run.batch() != null) {
      List<StoredMeeting> put =
          portion.toPut().keySet().stream()
              .map(id -> Objects.requireNonNull(stored.get(id)))
              .toList();
      Set<String> fresh = new HashSet<>(portion.toPut().keySet());
      fresh.removeAll(portion.known().keySet());
      batches.meetings(run.batch(), run.nextItems(put.size()), put, fresh);
    }
  }

  private void take(Candidate candidate, Portion portion, ImportRun run) {
    StoredMeeting before = portion.known().get(candidate.id());
    if (candidate.meeting() == null) {
      run.tally().refuse("meetings", candidate.id(), candidate.place());
      return;
    }
    if (!portion.seen().add(candidate.id())) {
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
        && portion.isOthers(candidate.id(), uid)) {
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
    if (uid != null) {
      portion.names().put(uid, candidate.id());
    }
    if (!same && !run.job().dryRun()) {
      portion.toPut().put(candidate.id(), scheduled);
    }
  }

  private void cancel(Candidate candidate, @Nullable StoredMeeting before, ImportRun run) {
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
  private Scheduled withStoredPasscode(Scheduled given, @Nullable StoredMeeting before) {
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
  static Details detailsOf(@Nullable StoredMeeting before) {
    return before == null ? Details.NONE : before.details();
  }
}
