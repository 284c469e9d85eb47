package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.register.ControlsJson;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Sessions and their events in the database. */
@Component
class FloorStore {
  private final FloorRepository rows;
  private final JsonMapper json;

  FloorStore(FloorRepository rows, JsonMapper json) {
    this.rows = rows;
    this.json = json;
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void add(FloorSession s) {
    FloorSessionEntity row = new FloorSessionEntity();
    row.id = s.id();
    row.meeting = s.meeting();
    row.occurrence = s.occurrence();
    row.title = s.title();
    row.host = s.host();
    row.coHosts = json.writeValueAsString(s.coHosts());
    row.starts = s.starts();
    row.ends = s.ends();
    row.clockFrom = s.clockFrom();
    row.wallFrom = s.wallFrom();
    row.speed = s.speed();
    row.practice = s.practice();
    row.script = s.script();
    row.strangers = s.strangers();
    row.edition = s.edition();
    row.kind = s.kind();
    row.controls = json.writeValueAsString(ControlsJson.plain(s.controls()));
    row.state = s.state();
    row.madeBy = s.madeBy();
    row.service = s.service();
    rows.insert(row);
  }

  private FloorSession session(FloorSessionEntity row) {
    ControlValues controls = ControlsJson.read(json.readTree(row.controls), "", new ArrayList<>());
    return new FloorSession(
        row.id,
        row.meeting,
        row.occurrence,
        row.title,
        row.host,
        json.readValue(row.coHosts, new TypeReference<List<String>>() {}),
        row.starts,
        row.ends,
        row.clockFrom,
        row.wallFrom,
        row.speed,
        row.practice,
        row.script,
        row.strangers,
        row.edition,
        row.kind,
        controls,
        row.state,
        row.folded,
        row.madeBy,
        row.service,
        row.endedAt);
  }

  private List<FloorSession> sessions(List<FloorSessionEntity> found) {
    return found.stream().map(this::session).toList();
  }

  private List<SessionEvent> events(List<String> bodies) {
    return bodies.stream().map(this::event).toList();
  }

  private SessionEvent event(String body) {
    return json.readValue(body, Wire.EventTold.class).event();
  }

  @Transactional(readOnly = true)
  public Optional<FloorSession> find(String id) {
    return rows.find(id).map(this::session);
  }

  /** Those that are asked for or open. */
  @Transactional(readOnly = true)
  public List<FloorSession> running() {
    return sessions(rows.running());
  }

  /** Those of them that a linked service holds. */
  @Transactional(readOnly = true)
  public List<FloorSession> atService(long service) {
    return sessions(rows.atService(service));
  }

  /** A session and what it has followed of its meeting. */
  record Following(FloorSession session, ControlValues followed) {}

  /** Running sessions of meetings, practice left out. */
  @Transactional(readOnly = true)
  public List<Following> ofMeetings(Collection<String> meetings) {
    return meetings.isEmpty()
        ? List.of()
        : rows.ofMeetings(meetings).stream()
            .map(
                row ->
                    new Following(
                        session(row),
                        row.followed == null
                            ? session(row).controls()
                            : ControlsJson.read(
                                json.readTree(row.followed), "", new ArrayList<>())))
            .toList();
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void follow(String session, ControlValues followed) {
    rows.follow(session, json.writeValueAsString(ControlsJson.plain(followed)));
  }

  /** Those that are over, the last first. */
  @Transactional(readOnly = true)
  public List<FloorSession> over(int most) {
    return sessions(rows.over(most));
  }

  @Transactional(readOnly = true)
  public boolean hasSession(String meeting, String occurrence) {
    return rows.countOf(meeting, occurrence) > 0;
  }

  /** Locked until the transaction ends, in one order, so that two never wait for each other. */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<FloorSession> forChange(Collection<String> ids) {
    return sessions(rows.forChange(ids));
  }

  /** Stores events of sessions that are locked; one that is there already stays as it is. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void addEvents(List<SessionEvents.Told> told) {
    if (told.isEmpty()) {
      return;
    }
    Set<FloorRepository.EventKey> known =
        new HashSet<>(
            rows.eventKeys(
                told.stream().map(SessionEvents.Told::session).distinct().toList(),
                told.stream().mapToLong(each -> each.event().seq()).min().orElse(0)));
    List<FloorEventEntity> fresh = new ArrayList<>();
    for (SessionEvents.Told each : told) {
      if (known.add(new FloorRepository.EventKey(each.session(), each.event().seq()))) {
        FloorEventEntity row = new FloorEventEntity();
        row.session = each.session();
        row.seq = each.event().seq();
        row.body = json.writeValueAsString(Wire.EventTold.of(each.session(), each.event()));
        fresh.add(row);
      }
    }
    rows.insertEvents(fresh);
  }

  /**
   * Events of a session in order.
   *
   * @param after behind this one
   * @param to up to this one
   */
  @Transactional(readOnly = true)
  public List<SessionEvent> events(String session, long after, long to, int most) {
    return events(rows.events(session, after, to, most));
  }

  /** The events that no book has taken in yet, by session, in order. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, List<SessionEvent>> waiting(Collection<String> sessions) {
    Map<String, List<SessionEvent>> waiting = new HashMap<>();
    if (!sessions.isEmpty()) {
      for (FloorRepository.Waiting each : rows.waiting(sessions)) {
        waiting.computeIfAbsent(each.session(), s -> new ArrayList<>()).add(event(each.body()));
      }
    }
    return waiting;
  }

  /** The last events of a session, the newest first. */
  @Transactional(readOnly = true)
  public List<SessionEvent> lastEvents(String session, long to, int most) {
    return events(rows.lastEvents(session, to, most));
  }

  /** How far books have come. */
  record Folded(String session, long seq, String state, @Nullable Instant endedAt) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void folded(List<Folded> all) {
    all.forEach(far -> rows.folded(far.session(), far.seq(), far.state(), far.endedAt()));
  }

  /** Running sessions that have events waiting for one that is missing. */
  @Transactional(readOnly = true)
  public List<FloorSession> withGaps() {
    return sessions(rows.withGaps());
  }
}
