package app.uprightwarden.server.remedies;

import app.uprightwarden.server.audit.FindingQueries;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.people.SettingsService;
import app.uprightwarden.server.persistence.DatabaseClock;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.schema.Plain;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** The rows of what hosts are asked. */
@Component
public class RequestRows {
  private static final TypeReference<Map<String, Object>> CONTROLS = new TypeReference<>() {};

  private static final int AT_ONCE = 1000;
  private static final int LONGEST_SENTENCE = 2000;

  private final HostRequestRepository rows;
  private final RemedyRepository remedies;
  private final SettingsService settings;
  private final FindingQueries audit;
  private final RegisterChanges due;
  private final DatabaseClock database;
  private final Ledger ledger;
  private final JsonMapper json;
  private final Clock clock;

  RequestRows(
      HostRequestRepository rows,
      RemedyRepository remedies,
      SettingsService settings,
      FindingQueries audit,
      RegisterChanges due,
      DatabaseClock database,
      Ledger ledger,
      JsonMapper json,
      Clock clock) {
    this.rows = rows;
    this.remedies = remedies;
    this.settings = settings;
    this.audit = audit;
    this.due = due;
    this.database = database;
    this.ledger = ledger;
    this.json = json;
    this.clock = clock;
  }

  /** A finding to ask about. */
  record NewItem(
      String meeting,
      String title,
      String occurrence,
      String check,
      String subject,
      int severity,
      String sentence,
      RemedyPlan plan) {
    /** The same in other words. */
    NewItem saying(String words) {
      return new NewItem(meeting, title, occurrence, check, subject, severity, words, plan);
    }
  }

  /**
   * A finding that a host was asked about.
   *
   * @param sentence what could happen
   * @param words the change proposed to them, control by control
   * @param state {@code open}, {@code agreed}, {@code proposed} something else, {@code reasoned},
   *     {@code mended} or {@code settled}
   * @param proposed control → value in plain form, or null
   */
  public record AskedItem(
      long id,
      String meeting,
      String title,
      String occurrence,
      String check,
      String subject,
      int severity,
      @Worded String sentence,
      RemedyPlan plan,
      @Worded List<String> words,
      String state,
      @Nullable String answer,
      @Plain @Nullable Map<String, Object> proposed,
      @Nullable String answeredBy,
      @Nullable Instant answeredAt) {
    /** The same in other words. */
    AskedItem saying(String said) {
      return new AskedItem(
          id,
          meeting,
          title,
          occurrence,
          check,
          subject,
          severity,
          said,
          plan,
          words,
          state,
          answer,
          proposed,
          answeredBy,
          answeredAt);
    }
  }

  /** What one host was asked at once. */
  public record HostRequest(
      long id,
      String host,
      String askedBy,
      Instant askedAt,
      int reminded,
      Instant applyAfter,
      String note,
      List<AskedItem> items) {
    HostRequest with(List<AskedItem> others) {
      return new HostRequest(id, host, askedBy, askedAt, reminded, applyAfter, note, others);
    }
  }

  /** After how many days hosts are reminded, and after how many the administrator may apply. */
  public record AskingSettings(int remindDays, int applyAfterDays) {}

  @Transactional(readOnly = true)
  public AskingSettings settings() {
    SettingsService.Asking asking = settings.asking();
    return new AskingSettings(asking.remindDays(), asking.applyAfterDays());
  }

  /** Sets them; null stays as it is. */
  @Transactional
  public AskingSettings set(@Nullable Integer remindDays, @Nullable Integer applyAfterDays) {
    AskingSettings before = settings();
    settings.setAsking(remindDays, applyAfterDays);
    AskingSettings after = settings();
    ledger.changed("house", "asking", "Asking hosts", () -> before, () -> after, "upright-warden");
    return after;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  long create(
      String host,
      String by,
      Instant at,
      Instant remindAt,
      Instant applyAfter,
      String note,
      List<NewItem> items) {
    HostRequestEntity request = new HostRequestEntity();
    request.host = host;
    request.askedBy = by;
    request.askedAt = at;
    request.remindAt = remindAt;
    request.applyAfter = applyAfter;
    request.note = note;
    rows.insert(request);
    rows.insert(items.stream().map(item -> entity(request.id, item)).toList());
    return request.id;
  }

  private HostRequestItemEntity entity(long request, NewItem item) {
    HostRequestItemEntity row = new HostRequestItemEntity();
    row.request = request;
    row.meeting = item.meeting();
    row.title = item.title();
    row.occurrence = item.occurrence();
    row.checkId = item.check();
    row.subject = item.subject();
    row.severity = item.severity();
    row.sentence = Texts.cut(item.sentence(), LONGEST_SENTENCE);
    row.changes = json.writeValueAsString(item.plan());
    row.state = "open";
    return row;
  }

  boolean isOpen(String meeting, String occurrence, String check, String subject) {
    return rows.countOpen(meeting, occurrence, check, subject) > 0;
  }

  Set<String> stillAsked(Collection<String> meetings, Instant now) {
    return meetings.isEmpty() ? Set.of() : new HashSet<>(rows.stillAsked(meetings, now));
  }

  /** What is not settled, the first asked first; null for every host. */
  List<HostRequest> open(@Nullable String host) {
    return requests(rows.open(host));
  }

  List<HostRequest> toRemind(Instant now, int most) {
    return requests(rows.toRemind(now, most));
  }

  private List<HostRequest> requests(List<HostRequestEntity> requests) {
    Map<Long, HostRequest> found = new LinkedHashMap<>();
    for (HostRequestEntity row : requests) {
      found.put(
          row.id,
          new HostRequest(
              row.id,
              row.host,
              row.askedBy,
              row.askedAt,
              row.reminded,
              row.applyAfter,
              row.note,
              new ArrayList<>()));
    }
    if (!found.isEmpty()) {
      for (HostRequestItemEntity row : rows.unsettled(found.keySet())) {
        HostRequest of = found.get(row.request);
        if (of != null) {
          of.items().add(item(row));
        }
      }
    }
    return List.copyOf(found.values());
  }

  AskedItem get(long id) {
    return rows.item(id).map(this::item).orElseThrow(RequestRows::none);
  }

  private static ProblemException none() {
    return ProblemException.notFound("Nobody was asked that.");
  }

  AskedItem locked(long id) {
    return rows.lockedItem(id).map(this::item).orElseThrow(RequestRows::none);
  }

  String askedBy(long item) {
    return rows.item(item).flatMap(row -> rows.request(row.request)).orElseThrow().askedBy;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void answered(
      long id, String state, String answer, @Nullable Map<String, Object> proposed, String by) {
    HostRequestItemEntity row = rows.item(id).orElseThrow(RequestRows::none);
    row.state = state;
    row.answer = answer;
    row.proposed = proposed == null ? null : json.writeValueAsString(proposed);
    row.answeredBy = by;
    row.answeredAt = clock.instant();
    rows.update(row);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void settled(long id) {
    rows.settled(id);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  void reminded(long id, Instant next) {
    rows.reminded(id, next);
  }

  /** What is found no longer needs no answer. */
  @Transactional(propagation = Propagation.MANDATORY)
  int closeMended() {
    int closed = 0;
    List<HostRequestItemEntity> some = rows.unsettledAfter(0, AT_ONCE);
    while (!some.isEmpty()) {
      Set<String> meetings = some.stream().map(row -> row.meeting).collect(Collectors.toSet());
      Set<String> open = audit.openInStanding(meetings).orElse(null);
      if (open == null) {
        return closed;
      }
      // one that is still to be looked at again may be found again
      Set<String> waiting = due.among(meetings);
      List<Long> mended =
          some.stream()
              .filter(row -> !waiting.contains(row.meeting))
              .filter(row -> !open.contains(identity(row)))
              .map(row -> row.id)
              .toList();
      if (!mended.isEmpty()) {
        closed += rows.mended(mended, database.instant());
      }
      some = rows.unsettledAfter(some.get(some.size() - 1).id, AT_ONCE);
    }
    return closed;
  }

  private static String identity(HostRequestItemEntity row) {
    return String.join("|", row.meeting, row.occurrence, row.checkId, row.subject);
  }

  /**
   * What was asked of a meeting is asked again, since what mended it was undone.
   *
   * @param undone the item of the job that undoes it
   */
  @Transactional(propagation = Propagation.MANDATORY)
  void reopen(String meeting, String occurrence, long undone) {
    remedies.undoneAskedAt(undone).ifPresent(since -> rows.reopen(meeting, occurrence, since));
  }

  private AskedItem item(HostRequestItemEntity row) {
    RemedyPlan plan = json.readValue(row.changes, RemedyPlan.class);
    return new AskedItem(
        row.id,
        row.meeting,
        row.title,
        row.occurrence,
        row.checkId,
        row.subject,
        row.severity,
        row.sentence,
        plan,
        Planner.words(plan),
        row.state,
        row.answer,
        row.proposed == null ? null : json.readValue(row.proposed, CONTROLS),
        row.answeredBy,
        row.answeredAt);
  }
}
