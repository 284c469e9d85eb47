package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.people.Persona;
import app.uprightwarden.core.remedy.AdmissionSearch;
import app.uprightwarden.core.remedy.Remedy;
import app.uprightwarden.core.rulebook.Layer;
import app.uprightwarden.core.rulebook.ResolvedRule;
import app.uprightwarden.core.rulebook.Rule;
import app.uprightwarden.core.rulebook.Rulebook;
import app.uprightwarden.core.rulebook.Scope;
import app.uprightwarden.core.session.Attendance;
import app.uprightwarden.core.session.Prevention;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.drafting.DraftService;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import app.uprightwarden.server.problem.Worded;
import app.uprightwarden.server.rulebook.RulebookService;
import app.uprightwarden.server.rulebook.RulebookWriter;
import app.uprightwarden.server.schema.Plain;
import java.time.Clock;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** What is kept of a session and learnt from it. */
@Service
class FloorAfter {
  private static final int MAX_MOMENTS = 5_000;

  private final FloorStore store;
  private final FloorBooks books;
  private final FloorAlerts alerts;
  private final FloorRecords records;
  private final RulebookService rulebook;
  private final DraftService drafts;
  private final Ledger ledger;
  private final FloorRepository rows;
  private final JsonMapper json;
  private final Clock clock;

  FloorAfter(
      FloorStore store,
      FloorBooks books,
      FloorAlerts alerts,
      FloorRecords records,
      RulebookService rulebook,
      DraftService drafts,
      Ledger ledger,
      FloorRepository rows,
      JsonMapper json,
      Clock clock) {
    this.store = store;
    this.books = books;
    this.alerts = alerts;
    this.records = records;
    this.rulebook = rulebook;
    this.drafts = drafts;
    this.ledger = ledger;
    this.rows = rows;
    this.json = json;
    this.clock = clock;
  }

  static String way(Seat.Way way) {
    return way.name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  /** Somebody who was in; {@code left} null while they are. */
  record AttendanceRow(
      String who,
      String name,
      @Nullable String address,
      String standing,
      String tie,
      Instant joined,
      @Nullable Instant left,
      long minutes,
      String role,
      int times,
      String way,
      String route,
      boolean removed) {}

  /** Who gets something that is kept; see the core's {@code Attendance}. */
  record SharedWith(
      String what, boolean exists, List<String> gets, List<String> without, @Worded String words) {}

  /** A control's change, and what the rule allows now. */
  record PreventingChange(
      String control,
      @Plain @Nullable Object from,
      @Plain Object to,
      String layer,
      @Plain @Nullable Object limit) {}

  /**
   * What would have prevented something.
   *
   * @param beside ids of the invited personas who would no longer come in by themselves
   */
  record PreventingWay(List<PreventingChange> changes, List<String> beside) {}

  /** An alert, and what would have prevented it; no ways where no control does. */
  record Lesson(FloorAlerts.FloorAlert alert, List<PreventingWay> ways) {}

  /** An incident as it was written. */
  record Incident(
      long id, String session, String title, String note, String by, Instant at, JsonNode record) {}

  /** Everything about a session afterwards. */
  record AfterPage(
      List<AttendanceRow> attendance,
      FloorRoster.Roll roll,
      List<FloorRecords.RecordingLine> recordings,
      FloorRecords.KeptUntil kept,
      List<SharedWith> shares,
      List<Lesson> lessons,
      List<Incident> incidents) {}

  AfterPage page(FloorSession session) {
    List<FloorAlerts.FloorAlert> raised = alerts.of(session.id());
    List<Incident> incidents = incidents(session.id());
    Map<Long, ControlValues> then = valuesAt(session, raised);
    FloorRecords.KeptUntil until = records.kept(session);
    return books.with(
        session,
        kept ->
            new AfterPage(
                attendance(session, kept.book),
                records.roll(session, kept.book),
                records.recordings(session, kept.book),
                until,
                Attendance.shares(kept.book, session.host(), session.coHosts()).stream()
                    .map(FloorAfter::shared)
                    .toList(),
                raised.stream().map(alert -> lesson(alert, kept, then)).toList(),
                incidents));
  }

  /** The controls as they stood at each alert's event. */
  private Map<Long, ControlValues> valuesAt(
      FloorSession session, List<FloorAlerts.FloorAlert> raised) {
    Map<Long, ControlValues> then = new TreeMap<>();
    raised.forEach(alert -> then.put(alert.seq(), session.controls()));
    if (!then.isEmpty()) {
      SessionBook again = new SessionBook(session.starts(), session.controls());
      long last = then.keySet().stream().mapToLong(Long::longValue).max().orElse(0);
      while (again.seq() < last) {
        List<SessionEvent> page = store.events(session.id(), again.seq(), last, MAX_MOMENTS);
        if (page.isEmpty()) {
          break;
        }
        for (SessionEvent event : page) {
          again.take(event);
          then.computeIfPresent(event.seq(), (seq, was) -> again.values());
        }
      }
    }
    return then;
  }

  /** What a file of the attendance holds. */
  record Sheet(
      List<AttendanceRow> attendance,
      FloorRoster.Roll roll,
      List<FloorRecords.RecordingLine> recordings) {}

  Sheet sheet(FloorSession session) {
    return books.with(
        session,
        kept ->
            new Sheet(
                attendance(session, kept.book),
                records.roll(session, kept.book),
                records.recordings(session, kept.book)));
  }

  private List<AttendanceRow> attendance(FloorSession session) {
    return books.with(session, kept -> attendance(session, kept.book));
  }

  private List<AttendanceRow> attendance(FloorSession session, SessionBook book) {
    return Attendance.of(book, session.clock(clock.instant())).stream()
        .map(
            row ->
                new AttendanceRow(
                    row.who(),
                    row.name(),
                    row.address(),
                    row.standing(),
                    row.tie(),
                    row.joined(),
                    row.left(),
                    row.minutes(),
                    row.role().id(),
                    row.times(),
                    way(row.how()),
                    row.route(),
                    row.removed()))
        .toList();
  }

  private static SharedWith shared(Attendance.Share share) {
    return new SharedWith(
        share.what().name().toLowerCase(Locale.ROOT).replace('_', '-'),
        share.exists(),
        share.gets(),
        share.without(),
        share.words());
  }

  private static Lesson lesson(
      FloorAlerts.FloorAlert alert, FloorBooks.Kept kept, Map<Long, ControlValues> then) {
    String who = alert.who();
    Seat seat = who == null ? null : kept.book.seat(who);
    ControlValues values = then.getOrDefault(alert.seq(), kept.book.values());
    List<PreventingWay> ways =
        Prevention.of(FloorAlerts.kind(alert.kind()), seat, values).stream()
            .map(way -> way(way, kept))
            .toList();
    return new Lesson(alert, ways);
  }

  private static PreventingWay way(AdmissionSearch.Way way, FloorBooks.Kept kept) {
    List<PreventingChange> changes = new ArrayList<>();
    for (Remedy.Change change : way.changes()) {
      Control control = change.control();
      ResolvedRule rule = kept.rules.rule(control);
      Value from = change.from();
      Value limit = rule == null ? null : rule.limit();
      changes.add(
          new PreventingChange(
              control.id(),
              from == null ? null : control.plain(from),
              control.plain(change.to()),
              (rule == null ? Scope.ORGANISATION : rule.source()).toString(),
              limit == null ? null : control.plain(limit)));
    }
    return new PreventingWay(changes, way.beside().stream().map(Persona::id).toList());
  }

  /**
   * Writes an incident down, with the session as it stands: alerts, who was there, what happened.
   */
  @Transactional
  public Incident write(FloorSession session, String title, String note, SignedIn by) {
    List<SessionEvent> events = store.events(session.id(), 0, session.folded(), MAX_MOMENTS);
    List<FloorView.Moment> moments =
        books.with(
            session,
            kept -> events.stream().map(e -> SessionEventText.moment(e, kept.book)).toList());
    Map<String, Object> document =
        InOrder.map(
            "session",
            InOrder.map(
                "id", session.id(),
                "meeting", session.meeting(),
                "title", session.title(),
                "host", session.host(),
                "starts", session.starts(),
                "edition", session.edition()),
            "alerts",
            alerts.of(session.id()),
            "attendance",
            attendance(session),
            "timeline",
            moments);
    FloorIncidentEntity row = new FloorIncidentEntity();
    row.session = session.id();
    row.title = title.strip();
    row.note = note.strip();
    row.document = json.writeValueAsString(document);
    row.byWhom = by.email();
    row.at = clock.instant();
    rows.insert(row);
    ledger.changed(
        "incident",
        String.valueOf(row.id),
        title.strip(),
        null,
        () -> InOrder.map("session", session.id(), "note", note.strip()),
        by.email());
    return incident(row.id);
  }

  Incident incident(long id) {
    return rows.incident(id)
        .map(this::incident)
        .orElseThrow(() -> ProblemException.notFound("There is no incident " + id + "."));
  }

  private List<Incident> incidents(String session) {
    return rows.incidents(session).stream().map(this::incident).toList();
  }

  private Incident incident(FloorIncidentEntity row) {
    return new Incident(
        row.id, row.session, row.title, row.note, row.byWhom, row.at, json.readTree(row.document));
  }

  /**
   * Begins a draft of the rulebook in which a control goes no looser than a value, in the layer
   * that governs it for the session's meeting.
   *
   * @return the draft's id
   */
  @Transactional
  public long draft(FloorSession session, Control control, Value value, SignedIn by) {
    Scope scope =
        books.with(
            session,
            kept -> {
              ResolvedRule rule = kept.rules.rule(control);
              return rule == null ? Scope.ORGANISATION : rule.source();
            });
    String reason =
        "After “" + session.title() + "” of " + session.starts().toString().substring(0, 10);
    Rulebook now = rulebook.rulebook(rulebook.newest());
    Rule bound = bound(control, value, false, Rule.DEFAULT_IMPORTANCE, reason);
    List<Layer> layers = new ArrayList<>();
    boolean isIn = false;
    for (Layer layer : now.layers()) {
      boolean isIt = layer.scope().equals(scope);
      layers.add(isIt ? with(layer, bound) : layer);
      isIn |= isIt;
    }
    if (!isIn) {
      layers.add(new Layer(scope, List.of(bound), List.of()));
    }
    JsonNode document = json.valueToTree(RulebookWriter.plain(new Rulebook(layers)));
    String name = "After " + session.title();
    return drafts.create(Texts.cut(name, 90), document, by).id();
  }

  /** What has no looser side is fixed, everything else bound. */
  private static Rule bound(
      Control control, Value value, boolean sealed, int importance, String reason) {
    return control.isNeutral()
        ? Rule.fix(control, value, sealed, importance, reason)
        : Rule.bound(control, value, value, sealed, importance, reason);
  }

  /** The layer with a rule in place of the one for its control, sealed and weighed as that was. */
  private static Layer with(Layer layer, Rule rule) {
    List<Rule> rules = new ArrayList<>();
    Rule instead = rule;
    for (Rule each : layer.rules()) {
      if (each.control() == rule.control()) {
        instead =
            bound(rule.control(), rule.start(), each.sealed(), each.importance(), rule.reason());
      } else {
        rules.add(each);
      }
    }
    rules.add(instead);
    return new Layer(layer.scope(), rules, layer.guarantees());
  }
}
