package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.ledger.Ledger;
import app.uprightwarden.server.live.Signals;
import app.uprightwarden.server.problem.InOrder;
import app.uprightwarden.server.problem.ProblemException;
import java.time.Clock;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;
import tools.jackson.core.type.TypeReference;
import tools.jackson.databind.json.JsonMapper;

/**
 * Any number of sessions locked by one act, and undone as one: the door is locked, the waiting room
 * is on, what is shared is stopped. What was so before stays so when it is undone.
 */
@Service
class FloorLockdown {
  private static final Duration SHOWN = Duration.ofDays(1);

  private final FloorStore store;
  private final FloorBooks books;
  private final FloorOrders orders;
  private final FloorLockdownRepository rows;
  private final Ledger ledger;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final JsonMapper json;
  private final Clock clock;

  FloorLockdown(
      FloorStore store,
      FloorBooks books,
      FloorOrders orders,
      FloorLockdownRepository rows,
      Ledger ledger,
      Signals signals,
      TransactionTemplate transaction,
      JsonMapper json,
      Clock clock) {
    this.store = store;
    this.books = books;
    this.orders = orders;
    this.rows = rows;
    this.ledger = ledger;
    this.signals = signals;
    this.transaction = transaction;
    this.json = json;
    this.clock = clock;
  }

  /** How a session was before. */
  record Before(String session, boolean locked, String waitingRoom, boolean sharing) {}

  /** A lockdown as it is shown. */
  record LockdownView(long id, int sessions, String by, Instant at, @Nullable Instant undoneAt) {}

  /**
   * @param wanted the sessions concerned; empty for all that are running
   * @throws ProblemException 409 where none of them is running
   */
  LockdownView lockDown(List<String> wanted, SignedIn who) {
    Set<String> some = Set.copyOf(wanted);
    List<Before> before = new ArrayList<>();
    for (FloorSession session : store.running()) {
      if (some.isEmpty() || some.contains(session.id())) {
        before.add(
            books.with(
                session,
                kept ->
                    new Before(
                        session.id(),
                        kept.book.locked(),
                        FloorFollow.text(
                            Control.WAITING_ROOM,
                            kept.book.values().effective(Control.WAITING_ROOM)),
                        kept.book.sharing() != null)));
      }
    }
    if (before.isEmpty()) {
      throw ProblemException.conflict(
          "none-running", "None of these sessions is running any more.");
    }
    FloorLockdownEntity row = new FloorLockdownEntity();
    List<String> ids = new ArrayList<>();
    transaction.executeWithoutResult(
        status -> {
          row.document = json.writeValueAsString(before);
          row.byWhom = who.email();
          row.at = clock.instant();
          rows.insert(row);
          for (Before each : before) {
            String key = "down-" + row.id + "-" + each.session();
            if (!each.locked()) {
              ids.add(order(key + "-l", each, Order.of(Order.Act.LOCK), who));
            }
            if (!each.waitingRoom().equals("on")) {
              ids.add(order(key + "-w", each, waitingRoom("on"), who));
            }
            if (each.sharing()) {
              ids.add(order(key + "-s", each, Order.of(Order.Act.STOP_SHARE), who));
            }
          }
          note(row, "locked-down", who);
        });
    orders.sendAll(ids);
    signals.send(Signals.Topic.FLOOR);
    return view(row);
  }

  private String order(String key, Before of, Order order, SignedIn who) {
    String id =
        key.length() > 60
            ? java.util
                .UUID
                .nameUUIDFromBytes(key.getBytes(java.nio.charset.StandardCharsets.UTF_8))
                .toString()
            : key;
    orders.later(of.session(), id, order, who.email());
    return id;
  }

  private static Order waitingRoom(String value) {
    return new Order(Order.Act.SET, List.of(), Control.WAITING_ROOM, value);
  }

  private void note(FloorLockdownEntity row, String what, SignedIn who) {
    ledger.changed(
        "lockdown",
        String.valueOf(row.id),
        what,
        null,
        () -> InOrder.map("act", what, "sessions", before(row).size()),
        who.email());
  }

  private List<Before> before(FloorLockdownEntity row) {
    return json.readValue(row.document, new TypeReference<List<Before>>() {});
  }

  private LockdownView view(FloorLockdownEntity row) {
    return new LockdownView(row.id, before(row).size(), row.byWhom, row.at, row.undoneAt);
  }

  /** Those of the last day that stand. */
  List<LockdownView> standing() {
    return rows.standing(clock.instant().minus(SHOWN)).stream().map(this::view).toList();
  }

  /**
   * Undoes one: unlocked is what was, waiting rooms are as they were. Nobody shares again by that.
   *
   * @throws ProblemException 409 where it is undone already
   */
  LockdownView undo(long id, SignedIn who) {
    List<String> ids = new ArrayList<>();
    FloorLockdownEntity row =
        transaction.execute(
            status -> {
              FloorLockdownEntity of =
                  rows.locked(id)
                      .orElseThrow(
                          () -> ProblemException.notFound("There is no lockdown " + id + "."));
              if (of.undoneAt != null) {
                throw ProblemException.conflict(
                    "undone", "This was undone by " + of.undoneBy + " already.");
              }
              of.undoneAt = clock.instant();
              of.undoneBy = who.email();
              rows.update(of);
              for (Before each : before(of)) {
                String key = "up-" + id + "-" + each.session();
                if (!each.locked()) {
                  ids.add(order(key + "-l", each, Order.of(Order.Act.UNLOCK), who));
                }
                if (!each.waitingRoom().equals("on")) {
                  ids.add(order(key + "-w", each, waitingRoom(each.waitingRoom()), who));
                }
              }
              note(of, "undone", who);
              return of;
            });
    orders.sendAll(ids);
    signals.send(Signals.Topic.FLOOR);
    return view(java.util.Objects.requireNonNull(row));
  }
}
