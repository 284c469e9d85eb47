package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.Wire;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.server.bridge.SessionHolders;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.databind.json.JsonMapper;

/**
 * Orders to the conference service. Each is stored before it is sent, so that one sent twice is one
 * and one that met nobody is sent again.
 */
@Service
class FloorOrders {
  private static final int MAX_ATTEMPTS = 12;
  private static final int AT_ONCE = 8;
  private static final Duration LONGEST_WAIT = Duration.ofSeconds(10);

  private final FloorOrderRepository orders;
  private final FloorStore store;
  private final SessionHolders holders;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final JsonMapper json;
  private final Clock clock;

  FloorOrders(
      FloorOrderRepository orders,
      FloorStore store,
      SessionHolders holders,
      Signals signals,
      TransactionTemplate transaction,
      JsonMapper json,
      Clock clock) {
    this.orders = orders;
    this.store = store;
    this.holders = holders;
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

  private record StoredOrder(String session, String by, Wire.OrderSent sent, FloorOrder order) {}

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
        status -> {
          if (orders.add(id, session, body, by.email(), now, now.plusSeconds(2)) > 0) {
            giveUpBefore(session, id, order);
          }
        });
    StoredOrder stored = find(id).orElseThrow();
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

  /**
   * What becomes of an order that was given before, sent again where it met nobody; null where
   * there is none of that id.
   */
  @Nullable FloorOrder again(String session, String id, Order.Act act) {
    StoredOrder stored =
        find(id)
            .filter(each -> each.session().equals(session) && each.sent().act().equals(act.id()))
            .orElse(null);
    if (stored == null) {
      return null;
    }
    return stored.order().state().equals("waiting") ? send(stored) : stored.order();
  }

  /** What still waits for the service and would undo an order that is given now is given up. */
  private void giveUpBefore(String session, String id, Order order) {
    for (FloorOrderEntity row : orders.waiting(session)) {
      if (!row.id.equals(id) && order.replaces(stored(row).sent().order())) {
        orders.giveUp(row.id, "a later order has taken its place");
      }
    }
  }

  /** Has something done soon, once for each id; stored in the transaction that wants it. */
  @Transactional(propagation = Propagation.MANDATORY)
  public void later(String session, String id, Order order, String by) {
    Instant now = clock.instant();
    String body = json.writeValueAsString(Wire.OrderSent.of(id, by, order));
    orders.add(id, session, body, by, now, now);
  }

  private FloorOrder send(StoredOrder stored) {
    FloorOrder order = stored.order();
    String state;
    String reason;
    try {
      Wire.Answered answer = ask(stored);
      state = answer.done() ? "done" : "refused";
      reason = answer.reason();
    } catch (SessionHolder.Away e) {
      boolean isLast = order.attempts() + 1 >= MAX_ATTEMPTS;
      state = isLast ? "given-up" : "waiting";
      reason = String.valueOf(e.getMessage());
    }
    Duration wait = Duration.ofMillis(500L << Math.min(order.attempts(), 8));
    Instant next = clock.instant().plus(wait.compareTo(LONGEST_WAIT) > 0 ? LONGEST_WAIT : wait);
    String is = state;
    String why = reason;
    transaction.executeWithoutResult(
        status -> {
          orders.tried(order.id(), is, why, next);
          signals.send(Signals.Topic.FLOOR);
        });
    return find(order.id()).orElseThrow().order();
  }

  private Wire.Answered ask(StoredOrder stored) throws SessionHolder.Away {
    Long service = store.find(stored.session()).map(FloorSession::service).orElse(null);
    SessionHolder holder = holders.of(service);
    return holder == null
        ? new Wire.Answered(false, "its conference service is not linked any more")
        : holder.order(stored.session(), stored.order().id(), stored.sent().order(), stored.by());
  }

  /** Sends orders that are stored, several at once. */
  void sendAll(List<String> ids) {
    List<Callable<Boolean>> sends = new ArrayList<>();
    for (String id : ids) {
      sends.add(
          () -> {
            find(id).filter(each -> each.order().state().equals("waiting")).ifPresent(this::send);
            return true;
          });
    }
    ExecutorService threads = Executors.newFixedThreadPool(AT_ONCE);
    try {
      threads.invokeAll(sends); // what fails is stored, and sent again
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    } finally {
      threads.shutdown();
    }
  }

  /** Sends those again that met nobody. */
  void again() {
    orders.due(clock.instant()).forEach(id -> find(id).ifPresent(this::send));
  }

  private Optional<StoredOrder> find(String id) {
    return orders.find(id).map(this::stored);
  }

  private StoredOrder stored(FloorOrderEntity row) {
    Wire.OrderSent sent = json.readValue(row.body, Wire.OrderSent.class);
    return new StoredOrder(
        row.session,
        row.askedBy,
        sent,
        new FloorOrder(row.id, sent.act(), sent.people(), row.state, row.reason, row.attempts));
  }

  /** Those of a session that are not settled, and those that went wrong about a minute ago. */
  List<FloorOrder> unsettled(String session) {
    return orders.unsettled(session, clock.instant().minusSeconds(60)).stream()
        .map(row -> stored(row).order())
        .toList();
  }
}
