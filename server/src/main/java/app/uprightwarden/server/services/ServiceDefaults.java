package app.uprightwarden.server.services;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.ResolvedRulebook;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.rulebook.RulebookReader;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.schema.Plain;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/**
 * The rulebook's defaults and limits as a service's own defaults and locks, as far as it can hold
 * them. They are what the organisation's layer says to everybody: a service knows nothing of units
 * and kinds. A new edition is written by itself; what somebody changes there is shown, and set back
 * by whoever has seen it.
 */
@Service
public class ServiceDefaults {
  private static final Duration OFTEN = Duration.ofSeconds(15);
  private static final String OURS = "Upright Warden";

  private final KnownServices known;
  private final ServiceLinks links;
  private final ServiceRepository rows;
  private final RulebookService rulebook;
  private final JsonMapper json;
  private final DatabaseClock clock;

  ServiceDefaults(
      KnownServices known,
      ServiceLinks links,
      ServiceRepository rows,
      RulebookService rulebook,
      JsonMapper json,
      DatabaseClock clock) {
    this.known = known;
    this.links = links;
    this.rows = rows;
    this.rulebook = rulebook;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A control as the edition in force says it to everybody, and as the service's account has it.
   *
   * @param limit null where nothing binds it
   * @param carried {@code carried}, {@code stricter} or {@code cannot}, of the default
   * @param limitCarried the same of the limit; null where there is none
   * @param held the account's default; null where it says nothing of it
   * @param lock the account's lock; null where there is none
   * @param looser the account lets more happen than could be held there
   */
  public record DefaultLine(
      String control,
      @Plain Object start,
      @Plain @Nullable Object limit,
      String carried,
      @Nullable String limitCarried,
      @Plain @Nullable Object held,
      @Plain @Nullable Object lock,
      boolean looser) {}

  /**
   * How a service's own defaults and locks stand to the edition in force.
   *
   * @param state {@code none}: nothing is written there; {@code waiting}, {@code confirmed}, {@code
   *     refused}, or {@code other}: it took them and has something else
   * @param changedBy who changed them there last
   */
  public record DefaultsView(
      int edition,
      String state,
      @Worded @Nullable String why,
      @Nullable String changedBy,
      @Nullable Instant changedAt,
      @Nullable Instant readAt,
      List<DefaultLine> lines) {}

  /** What is wanted of a control there: in the service's own values, null for nothing. */
  private record Wanted(ResolvedRule rule, @Nullable Value start, @Nullable Value limit) {}

  private static Map<Control, Wanted> wanted(ResolvedRulebook rules, Means means) {
    Map<Control, Wanted> wanted = new LinkedHashMap<>();
    for (ResolvedRule rule : rules.rules()) {
      Control control = rule.control();
      Value limit = rule.limit();
      wanted.put(
          control,
          new Wanted(
              rule,
              means.takes(control, Means.Place.DEFAULT)
                      && means.carrying(control, rule.start()) != Means.Carrying.CANNOT
                  ? means.valueFor(control, rule.start())
                  : null,
              limit != null
                      && means.takes(control, Means.Place.LOCK)
                      && means.carrying(control, limit) != Means.Carrying.CANNOT
                  ? means.valueFor(control, limit)
                  : null));
    }
    return wanted;
  }

  private ResolvedRulebook forEverybody(RulebookService.Edition edition) {
    return ResolvedRulebook.of(rulebook.rulebook(edition).applying(List.of(), null));
  }

  /** How a service's defaults and locks stand. */
  @Transactional(readOnly = true)
  public DefaultsView view(long id) {
    ServiceEntity row =
        rows.find(id)
            .filter(each -> each.unlinkedAt == null)
            .orElseThrow(() -> ProblemException.notFound("There is no service " + id + "."));
    RulebookService.Edition edition = rulebook.inForce();
    Means means = known.about(row).means();
    JsonNode held = held(row);
    List<DefaultLine> lines = new ArrayList<>();
    wanted(forEverybody(edition), means)
        .forEach((control, wanted) -> lines.add(line(control, wanted, means, held)));
    return new DefaultsView(
        edition.number(),
        row.defaultsState,
        row.defaultsWhy,
        row.defaultsBy,
        row.defaultsChangedAt,
        row.defaultsReadAt,
        lines);
  }

  private JsonNode held(ServiceEntity row) {
    return json.readTree(row.defaults == null ? "{}" : row.defaults);
  }

  private static DefaultLine line(Control control, Wanted wanted, Means means, JsonNode held) {
    Value limit = wanted.rule().limit();
    Value value = value(control, held.path(control.id()).path("value"));
    Value lock = value(control, held.path(control.id()).path("lock"));
    return new DefaultLine(
        control.id(),
        control.plain(wanted.rule().start()),
        limit == null ? null : control.plain(limit),
        means.takes(control, Means.Place.DEFAULT)
            ? means.carrying(control, wanted.rule().start()).id()
            : Means.Carrying.CANNOT.id(),
        limit == null
            ? null
            : means.takes(control, Means.Place.LOCK)
                ? means.carrying(control, limit).id()
                : Means.Carrying.CANNOT.id(),
        value == null ? null : control.plain(value),
        lock == null ? null : control.plain(lock),
        isLooser(control, wanted.start(), value) || isLooser(control, wanted.limit(), lock));
  }

  private static boolean isLooser(Control control, @Nullable Value wanted, @Nullable Value held) {
    return wanted != null && (held == null || !control.within(held, wanted));
  }

  private static @Nullable Value value(Control control, JsonNode node) {
    if (node.isMissingNode() || node.isNull()) {
      return null;
    }
    try {
      return control.parse(RulebookReader.plain(node));
    } catch (IllegalArgumentException e) {
      return null; // a value of its own that we have no word for
    }
  }

  /** Has what the edition in force says written there once more. */
  @Transactional
  public void setBack(long id) {
    ServiceEntity row =
        rows.locked(id)
            .filter(each -> each.unlinkedAt == null)
            .orElseThrow(() -> ProblemException.notFound("There is no service " + id + "."));
    if (!row.level.equals("write")) {
      throw ProblemException.conflict(
          "service-not-written", row.name + " is not linked for writing.");
    }
    waiting(row, rulebook.inForce().number());
    rows.update(row);
  }

  private static void waiting(ServiceEntity row, int edition) {
    row.defaultsEdition = edition;
    row.defaultsState = "waiting";
    row.defaultsCommand = UUID.randomUUID().toString();
    row.defaultsWhy = null;
  }

  /** What is to be done about a service's defaults now: null for nothing. */
  private record Step(ResolvedRulebook rules, @Nullable String command, Means means) {}

  /**
   * Reads a service's defaults where that was not done lately, and writes ours where they wait.
   *
   * @return whether the service was asked
   */
  boolean step(ServiceLinks.Link link, Runnable pace) throws ServiceTrouble {
    Step step = begin(link);
    if (step == null) {
      return false;
    }
    pace.run();
    ConferenceService.Defaults now = link.service().defaults();
    if (step.command() != null) {
      Map<String, Map<String, @Nullable Object>> patch = patch(step, now.controls());
      if (!patch.isEmpty()) {
        try {
          pace.run();
          link.service().setDefaults(step.command(), OURS, patch);
        } catch (ServiceTrouble e) {
          if (e.kind() != ServiceTrouble.Kind.REFUSED && e.kind() != ServiceTrouble.Kind.UNKNOWN) {
            throw e;
          }
          ended(link, step, now, e.words());
          return true;
        }
        pace.run();
        now = link.service().defaults();
      }
    }
    ended(link, step, now, null);
    return true;
  }

  private @Nullable Step begin(ServiceLinks.Link link) {
    return links.inTransaction(
        () -> {
          ServiceEntity row = links.turnOf(link);
          if (row == null) {
            return null;
          }
          int edition = rulebook.inForce().number();
          if (row.level.equals("write") && row.defaultsEdition != edition) {
            waiting(row, edition);
            rows.update(row);
          }
          boolean waits = row.defaultsState.equals("waiting") && row.level.equals("write");
          Instant read = row.defaultsReadAt;
          if (!waits && read != null && read.isAfter(clock.instant().minus(OFTEN))) {
            return null;
          }
          return new Step(
              forEverybody(rulebook.inForce()),
              waits ? row.defaultsCommand : null,
              link.about().means());
        });
  }

  private static Map<String, Map<String, @Nullable Object>> patch(Step step, JsonNode held) {
    Map<String, Map<String, @Nullable Object>> patch = new LinkedHashMap<>();
    wanted(step.rules(), step.means())
        .forEach(
            (control, wanted) -> {
              Map<String, @Nullable Object> of = new LinkedHashMap<>();
              put(of, "value", control, wanted.start(), held);
              put(of, "lock", control, wanted.limit(), held);
              if (!of.isEmpty()) {
                patch.put(control.id(), of);
              }
            });
    return patch;
  }

  private static void put(
      Map<String, @Nullable Object> of,
      String part,
      Control control,
      @Nullable Value wanted,
      JsonNode held) {
    if (wanted != null && !wanted.equals(value(control, held.path(control.id()).path(part)))) {
      of.put(part, control.plain(wanted));
    }
  }

  private void ended(
      ServiceLinks.Link link, Step step, ConferenceService.Defaults now, @Nullable String refused) {
    links.inTransaction(
        () -> {
          ServiceEntity row = links.turnOf(link);
          if (row == null) {
            return null;
          }
          row.defaults = json.writeValueAsString(now.controls());
          row.defaultsBy = now.changedBy();
          row.defaultsChangedAt = now.changedAt();
          row.defaultsReadAt = clock.instant();
          if (step.command() != null && step.command().equals(row.defaultsCommand)) {
            boolean isHeld = patch(step, now.controls()).isEmpty();
            row.defaultsState = refused != null ? "refused" : isHeld ? "confirmed" : "other";
            row.defaultsWhy = refused == null ? null : Texts.oneLine(refused, 500);
          }
          rows.update(row);
          return null;
        });
  }
}
