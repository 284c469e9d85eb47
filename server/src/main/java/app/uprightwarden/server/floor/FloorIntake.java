package app.uprightwarden.server.floor;

import app.uprightwarden.core.session.Alert;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.bridge.SessionEvents;
import app.uprightwarden.server.live.Signals;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionSynchronization;
import org.springframework.transaction.support.TransactionSynchronizationManager;

/**
 * Takes events in: stores each once, brings the books on as far as no event is missing, and has the
 * guard look at every one of them, in one transaction.
 */
@Service
class FloorIntake implements SessionEvents {
  /** What may end an alert by itself. */
  private static final Set<SessionEvent.Kind> OUT =
      EnumSet.of(SessionEvent.Kind.LEFT, SessionEvent.Kind.REMOVED, SessionEvent.Kind.TURNED_AWAY);

  private static final Set<SessionEvent.Kind> MAY_END =
      EnumSet.of(
          SessionEvent.Kind.LEFT,
          SessionEvent.Kind.REMOVED,
          SessionEvent.Kind.TURNED_AWAY,
          SessionEvent.Kind.ROLE,
          SessionEvent.Kind.SETTING,
          SessionEvent.Kind.SHARE_STARTED,
          SessionEvent.Kind.SHARE_STOPPED,
          SessionEvent.Kind.RECORDING_STARTED,
          SessionEvent.Kind.RECORDING_STOPPED,
          SessionEvent.Kind.LOCKED,
          SessionEvent.Kind.ENDED);

  private final FloorStore store;
  private final FloorBooks books;
  private final FloorAlerts alerts;
  private final FloorLimits limits;
  private final Signals signals;

  FloorIntake(
      FloorStore store, FloorBooks books, FloorAlerts alerts, FloorLimits limits, Signals signals) {
    this.store = store;
    this.books = books;
    this.alerts = alerts;
    this.limits = limits;
    this.signals = signals;
  }

  @Override
  @Transactional(readOnly = true)
  public List<Running> running(long service) {
    return store.atService(service).stream()
        .map(session -> new Running(session.id(), session.folded()))
        .toList();
  }

  @Override
  @Transactional
  public void take(@Nullable Long service, List<Told> events) {
    if (events.isEmpty()) {
      return;
    }
    List<FloorSession> sessions =
        store.forChange(events.stream().map(Told::session).distinct().toList()).stream()
            .filter(session -> Objects.equals(session.service(), service))
            .toList();
    forgetIfTakenBack(sessions);
    Map<String, FloorSession> byId = new HashMap<>();
    sessions.forEach(session -> byId.put(session.id(), session));
    store.addEvents(events.stream().filter(told -> isNew(told, byId)).toList());
    Map<String, List<SessionEvent>> waiting = store.waiting(byId.keySet());
    List<FloorStore.Folded> folded = new ArrayList<>();
    List<FloorAlerts.Raised> raised = new ArrayList<>();
    Map<String, List<SessionEvent>> ended = new LinkedHashMap<>();
    for (FloorSession session : sessions) {
      List<SessionEvent> some = waiting.getOrDefault(session.id(), List.of());
      FloorStore.Folded far = fold(session, some, raised);
      if (far != null) {
        folded.add(far);
        if (some.stream().anyMatch(event -> MAY_END.contains(event.kind()))) {
          ended.put(session.id(), some);
        }
      }
    }
    store.folded(folded);
    List<FloorAlerts.Raised> kept = limits.settle(raised);
    alerts.raise(kept);
    ended.forEach(this::endGone);
    if (!folded.isEmpty()) {
      signals.send(Signals.Topic.FLOOR);
    }
  }

  /** Those who went out and are in again have gone: what they did before is over. */
  private void endGone(String id, List<SessionEvent> some) {
    Map<String, Long> went = new HashMap<>();
    some.stream()
        .filter(event -> event.who() != null && OUT.contains(event.kind()))
        .forEach(event -> went.put("person/" + event.who(), event.seq()));
    FloorSession session = store.find(id).orElseThrow();
    books.with(
        session,
        kept -> {
          alerts.endGone(
              id,
              alert ->
                  alert.seq() > went.getOrDefault(alert.cause(), 0L)
                      && kept.guard.stands(
                          kept.book,
                          FloorAlerts.kind(alert.kind()),
                          alert.who(),
                          alert.guarantee(),
                          alert.cause()),
              went.keySet());
          return true;
        });
  }

  /** Of a session we know, and not in its book yet. */
  private static boolean isNew(Told told, Map<String, FloorSession> known) {
    FloorSession session = known.get(told.session());
    return session != null && told.event().seq() > session.folded();
  }

  /** The address of whoever did it; who asked for it where that is all that is known. */
  private static @Nullable String byWhom(SessionBook book, SessionEvent event) {
    String by = event.get(SessionEvent.BY);
    Seat seat = by == null ? null : book.seat(by);
    String address = seat == null ? by : seat.address();
    return address == null || address.length() > 254 ? null : address;
  }

  private void forgetIfTakenBack(List<FloorSession> sessions) {
    TransactionSynchronizationManager.registerSynchronization(
        new TransactionSynchronization() {
          @Override
          public void afterCompletion(int status) {
            if (status != STATUS_COMMITTED) {
              sessions.forEach(session -> books.forget(session.id()));
            }
          }
        });
  }

  /** Goes on as far as no event is missing. */
  private FloorStore.@Nullable Folded fold(
      FloorSession session, List<SessionEvent> waiting, List<FloorAlerts.Raised> raised) {
    return books.with(
        session,
        kept -> {
          SessionBook book = kept.book;
          long before = book.seq();
          for (SessionEvent event : waiting) {
            if (event.seq() != book.seq() + 1) {
              break;
            }
            String recorded = book.recording();
            book.take(event);
            for (Alert alert : kept.guard.after(book, event, recorded)) {
              raised.add(
                  new FloorAlerts.Raised(
                      session.id(), alert, event.happened(), byWhom(book, event)));
            }
          }
          if (book.seq() == before) {
            return null;
          }
          return new FloorStore.Folded(
              session.id(),
              book.seq(),
              book.ended() ? "ended" : "open",
              book.ended() ? book.last() : null);
        });
  }
}
