package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.bridge.ConferenceBridge;
import app.uprightwarden.server.bridge.Wire;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Orders to the conference service. Each is stored before it is sent, so that one sent twice is one
 * and one that met nobody is sent again.
 */
@Service
class FloorOrders {
  private static final int MOST_ATTEMPTS = 12;
  private static final Duration LONGEST_WAIT = Duration.ofSeconds(10);

  private final JdbcClient jdbc;
  private final ConferenceBridge bridge;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final JsonMapper json;
  private final Clock clock;

  FloorOrders(
      JdbcClient jdbc,
      ConferenceBridge bridge,
      Signals signals,
      TransactionTemplate transaction,
      JsonMapper json,
      Clock clock) {
    this.jdbc = jdbc;
    this.bridge = bridge;
    this.signals = signals;
    this.transaction = transaction;
    this.json = json;
    this.clock = clock;
  }

  /**
   * What became of an order.
   *
   * @param state {@code waiting}, {@code done}, {@code refused} or {@code given-up}
   */
  record FloorOrder(
      String id, String act, List<String> people, String state, String reason, int attempts) {}

  private record Stored(String session, String by, Wire.OrderSent sent, FloorOrder order) {}

  /**
   * Has something done.
   *
   * @param id made by whoever asks; the same for the same click
   * @throws ProblemException 409 where the id was used for something else
   */
  FloorOrder order(String session, String id, Order order, SignedIn by) {
    Wire.OrderSent sent = Wire.OrderSent.of(id, by.email(), order);
    String body = json.writeValueAsString(sent);
    Instant now = clock.instant();
    transaction.executeWithoutResult(
        status ->
            jdbc.sql(
                    "insert ignore into floor_order (id, session, body, asked_by, at, state,"
                        + " next_at) values (?, ?, ?, ?, ?, 'waiting', ?)")
                .params(
                    id,
                    session,
                    body,
                    by.email(),
                    FloorStore.utc(now),
                    FloorStore.utc(now.plusSeconds(2)))
                .update());
    Stored stored = find(id).orElseThrow();
    boolean isSame =
        stored.session().equals(session)
            && stored.sent().act().equals(sent.act())
            && stored.sent().people().equals(sent.people());
    if (!isSame) {
      throw ProblemException.conflict(
          "id-taken", "This order's id was used for something else. Give each order its own.");
    }
    return stored.order().state().equals("waiting") ? send(stored) : stored.order();
  }

  private FloorOrder send(Stored stored) {
    FloorOrder order = stored.order();
    String state;
    String reason;
    try {
      ConferenceBridge.Answer answer =
          bridge.order(stored.session(), order.id(), stored.sent().order(), stored.by());
      state = answer.done() ? "done" : "refused";
      reason = answer.reason();
    } catch (ConferenceBridge.Away e) {
      boolean isLast = order.attempts() + 1 >= MOST_ATTEMPTS;
      state = isLast ? "given-up" : "waiting";
      reason = String.valueOf(e.getMessage());
    }
    Duration wait = Duration.ofMillis(500L << Math.min(order.attempts(), 8));
    Instant next = clock.instant().plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait);
    String is = state;
    String why = reason;
    transaction.executeWithoutResult(
        status -> {
          jdbc.sql(
                  "update floor_order set state = ?, reason = ?, attempts = attempts + 1, next_at ="
                      + " ? where id = ? and state = 'waiting'")
              .params(is, why, FloorStore.utc(next), order.id())
              .update();
          signals.send(Signals.Topic.FLOOR);
        });
    return find(order.id()).orElseThrow().order();
  }

  /** Sends those again that met nobody. */
  void again() {
    List<String> due =
        jdbc.sql(
                "select id from floor_order where state = 'waiting' and next_at <= ? order by at"
                    + " limit 50")
            .param(FloorStore.utc(clock.instant()))
            .query(String.class)
            .list();
    due.forEach(id -> find(id).ifPresent(this::send));
  }

  private Optional<Stored> find(String id) {
    return jdbc.sql("select * from floor_order where id = ?")
        .param(id)
        .query((r, n) -> stored(r))
        .optional();
  }

  private Stored stored(java.sql.ResultSet r) throws java.sql.SQLException {
    Wire.OrderSent sent = json.readValue(r.getString("body"), Wire.OrderSent.class);
    return new Stored(
        r.getString("session"),
        r.getString("asked_by"),
        sent,
        new FloorOrder(
            r.getString("id"),
            sent.act(),
            sent.people(),
            r.getString("state"),
            r.getString("reason"),
            r.getInt("attempts")));
  }

  /** Those of a session that are not settled, and those that went wrong about a minute ago. */
  List<FloorOrder> unsettled(String session) {
    return jdbc.sql(
            "select * from floor_order where session = ? and (state = 'waiting' or state <> 'done'"
                + " and next_at > ?) order by at desc limit 20")
        .params(session, FloorStore.utc(clock.instant().minusSeconds(60)))
        .query((r, n) -> stored(r).order())
        .list();
  }
}
