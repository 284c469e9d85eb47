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
import app.uprightwarden.server.people.HouseService;
import app.uprightwarden.server.people.OrganisationService;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.rulebook.RulebookService;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.boot.context.event.ApplicationReadyEvent;
import org.springframework.context.event.EventListener;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/**
 * The register's lines, each judged once: a line is made anew when its meeting changes, all of them
 * when the directory or the edition in force does, and those whose next occurrence has passed.
 */
@Component
class BoardLines {
  private static final Logger LOG = LoggerFactory.getLogger(BoardLines.class);
  private static final Duration STALE = Duration.ofHours(6);
  private static final int PAGE = 1000;

  /** A line is some 700 bytes; this many leave room in 512 MB for what else goes on. */
  private static final int MOST = 300_000;

  private final MeetingReader reader;
  private final RulebookService rulebook;
  private final OrganisationService organisation;
  private final HouseService house;
  private final JdbcClient jdbc;
  private final Clock clock;
  private State state = new State(-1, -1, Instant.EPOCH, new LinkedHashMap<>());

  BoardLines(
      MeetingReader reader,
      RulebookService rulebook,
      OrganisationService organisation,
      HouseService house,
      JdbcClient jdbc,
      Clock clock) {
    this.reader = reader;
    this.rulebook = rulebook;
    this.organisation = organisation;
    this.house = house;
    this.jdbc = jdbc;
    this.clock = clock;
  }

  /**
   * A line with what finding it needs.
   *
   * @param hosts folded addresses of its host and co-hosts
   */
  record Known(long version, MeetingBoard.Line line, List<String> hosts) {}

  private record State(long directory, int edition, Instant madeAt, Map<Long, Known> lines) {}

  private record Ground(
      FactsBuilder builder, Auditor auditor, Map<String, Person> people, Instant now) {}

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

  /** All lines as the register is now, in the order in which their meetings were stored. */
  synchronized Collection<Known> current() {
    Instant now = clock.instant();
    int all = jdbc.sql("select count(*) from meeting").query(Integer.class).single();
    if (all > MOST) {
      state = new State(-1, -1, Instant.EPOCH, new LinkedHashMap<>());
      throw ProblemException.conflict(
          "too-many",
          "The register holds "
              + all
              + " series, more than its table can list in the memory it may use ("
              + MOST
              + "). The wall of the audit has no such limit.");
    }
    long revision = house.directoryRevision();
    int edition = rulebook.inForce().number();
    if (state.directory() != revision
        || state.edition() != edition
        || state.madeAt().isBefore(now.minus(STALE))) {
      state = new State(revision, edition, now, new LinkedHashMap<>());
    }
    List<Long> stale = stale(now);
    if (!stale.isEmpty()) {
      Ground ground = ground(now);
      for (int i = 0; i < stale.size(); i += PAGE) {
        for (Stored stored : reader.rows(stale.subList(i, Math.min(i + PAGE, stale.size())))) {
          state.lines().put(stored.row(), known(stored, ground));
        }
      }
    }
    return List.copyOf(state.lines().values());
  }

  /** The rows whose line is not there, or no longer right; lines of rows that are gone go. */
  private List<Long> stale(Instant now) {
    List<Long> stale = new ArrayList<>();
    Map<Long, Known> before = new HashMap<>(state.lines());
    jdbc.sql("select id, version from meeting order by id")
        .query(
            (RowCallbackHandler)
                row -> {
                  Known known = before.remove(row.getLong(1));
                  if (known == null
                      || known.version() != row.getLong(2)
                      || hasPassed(known.line(), now)) {
                    stale.add(row.getLong(1));
                  }
                });
    before.keySet().forEach(state.lines()::remove);
    return stale;
  }

  private static boolean hasPassed(MeetingBoard.Line line, Instant now) {
    return line.next() != null
        && line.next().plus(Duration.ofMinutes(line.minutes())).isBefore(now);
  }

  private Ground ground(Instant now) {
    var all = organisation.organisation();
    List<Person> people = organisation.people();
    Map<String, Person> byAddress = new HashMap<>();
    people.forEach(person -> byAddress.put(Directory.fold(person.email()), person));
    return new Ground(
        Judging.builder(all, people, rulebook.rulebook(rulebook.inForce())),
        new Auditor(),
        byAddress,
        now);
  }

  private static Known known(Stored stored, Ground ground) {
    Meeting meeting = stored.meeting();
    List<String> hosts = new ArrayList<>(List.of(Directory.fold(meeting.host())));
    meeting.coHosts().forEach(email -> hosts.add(Directory.fold(email)));
    return new Known(stored.version(), line(stored, ground), List.copyOf(hosts));
  }

  private static MeetingBoard.Line line(Stored stored, Ground ground) {
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
    List<Occurrence> coming = coming(meeting, ground.now());
    Person host = ground.people().get(Directory.fold(meeting.host()));
    var exposure = ground.auditor().judge(facts).basis().exposure();
    return new MeetingBoard.Line(
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
      return Occurrences.between(meeting, now, now.plus(MeetingBoard.WINDOW));
    } catch (IllegalArgumentException e) {
      return List.of();
    }
  }
}
