package app.uprightwarden.server.remedies;

import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.HeldMeetings;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.context.event.EventListener;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The rows of remedies: a job for what was asked at once, an item for each meeting in it. */
@Component
class RemedyJobs {
  private static final TypeReference<LinkedHashMap<String, RemedyPlan.PlanStep>> STEPS =
      new TypeReference<>() {};
  private final RemedyRepository rows;
  private final DatabaseClock database;
  private final JsonMapper json;
  private final Clock clock;

  RemedyJobs(RemedyRepository rows, DatabaseClock database, JsonMapper json, Clock clock) {
    this.rows = rows;
    this.database = database;
    this.json = json;
    this.clock = clock;
  }

  /** An item to write. */
  record NewItem(
      String meeting, String title, String occurrence, RemedyPlan plan, @Nullable Long backTo) {}

  /**
   * A job with how its items stand.
   *
   * @param states state → how many: {@code waiting}, {@code sending}, {@code confirming} where the
   *     service that holds the meeting has not yet, {@code done}, {@code refused} by the conference
   *     service, {@code overtaken} by another change, {@code gone} with the meeting, {@code
   *     given-up} after many tries
   * @param trouble why those that wait have to, or null
   * @param undoneBy the job that undoes it, or null
   */
  record RemedyJob(
      long id,
      @Worded String what,
      String by,
      Instant at,
      @Nullable Long undoOf,
      @Nullable Long undoneBy,
      int items,
      int sent,
      Map<String, Integer> states,
      @Worded @Nullable String trouble) {}

  /** An item as it stands; see {@link RemedyJob}. */
  record RemedyItem(
      long id,
      long job,
      String meeting,
      String title,
      String occurrence,
      RemedyPlan plan,
      String state,
      int attempts,
      @Nullable Instant nextTry,
      @Worded @Nullable String trouble,
      int sent,
      @Nullable Instant doneAt) {}

  /** An item to carry out, and for whom. */
  record Work(
      RemedyItem item,
      SignedIn by,
      String what,
      @Nullable Long backTo,
      @Nullable Long wasVersion) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public long create(String what, SignedIn by, @Nullable Long undoOf, List<NewItem> items) {
    RemedyJobEntity job = new RemedyJobEntity();
    job.what = what;
    job.byWhom = by.email();
    job.byName = by.name();
    job.byRole = by.role().name().toLowerCase(Locale.ROOT);
    job.byUnit = by.unit();
    job.at = clock.instant();
    job.undoOf = undoOf;
    rows.insert(job);
    Instant now = database.instant();
    rows.insert(items.stream().map(item -> entity(job.id, item, now)).toList());
    return job.id;
  }

  private RemedyItemEntity entity(long job, NewItem item, Instant now) {
    RemedyItemEntity row = new RemedyItemEntity();
    row.job = job;
    row.meeting = item.meeting();
    row.title = item.title();
    row.occurrence = item.occurrence();
    row.changes = json.writeValueAsString(item.plan().changes());
    row.newPasscode = item.plan().newPasscode();
    row.newNumber = item.plan().newNumber();
    row.backTo = item.backTo();
    row.state = "waiting";
    row.nextTry = now;
    return row;
  }

  /**
   * Takes the next item that is due, for a while: whoever took it and went silent is taken over
   * from.
   */
  @Transactional
  public Optional<Work> take(Duration lease) {
    // by the database's clock: one server's may be hours before another's
    Instant now = database.instant();
    Optional<RemedyItemEntity> next = rows.next(now);
    Optional<Work> work = next.map(this::work);
    next.ifPresent(
        row -> {
          if (!row.state.equals("confirming")) {
            row.state = "sending";
            row.attempts++;
          }
          row.nextTry = now.plus(lease);
          rows.update(row);
        });
    return work;
  }

  /** The item if it is still being sent, locked. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Optional<Work> sending(long id) {
    return rows.sending(id).map(this::work);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void done(long id, long was, long now, int sent) {
    rows.done(id, was, now, sent, clock.instant());
  }

  /** Decided; done once the service that holds the meeting has confirmed it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void confirming(long id, long was, long now, int sent, Duration look) {
    rows.confirming(id, was, now, sent, database.instant().plus(look));
  }

  @Transactional
  public void confirmed(long id) {
    rows.confirmed(id, clock.instant());
  }

  @Transactional
  public void notYet(long id, Duration look) {
    rows.notYet(id, database.instant().plus(look));
  }

  /** A service has said something of meetings: what waits for that is looked at again. */
  @EventListener
  @Transactional(propagation = Propagation.MANDATORY)
  public void look(HeldMeetings.Settled settled) {
    rows.look(settled.meetings(), database.instant());
  }

  @Transactional
  public void ended(long id, String state, String trouble) {
    rows.ended(id, state, cut(trouble), clock.instant());
  }

  @Transactional
  public void again(long id, Duration later, String trouble) {
    rows.again(id, database.instant().plus(later), cut(trouble));
  }

  private static String cut(String text) {
    return Texts.cut(text, 500);
  }

  /** Lets what was refused or given up be tried again. */
  @Transactional
  public int retry(long job) {
    // under another number: the service has answered the one before for good
    return rows.retry(job, database.instant());
  }

  @Transactional(readOnly = true)
  public List<RemedyJob> newest(int most) {
    return jobs(rows.newest(most));
  }

  /** The newest that one person applied. */
  @Transactional(readOnly = true)
  public List<RemedyJob> newestOf(String by, int most) {
    return jobs(rows.newestOf(by, most));
  }

  @Transactional(readOnly = true)
  public RemedyJob job(long id) {
    return jobs(rows.withUndo(id)).stream()
        .findFirst()
        .orElseThrow(() -> ProblemException.notFound("There is no remedy " + id + "."));
  }

  private List<RemedyJob> jobs(List<RemedyRepository.Undone> found) {
    Map<Long, RemedyJob> jobs = new LinkedHashMap<>();
    for (RemedyRepository.Undone each : found) {
      RemedyJobEntity row = each.job();
      jobs.put(
          row.id,
          new RemedyJob(
              row.id,
              row.what,
              row.byWhom,
              row.at,
              row.undoOf,
              each.undoneBy(),
              0,
              0,
              new LinkedHashMap<>(),
              null));
    }
    if (!jobs.isEmpty()) {
      count(jobs);
    }
    return List.copyOf(jobs.values());
  }

  private void count(Map<Long, RemedyJob> jobs) {
    for (RemedyRepository.Counted row : rows.counts(jobs.keySet())) {
      int items = Math.toIntExact(row.items());
      jobs.computeIfPresent(
          row.job(),
          (id, j) -> {
            j.states().put(row.state(), items);
            return new RemedyJob(
                j.id(),
                j.what(),
                j.by(),
                j.at(),
                j.undoOf(),
                j.undoneBy(),
                j.items() + items,
                j.sent() + Math.toIntExact(row.sent()),
                j.states(),
                row.trouble() == null ? j.trouble() : row.trouble());
          });
    }
  }

  @Transactional(readOnly = true)
  public List<RemedyItem> items(long job, int most) {
    return rows.items(job, most).stream().map(this::item).toList();
  }

  @Transactional(readOnly = true)
  public List<Work> doneItems(long job) {
    return rows.doneItems(job).stream().map(this::work).toList();
  }

  /** What was done to meetings lately, by whom; for the report. */
  @Transactional(readOnly = true)
  public List<RemedyItem> doneSince(Instant since, int most) {
    return rows.doneSince(since, most).stream().map(this::item).toList();
  }

  /** Which of these meetings have a remedy under way. */
  @Transactional(readOnly = true)
  public List<String> underWay(Collection<String> meetings) {
    return meetings.isEmpty() ? List.of() : rows.underWay(meetings);
  }

  private Work work(RemedyItemEntity row) {
    RemedyJobEntity job = rows.job(row.job).orElseThrow();
    return new Work(
        item(row),
        new SignedIn(
            job.byWhom,
            job.byName,
            Role.valueOf(job.byRole.toUpperCase(Locale.ROOT)),
            job.byUnit,
            false),
        job.what,
        row.backTo,
        row.wasVersion);
  }

  private RemedyItem item(RemedyItemEntity row) {
    return new RemedyItem(
        row.id,
        row.job,
        row.meeting,
        row.title,
        row.occurrence,
        new RemedyPlan(json.readValue(row.changes, STEPS), row.newPasscode, row.newNumber, true),
        row.state,
        row.attempts,
        row.nextTry,
        row.trouble,
        row.sent,
        row.doneAt);
  }
}
