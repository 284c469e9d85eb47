package app.uprightwarden.server.jobs;

import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import java.time.Instant;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Work to be done in the background: given here, and looked after where it fails. */
@Service
public class Jobs {
  /** When something is done that failed for good: never by itself. */
  static final Instant NEVER = Instant.parse("9999-01-01T00:00:00Z");

  private static final int AT_ONCE = 1000;
  private static final int MAX_SHOWN = 200;

  private final JobRepository rows;
  private final ObjectProvider<JobKind> kinds;
  private final ObjectProvider<RecurringJob> recurring;
  private final DatabaseClock clock;
  private final ApplicationEventPublisher events;

  Jobs(
      JobRepository rows,
      ObjectProvider<JobKind> kinds,
      ObjectProvider<RecurringJob> recurring,
      DatabaseClock clock,
      ApplicationEventPublisher events) {
    this.rows = rows;
    this.kinds = kinds;
    this.recurring = recurring;
    this.clock = clock;
    this.events = events;
  }

  /** Said when there is something to do in a lane; whoever does it need not wait to look. */
  record Given(JobKind.Lane lane) {}

  /** Work that was tried in vain, by what it is called. */
  public record JobInTrouble(
      String kind,
      String item,
      @Worded String title,
      boolean failed,
      int tries,
      @Worded String reason,
      @Nullable Instant triedAt,
      @Nullable Instant next) {}

  /** Gives one item to be done, in the caller's transaction. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void give(String kind, long item) {
    give(kind, List.of(Long.toString(item)));
  }

  /** Gives items to be done, in the caller's transaction; one that waits already waits on. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void give(String kind, Collection<String> items) {
    if (items.isEmpty()) {
      return;
    }
    JobKind of = kind(kind);
    Instant now = clock.instant();
    List<String> all = List.copyOf(items);
    for (int i = 0; i < all.size(); i += AT_ONCE) {
      List<String> some = all.subList(i, Math.min(i + AT_ONCE, all.size()));
      Set<String> present = new HashSet<>(rows.present(kind, some));
      some.stream()
          .filter(item -> !present.contains(item))
          .forEach(item -> rows.give(kind, item, now, of.lane().id()));
    }
    events.publishEvent(new Given(of.lane()));
  }

  /** Has an item that waits for its time done at once. One under way goes on as it would. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void soon(String kind, long item) {
    if (rows.soon(kind, Long.toString(item), clock.instant()) > 0) {
      events.publishEvent(new Given(kind(kind).lane()));
    }
  }

  private JobKind kind(String name) {
    return kinds.stream()
        .filter(kind -> kind.name().equals(name))
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("no work is called " + name));
  }

  /** What was tried in vain: what failed for good first, then what is tried next last. */
  @Transactional(readOnly = true)
  public List<JobInTrouble> inTrouble() {
    Map<String, String> titles = new LinkedHashMap<>();
    recurring.forEach(job -> titles.put(job.name(), job.title()));
    Map<String, JobKind> known = new LinkedHashMap<>();
    kinds.forEach(kind -> known.put(kind.name(), kind));
    return rows.inTrouble(MAX_SHOWN).stream()
        .map(
            row -> {
              JobKind kind = known.get(row.kind);
              String title =
                  kind == null
                      ? titles.getOrDefault(row.kind, row.kind)
                      : kind.title() + ": " + Texts.cut(kind.item().apply(row.item), 120);
              boolean failed = !row.executionTime.isBefore(NEVER);
              return new JobInTrouble(
                  row.kind,
                  row.item,
                  title,
                  failed,
                  row.tries,
                  row.trouble == null ? "" : row.trouble,
                  row.lastFailure,
                  failed ? null : row.executionTime);
            })
        .toList();
  }

  /** How many items were tried in vain; {@link #inTrouble} shows the first 200. */
  @Transactional(readOnly = true)
  public long countInTrouble() {
    return rows.countInTrouble();
  }

  long countFailed() {
    return rows.countFailed(NEVER);
  }

  /**
   * Has an item tried again at once.
   *
   * @throws ProblemException 409 where it is under way, or done meanwhile
   */
  @Transactional
  public void again(String kind, String item) {
    if (rows.again(kind, item, clock.instant()) == 0) {
      throw ProblemException.conflict(
          "not-in-trouble", "This is being done, or was done meanwhile. Look again.");
    }
    kinds.stream()
        .filter(of -> of.name().equals(kind))
        .forEach(
            of -> {
              of.whenTriedAgain().accept(item);
              events.publishEvent(new Given(of.lane()));
            });
  }

  /**
   * Gives an item up that failed.
   *
   * @throws ProblemException 409 where it did not, or is tried again
   */
  @Transactional
  public void letBe(String kind, String item) {
    if (rows.letBe(kind, item, NEVER) == 0) {
      throw ProblemException.conflict(
          "not-failed", "This has not failed, or is being tried again. Look again.");
    }
  }
}
