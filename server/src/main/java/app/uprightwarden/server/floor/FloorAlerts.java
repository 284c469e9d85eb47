package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Alert;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.bridge.Wire;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.problem.Texts;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.time.Clock;
import java.time.Instant;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import org.jspecify.annotations.Nullable;
import org.springframework.jdbc.core.JdbcTemplate;
import org.springframework.jdbc.core.RowCallbackHandler;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import tools.jackson.databind.json.JsonMapper;

/** Alerts: raised once, and handled by people. */
@Service
class FloorAlerts {
  private final JdbcClient jdbc;
  private final JdbcTemplate batches;
  private final Ledger ledger;
  private final Signals signals;
  private final JsonMapper json;
  private final Clock clock;

  FloorAlerts(
      JdbcClient jdbc,
      JdbcTemplate batches,
      Ledger ledger,
      Signals signals,
      JsonMapper json,
      Clock clock) {
    this.jdbc = jdbc;
    this.batches = batches;
    this.ledger = ledger;
    this.signals = signals;
    this.json = json;
    this.clock = clock;
  }

  /** An alert of a session, and when what it is about happened. */
  record Raised(String session, Alert alert, Instant happened) {}

  /**
   * An alert as pages see it.
   *
   * @param end the act that ends it
   * @param millis from what happened to the alert
   */
  record FloorAlert(
      long id,
      String session,
      String kind,
      String title,
      long seq,
      @Nullable String who,
      @Nullable String guarantee,
      int severity,
      String words,
      EndingAct end,
      Instant happened,
      long millis,
      String state,
      @Nullable String handledBy,
      @Nullable String handedTo,
      @Nullable String note) {}

  /** An act that ends an alert. */
  record EndingAct(
      String act, List<String> people, @Nullable String control, @Nullable String value) {}

  @Transactional(propagation = Propagation.MANDATORY)
  public void raise(List<Raised> raised) {
    Instant now = clock.instant();
    batches.batchUpdate(
        "insert ignore into floor_alert (session, alert_key, kind, seq, who, guarantee, severity,"
            + " words, act, happened, raised, changed_at) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?,"
            + " ?)",
        raised.stream().map(each -> row(each, now)).toList());
  }

  private @Nullable Object[] row(Raised raised, Instant now) {
    Alert alert = raised.alert();
    return new @Nullable Object[] {
      raised.session(),
      alert.key(),
      alert.kind().id(),
      alert.seq(),
      alert.who(),
      alert.guarantee(),
      alert.severity(),
      alert.words(),
      json.writeValueAsString(Wire.OrderSent.of("", "", alert.end())),
      FloorStore.utc(raised.happened()),
      FloorStore.utc(now),
      FloorStore.utc(now)
    };
  }

  private FloorAlert alert(ResultSet r, int n) throws SQLException {
    Wire.OrderSent end = json.readValue(r.getString("act"), Wire.OrderSent.class);
    String kind = r.getString("kind");
    Instant happened = FloorStore.instant(r, "happened");
    return new FloorAlert(
        r.getLong("id"),
        r.getString("session"),
        kind,
        kind(kind).title(),
        r.getLong("seq"),
        r.getString("who"),
        r.getString("guarantee"),
        r.getInt("severity"),
        r.getString("words"),
        new EndingAct(end.act(), end.people(), end.control(), end.value()),
        happened,
        FloorStore.instant(r, "raised").toEpochMilli() - happened.toEpochMilli(),
        r.getString("state"),
        r.getString("handled_by"),
        r.getString("handed_to"),
        r.getString("note"));
  }

  static Alert.Kind kind(String id) {
    return Arrays.stream(Alert.Kind.values())
        .filter(kind -> kind.id().equals(id))
        .findFirst()
        .orElse(Alert.Kind.GUARANTEE_BROKEN);
  }

  /** The alerts of a session: what is not closed first, the worst of it first. */
  @Transactional(readOnly = true)
  public List<FloorAlert> of(String session) {
    return jdbc.sql(
            "select * from floor_alert where session = ? order by state = 'closed', state <> 'open',"
                + " severity desc, id desc limit 500")
        .param(session)
        .query(this::alert)
        .list();
  }

  @Transactional(readOnly = true)
  public FloorAlert get(long id) {
    return jdbc.sql("select * from floor_alert where id = ?")
        .param(id)
        .query(this::alert)
        .optional()
        .orElseThrow(() -> ProblemException.notFound("There is no alert " + id + "."));
  }

  /** How many are not closed, and the worst of those, by session. */
  record Pending(int count, int worst) {}

  @Transactional(readOnly = true)
  public Map<String, Pending> pending() {
    Map<String, Pending> pending = new HashMap<>();
    jdbc.sql(
            "select session, count(*), max(severity) from floor_alert where state <> 'closed' group"
                + " by session")
        .query(
            (RowCallbackHandler)
                r -> pending.put(r.getString(1), new Pending(r.getInt(2), r.getInt(3))));
    return pending;
  }

  /**
   * Takes an alert a step on.
   *
   * @param state {@code acknowledged}, {@code handed-on} or {@code closed}
   * @param to whom it is handed on to, or null
   * @throws ProblemException 409 where it is closed already
   */
  @Transactional
  public FloorAlert handle(
      long id, String state, @Nullable String to, @Nullable String note, SignedIn by) {
    FloorAlert was = get(id);
    if (was.state().equals("closed")) {
      throw ProblemException.conflict(
          "closed", "This alert was closed by " + was.handledBy() + " already.");
    }
    jdbc.sql(
            "update floor_alert set state = ?, handled_by = ?, handed_to = coalesce(?, handed_to),"
                + " note = coalesce(?, note), changed_at = ? where id = ?")
        .params(Arrays.asList(state, by.email(), to, note, FloorStore.utc(clock.instant()), id))
        .update();
    FloorAlert is = get(id);
    ledger.changed(
        "alert",
        String.valueOf(id),
        Texts.cut(was.words(), 300),
        () -> handling(was),
        () -> handling(is),
        by.email());
    signals.send(Signals.Topic.FLOOR);
    return is;
  }

  private static Map<String, Object> handling(FloorAlert alert) {
    return InOrder.map(
        "state",
        alert.state(),
        "handedTo",
        Objects.requireNonNullElse(alert.handedTo(), ""),
        "note",
        Objects.requireNonNullElse(alert.note(), ""));
  }
}
