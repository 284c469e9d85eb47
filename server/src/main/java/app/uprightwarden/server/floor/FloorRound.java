package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Alert;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.bridge.SessionHolder;
import app.uprightwarden.server.bridge.SessionHolders;
import app.uprightwarden.server.live.Signals;
import java.time.Clock;
import java.time.Instant;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.slf4j.Logger;
import org.slf4j.LoggerFactory;
import org.springframework.dao.DataAccessException;
import org.springframework.scheduling.annotation.Scheduled;
import org.springframework.stereotype.Component;
import org.springframework.transaction.TransactionException;
import org.springframework.transaction.support.TransactionTemplate;

/** What the floor does by itself: fills gaps, sends again, and looks at the clock. */
@Component
class FloorRound {
  private static final Logger LOG = LoggerFactory.getLogger(FloorRound.class);
  private static final int EVERYBODY_EACH = 20;

  private final FloorStore store;
  private final FloorBooks books;
  private final FloorIntake intake;
  private final FloorAlerts alerts;
  private final FloorOrders orders;
  private final FloorOpening opening;
  private final FloorFollow follow;
  private final SessionHolders holders;
  private final Signals signals;
  private final TransactionTemplate transaction;
  private final Clock clock;
  private final Set<String> broken = new HashSet<>();
  private int round;

  FloorRound(
      FloorStore store,
      FloorBooks books,
      FloorIntake intake,
      FloorAlerts alerts,
      FloorOrders orders,
      FloorOpening opening,
      FloorFollow follow,
      SessionHolders holders,
      Signals signals,
      TransactionTemplate transaction,
      Clock clock) {
    this.store = store;
    this.books = books;
    this.intake = intake;
    this.alerts = alerts;
    this.orders = orders;
    this.opening = opening;
    this.follow = follow;
    this.holders = holders;
    this.signals = signals;
    this.transaction = transaction;
    this.clock = clock;
  }

  @Scheduled(fixedDelay = 500)
  void round() {
    try {
      round = (round + 1) % EVERYBODY_EACH;
      alone("changes", follow::changed);
      alone("orders", orders::again);
      List<FloorSession> lagging = round == 0 ? store.running() : store.withGaps();
      lagging.forEach(session -> alone(session.id(), () -> catchUp(session)));
      if (round == 0) {
        alone("openings", opening::openDue);
        alone("all changes", follow::all);
      }
      if (round % 4 == 0) {
        store.running().forEach(session -> alone(session.id(), () -> lookAtTheClock(session)));
      }
    } catch (DataAccessException | TransactionException e) {
      LOG.debug("the floor waits for the database");
    }
  }

  /** What is broken in one session holds up no other; it is logged once, and tried again. */
  private void alone(String what, Runnable work) {
    try {
      work.run();
      broken.remove(what);
    } catch (DataAccessException | TransactionException e) {
      throw e;
    } catch (RuntimeException e) {
      if (broken.add(what)) {
        LOG.error("{} of the floor cannot be gone on with", what, e);
      }
    }
  }

  /** Asks the service for what it has told and was not heard, or has yet to be told to open. */
  private void catchUp(FloorSession session) {
    try {
      SessionHolder holder = holders.of(session.service());
      if (holder == null) {
        lost(session);
        return;
      }
      List<SessionEvent> missing = holder.eventsAfter(session.id(), session.folded());
      if (missing == null) {
        boolean isAsked = session.state().equals("asked");
        if (!isAsked || !opening.openAtTheService(session)) {
          lost(session);
        }
      } else if (!missing.isEmpty()) {
        intake.take(
            session.service(),
            missing.stream().map(e -> new SessionEvents.Told(session.id(), e)).toList());
      }
    } catch (SessionHolder.Away e) {
      LOG.debug("the conference service is away: {}", e.getMessage());
    }
  }

  /** The service has forgotten it: it is over, and what was heard of it stays. */
  private void lost(FloorSession session) {
    Instant last = books.with(session, kept -> kept.book.last());
    transaction.executeWithoutResult(
        status -> {
          store.folded(
              List.of(
                  new FloorStore.Folded(
                      session.id(),
                      session.folded(),
                      "lost",
                      last == null ? session.clock(clock.instant()) : last)));
          alerts.endGone(session.id(), alert -> false, Set.of());
          signals.send(Signals.Topic.FLOOR);
        });
  }

  private void lookAtTheClock(FloorSession session) {
    Instant wall = clock.instant();
    List<Alert> late = books.with(session, k -> k.guard.at(k.book, session.clock(wall)));
    if (!late.isEmpty()) {
      transaction.executeWithoutResult(
          status ->
              alerts.raise(
                  late.stream()
                      .map(alert -> new FloorAlerts.Raised(session.id(), alert, wall, null))
                      .toList()));
    }
  }
}
