package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.bridge.Wire;
import app.uprightwarden.server.register.ControlsJson;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Instant;
import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/** Sessions and their events in the database. */
@Component
class FloorStore {
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final JsonMapper json;

  FloorStore(JdbcClient jdbc, JdbcTemplate batches, JsonMapper json) {
    this.jdbc = jdbc;
    this.batches = batches;
    this.json = json;
  }

  static LocalDateTime utc(Instant instant) {
    return LocalDateTime.ofInstant(instant, ZoneOffset.UTC);
  }

  static Instant instant(ResultSet r, String column) throws SQLException {
    return r.getObject(column, LocalDateTime.class).toInstant(ZoneOffset.UTC);
  }

  static @Nullable Instant maybe(ResultSet r, String column) throws SQLException {
    LocalDateTime at = r.getObject(column, LocalDateTime.class);
    return at == null ? null : at.toInstant(ZoneOffset.UTC);
  }

  @Transactional(propagation = Propagation.MANDATORY)
  public void add(FloorSession s) {
    jdbc.sql(
            "insert into floor_session (id, meeting, occurrence, title, host, co_hosts, starts,"
                + " ends, clock_from, wall_from, speed, practice, script, strangers, edition, kind,"
                + " controls, state, made_by) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
                + " ?, ?, ?, ?)")
        .params(
            Arrays.asList(
                s.id(),
                s.meeting(),
                s.occurrence(),
                s.title(),
                s.host(),
                json.writeValueAsString(s.coHosts()),
                utc(s.starts()),
                utc(s.ends()),
                utc(s.clockFrom()),
                utc(s.wallFrom()),
                s.speed(),
                s.practice(),
                s.script(),
                s.strangers(),
                s.edition(),
                s.kind(),
                json.writeValueAsString(ControlsJson.plain(s.controls())),
                s.state(),
                s.madeBy()))
        .update();
  }

  private FloorSession session(ResultSet r, int n) throws SQLException {
    ControlValues controls =
        ControlsJson.read(json.readTree(r.getString("controls")), "", new ArrayList<>());
    return new FloorSession(
        r.getString("id"),
        r.getString("meeting"),
        r.getString("occurrence"),
        r.getString("title"),
        r.getString("host"),
        json.readValue(r.getString("co_hosts"), new TypeReference<List<String>>() {}),
        instant(r, "starts"),
        instant(r, "ends"),
        instant(r, "clock_from"),
        instant(r, "wall_from"),
        r.getDouble("speed"),
        r.getBoolean("practice"),
        r.getString("script"),
        r.getInt("strangers"),
        r.getInt("edition"),
        r.getString("kind"),
        controls,
        r.getString("state"),
        r.getLong("folded"),
        r.getString("made_by"),
        maybe(r, "ended_at"));
  }

  @Transactional(readOnly = true)
  public Optional<FloorSession> find(String id) {
    return jdbc.sql("select * from floor_session where id = ?")
        .param(id)
        .query(this::session)
        .optional();
  }

  /** Those that are asked for or open. */
  @Transactional(readOnly = true)
  public List<FloorSession> running() {
    return jdbc.sql(
            "select * from floor_session where state in ('asked', 'open') order by starts, id")
        .query(this::session)
        .list();
  }

  /** Those that are over, the last first. */
  @Transactional(readOnly = true)
  public List<FloorSession> over(int most) {
    return jdbc.sql(
            "select * from floor_session where state in ('ended', 'lost') order by ended_at desc,"
                + " id limit ?")
        .param(most)
        .query(this::session)
        .list();
  }

  @Transactional(readOnly = true)
  public boolean hasSession(String meeting, String occurrence) {
    return jdbc.sql(
                "select count(*) from floor_session where meeting = ? and occurrence = ? and not"
                    + " practice")
            .params(meeting, occurrence)
            .query(Integer.class)
            .single()
        > 0;
  }

  /** Locked until the transaction ends, in one order, so that two never wait for each other. */
  @Transactional(propagation = Propagation.MANDATORY)
  public List<FloorSession> forChange(Collection<String> ids) {
    return jdbc.sql("select * from floor_session where id in (:ids) order by id for update")
        .param("ids", ids)
        .query(this::session)
        .list();
  }

  /** Stores events; one that is there already stays as it is. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void addEvents(List<SessionEvents.Told> told) {
    batches.batchUpdate(
        "insert ignore into floor_event (session, seq, body) values (?, ?, ?)",
        told.stream()
            .map(
                each ->
                    new Object[] {
                      each.session(),
                      each.event().seq(),
                      json.writeValueAsString(Wire.EventTold.of(each.session(), each.event()))
                    })
            .toList());
  }

  /**
   * Events of a session in order.
   *
   * @param after behind this one
   * @param to up to this one
   */
  @Transactional(readOnly = true)
  public List<SessionEvent> events(String session, long after, long to, int most) {
    return jdbc.sql(
            "select body from floor_event where session = ? and seq > ? and seq <= ? order by seq"
                + " limit ?")
        .params(session, after, to, most)
        .query((r, n) -> json.readValue(r.getString(1), Wire.EventTold.class).event())
        .list();
  }

  /** The events that no book has taken in yet, by session, in order. */
  @Transactional(propagation = Propagation.MANDATORY)
  public Map<String, List<SessionEvent>> waiting(Collection<String> sessions) {
    Map<String, List<SessionEvent>> waiting = new HashMap<>();
    if (!sessions.isEmpty()) {
      jdbc.sql(
              "select e.session, e.body from floor_session s join floor_event e on e.session = s.id"
                  + " and e.seq > s.folded where s.id in (:ids) order by e.session, e.seq")
          .param("ids", sessions)
          .query(
              (RowCallbackHandler)
                  r ->
                      waiting
                          .computeIfAbsent(r.getString(1), s -> new ArrayList<>())
                          .add(json.readValue(r.getString(2), Wire.EventTold.class).event()));
    }
    return waiting;
  }

  /** The last events of a session, the newest first. */
  @Transactional(readOnly = true)
  public List<SessionEvent> lastEvents(String session, long to, int most) {
    return jdbc.sql(
            "select body from floor_event where session = ? and seq <= ? order by seq desc limit ?")
        .params(session, to, most)
        .query((r, n) -> json.readValue(r.getString(1), Wire.EventTold.class).event())
        .list();
  }

  /** How far books have come. */
  record Folded(String session, long seq, String state, @Nullable Instant endedAt) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void folded(List<Folded> all) {
    batches.batchUpdate(
        "update floor_session set folded = ?, state = ?, ended_at = ? where id = ?",
        all.stream()
            .map(
                f -> {
                  Instant ended = f.endedAt();
                  return new Object[] {
                    f.seq(), f.state(), ended == null ? null : utc(ended), f.session()
                  };
                })
            .toList());
  }

  /** Running sessions that have events waiting for one that is missing. */
  @Transactional(readOnly = true)
  public List<FloorSession> withGaps() {
    return jdbc.sql(
            "select s.* from floor_session s where s.state in ('asked', 'open') and s.folded <"
                + " (select max(e.seq) from floor_event e where e.session = s.id)")
        .query(this::session)
        .list();
  }
}
