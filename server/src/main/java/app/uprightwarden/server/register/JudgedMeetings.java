package app.uprightwarden.server.register;

import app.uprightwarden.core.audit.Auditor;
import app.uprightwarden.core.audit.FactsBuilder;
import app.uprightwarden.core.audit.MeetingFacts;
import app.uprightwarden.core.calendar.Occurrences;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.meeting.Occurrence;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.people.Person;
import app.uprightwarden.server.judging.Judging;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import org.jspecify.annotations.Nullable;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;

/**
 * The register's lines, each judged once: a line is made anew when its meeting changes, all of them
 * when the directory or the edition in force does, and those whose next occurrence has passed. What
 * this server changes is in the table at once, what another changes within a second or so.
 */
@Component
class JudgedMeetings {
  private static final Logger LOG = LoggerFactory.getLogger(JudgedMeetings.class);
  private static final Duration STALE = Duration.ofHours(6);

  /** How often other servers' changes are asked for. */
  private static final Duration HEARD = Duration.ofMillis(300);

  /** Changes are committed later than they are dated, and clocks differ. */
  private static final Duration OVERLAP = Duration.ofSeconds(30);

  /** How often every row is compared: it finds what another server took away. */
  private static final Duration COMPARED = Duration.ofSeconds(20);

  private static final int PAGE = 1000;

  /** A line is some 700 bytes; this many leave room in 512 MB for what else goes on. */
  private static final int MAX = 300_000;

  private final MeetingQueries reader;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final SettingsService house;
  private final MeetingRepository meetings;
  private final Clock clock;
  private final Set<String> touched = ConcurrentHashMap.newKeySet();
  private @Nullable Ground ground;
  private @Nullable State state;

  JudgedMeetings(
      MeetingQueries reader,
      RulebookService rulebook,
      OrganisationService organisation,
      SettingsService house,
      MeetingRepository meetings,
      Clock clock) {
    this.reader = reader;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.house = house;
    this.meetings = meetings;
    this.clock = clock;
  }

  /** A line, and the version of its meeting that it was made of. */
  record Known(long version, MeetingList.Line line) {}

  /** What lines are made by; its parts are no two threads' at once. */
  private record Ground(
      long directory,
      int edition,
      FactsBuilder builder,
      Auditor auditor,
      Map<String, Person> people) {
    boolean isOf(long directory, int edition) {
      return this.directory == directory && this.edition == edition;
    }
  }

  private static final class State {
    private final Ground ground;
    private final Instant madeAt;
    private final Map<String, Known> lines = new LinkedHashMap<>();
    private List<Known> all = List.of();
    private Instant heardAt;
    private Instant comparedAt = Instant.MIN;
    private int tooMany;

    State(Ground ground, Instant now) {
      this.ground = ground;
      this.madeAt = now;
      this.heardAt = now;
    }
  }

  /** Judges the register in the background, so that the first look need not wait for it. */
  @EventListener(ApplicationReadyEvent.class)
  void warmUp() {
    Thread thread =
        new Thread(
            () -> {
              try {
                current();
              } catch (RuntimeException e) {
                LOG.info("the register could not be judged ahead: {}", e.getMessage());
              }
            },
            "register-lines");
    thread.setDaemon(true);
    thread.start();
  }

  @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
  void changed(RegisterChanges.SomethingDue due) {
    touched.addAll(due.meetings());
  }

  /**
   * All lines as the register is now, in the order in which their meetings were stored.
   *
   * @throws ProblemException 409 where there are more than fit into memory
   */
  synchronized List<Known> current() {
    Instant now = clock.instant();
    Ground current = ground();
    State known = state;
    if (known == null
        || !known.ground.isOf(current.directory(), current.edition())
        || known.madeAt.isBefore(now.minus(STALE))) {
      known = new State(current, now);
      state = known;
    }
    if (known.comparedAt.isBefore(now.minus(COMPARED))) {
      compare(known, now);
    } else {
      hear(known, now);
    }
    if (known.tooMany > 0) {
      throw ProblemException.conflict(
          "too-many",
          "The register holds "
              + known.tooMany
              + " series, more than its table can list in the memory it may use ("
              + MAX
              + "). The wall of the audit has no such limit.");
    }
    return known.all;
  }

  /** The lines of some meetings, made for this: for a host, who has few among many. */
  List<Known> of(Collection<String> meetings) {
    Ground current = ground();
    Instant now = clock.instant();
    List<String> ids = List.copyOf(meetings);
    List<Known> lines = new ArrayList<>();
    for (int i = 0; i < ids.size(); i += PAGE) {
      List<StoredMeeting> some = reader.among(ids.subList(i, Math.min(i + PAGE, ids.size())));
      synchronized (current) {
        some.forEach(stored -> lines.add(known(stored, current, now)));
      }
    }
    return lines;
  }

  private synchronized Ground ground() {
    long directory = house.directoryRevision();
    int edition = rulebook.inForce().number();
    Ground known = ground;
    if (known == null || !known.isOf(directory, edition)) {
      var all = organisation.organisation();
      List<Person> people = organisation.people();
      Map<String, Person> byAddress = new HashMap<>();
      people.forEach(person -> byAddress.put(Directory.fold(person.email()), person));
      known =
          new Ground(
              directory,
              edition,
              Judging.builder(all, organisation.directory(), rulebook.rulebook(rulebook.inForce())),
              new Auditor(),
              byAddress);
      ground = known;
    }
    return known;
  }

  /** Compares every row's version with its line's. */
  private void compare(State known, Instant now) {
    touched.clear(); // before it is read: what is touched meanwhile is looked at again
    List<String> stale = new ArrayList<>();
    Set<String> seen = new HashSet<>();
    for (MeetingRepository.IdVersion row : meetings.versions(MAX + 1)) {
      Known line = known.lines.get(row.publicId());
      seen.add(row.publicId());
      if (line == null || line.version() != row.version() || hasPassed(line.line(), now)) {
        stale.add(row.publicId());
      }
    }
    known.comparedAt = now;
    known.heardAt = now;
    if (seen.size() > MAX) {
      known.tooMany = Math.toIntExact(meetings.count());
      known.lines.clear();
      known.all = List.of();
      return;
    }
    known.tooMany = 0;
    boolean isFewer = known.lines.keySet().retainAll(seen);
    make(known, stale, now);
    if (isFewer || !stale.isEmpty()) {
      known.all = List.copyOf(known.lines.values());
    }
  }

  /** Takes in what this server changed, and what others did since they were last asked. */
  private void hear(State known, Instant now) {
    Set<String> changed = new LinkedHashSet<>(touched);
    touched.removeAll(changed);
    if (known.tooMany > 0) {
      return;
    }
    if (known.heardAt.isBefore(now.minus(HEARD))) {
      Instant since = known.heardAt.minus(OVERLAP);
      known.heardAt = now;
      for (MeetingRepository.IdVersion row : meetings.versionsSince(since)) {
        Known line = known.lines.get(row.publicId());
        if (line == null || line.version() != row.version()) {
          changed.add(row.publicId());
        }
      }
    }
    if (!changed.isEmpty()) {
      Set<String> gone = new HashSet<>(changed);
      gone.removeAll(make(known, List.copyOf(changed), now));
      known.lines.keySet().removeAll(gone);
      known.all = List.copyOf(known.lines.values());
    }
  }

  /** Makes the lines of some meetings, and says of which there are any. */
  private Set<String> make(State known, List<String> ids, Instant now) {
    Set<String> made = new HashSet<>();
    for (int i = 0; i < ids.size(); i += PAGE) {
      List<StoredMeeting> some = reader.among(ids.subList(i, Math.min(i + PAGE, ids.size())));
      synchronized (known.ground) {
        for (StoredMeeting stored : some) {
          known.lines.put(stored.meeting().id(), known(stored, known.ground, now));
          made.add(stored.meeting().id());
        }
      }
    }
    return made;
  }

  private static boolean hasPassed(MeetingList.Line line, Instant now) {
    return line.next() != null
        && line.next().plus(Duration.ofMinutes(line.minutes())).isBefore(now);
  }

  private static Known known(StoredMeeting stored, Ground ground, Instant now) {
    return new Known(stored.version(), line(stored, ground, now));
  }

  private static MeetingList.Line line(StoredMeeting stored, Ground ground, Instant now) {
    Meeting meeting = stored.meeting();
    MeetingFacts facts = ground.builder().build(meeting);
    int[] found = new int[2];
    ground
        .auditor()
        .audit(
            facts,
            (of, occurrence, detail) -> {
              found[0]++;
              found[1] = Math.max(found[1], detail.severity());
            });
    List<Occurrence> coming = coming(meeting, now);
    Person host = ground.people().get(Directory.fold(meeting.host()));
    var exposure = ground.auditor().judge(facts).basis().exposure();
    return new MeetingList.Line(
        meeting.id(),
        meeting.title(),
        meeting.kind(),
        host == null ? null : host.unit(),
        meeting.host(),
        host == null ? meeting.host() : host.name(),
        meeting.start().toString(),
        meeting.zone().getId(),
        meeting.minutes(),
        meeting.recurrence(),
        coming.isEmpty() ? null : coming.get(0).start(),
        coming.size(),
        exposure.score(),
        exposure.band().id(),
        found[0],
        found[1],
        facts.invited(),
        stored.details().room(),
        stored.changedBy(),
        stored.changedAt());
  }

  /** One rule that cannot be expanded must not take the whole register away. */
  private static List<Occurrence> coming(Meeting meeting, Instant now) {
    try {
      return Occurrences.between(meeting, now, now.plus(MeetingList.WINDOW));
    } catch (IllegalArgumentException e) {
      return List.of();
    }
  }
}
