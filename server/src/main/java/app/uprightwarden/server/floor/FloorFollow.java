package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.meeting.Meeting;
import app.uprightwarden.core.service.Means;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.server.register.HeldMeeting;
import app.uprightwarden.server.register.RegisterChanges;
import app.uprightwarden.server.register.RegisterService;
import app.uprightwarden.server.register.StoredMeeting;
import java.nio.charset.StandardCharsets;
import java.time.LocalDateTime;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.UUID;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Predicate;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Component;
import org.springframework.transaction.event.TransactionPhase;
import org.springframework.transaction.event.TransactionalEventListener;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * A change of a meeting that is in session reaches the session: what was decided is ordered there
 * at once. What was set in the session itself stays, until the meeting's own value is changed.
 */
@Component
class FloorFollow {
  private static final String OURS = "upright-warden";
  private static final int AT_ONCE = 500;
  private static final int MAX_NOTED = 20_000;

  private final FloorStore store;
  private final FloorOrders orders;
  private final RegisterService register;
  private final TransactionTemplate transaction;
  private final Set<String> changed = ConcurrentHashMap.newKeySet();

  FloorFollow(
      FloorStore store,
      FloorOrders orders,
      RegisterService register,
      TransactionTemplate transaction) {
    this.store = store;
    this.orders = orders;
    this.register = register;
    this.transaction = transaction;
  }

  /**
   * Noted once it is committed, and looked at in the next round: at this place a transaction of our
   * own would still be the one that is over. What is missed here is found by {@link #all}.
   */
  @TransactionalEventListener(phase = TransactionPhase.AFTER_COMMIT)
  void changed(RegisterChanges.SomethingDue due) {
    if (changed.size() < MAX_NOTED) {
      changed.addAll(due.meetings());
    }
  }

  /** Looks at what was changed since the last time. */
  void changed() {
    List<String> meetings = List.copyOf(changed);
    meetings.forEach(changed::remove);
    for (int i = 0; i < meetings.size(); i += AT_ONCE) {
      follow(meetings.subList(i, Math.min(i + AT_ONCE, meetings.size())));
    }
  }

  /** Looks at every session that is running. */
  void all() {
    List<String> meetings =
        store.running().stream()
            .filter(session -> !session.practice())
            .map(FloorSession::meeting)
            .distinct()
            .toList();
    for (int i = 0; i < meetings.size(); i += AT_ONCE) {
      follow(meetings.subList(i, Math.min(i + AT_ONCE, meetings.size())));
    }
  }

  private void follow(Collection<String> meetings) {
    List<FloorStore.Following> sessions = store.ofMeetings(meetings);
    if (sessions.isEmpty()) {
      return;
    }
    Map<String, StoredMeeting> stored =
        register.among(sessions.stream().map(each -> each.session().meeting()).toList());
    for (FloorStore.Following each : sessions) {
      StoredMeeting of = stored.get(each.session().meeting());
      if (of != null) {
        follow(each, of);
      }
    }
  }

  private void follow(FloorStore.Following each, StoredMeeting stored) {
    FloorSession session = each.session();
    ControlValues wanted = valuesAt(stored.decided(), session.occurrence());
    List<Order> some = new ArrayList<>();
    for (Control control : Control.all()) {
      Value value = wanted.get(control);
      if (value != null
          && !value.equals(each.followed().get(control))
          && !ofPasscode(control)
          && reaches(stored, control)) {
        some.add(new Order(Order.Act.SET, List.of(), control, text(control, value)));
      }
    }
    if (some.isEmpty() && wanted.equals(each.followed())) {
      return;
    }
    transaction.executeWithoutResult(
        status -> {
          for (Order order : some) {
            // named by what it is: two servers that find it at once order it once
            String name =
                session.id() + "/" + stored.version() + "/" + order.control() + "=" + order.value();
            UUID id = UUID.nameUUIDFromBytes(name.getBytes(StandardCharsets.UTF_8));
            orders.later(session.id(), "follow-" + id, order, OURS);
          }
          store.follow(session.id(), wanted);
        });
  }

  /** What a passcode is like is read off it, and is no setting of a session. */
  private static boolean ofPasscode(Control control) {
    return control.family() == Control.PASSCODE.family();
  }

  private static boolean reaches(StoredMeeting stored, Control control) {
    HeldMeeting of = stored.service();
    return of == null || of.service().means().takes(control, Means.Place.SESSION);
  }

  /** A value as orders write it. */
  static String text(Control control, Value value) {
    return control.plain(value) instanceof List<?> names
        ? names.stream().map(String::valueOf).collect(Collectors.joining(","))
        : String.valueOf(control.plain(value));
  }

  /** The values of one date of a meeting: its own over those of the series. */
  static ControlValues valuesAt(Meeting meeting, String occurrence) {
    return meeting.changes().stream()
        .filter(change -> change.at().equals(LocalDateTime.parse(occurrence)))
        .findFirst()
        .map(change -> meeting.controls().overlaid(change.controls()))
        .orElse(meeting.controls());
  }

  /** What the meeting of a session has now; null where it is gone or the session is practice. */
  @Nullable ControlValues wanted(FloorSession session) {
    return session.practice() || session.isOver()
        ? null
        : register
            .find(session.meeting())
            .map(stored -> valuesAt(stored.decided(), session.occurrence()))
            .orElse(null);
  }

  /** Controls of which the meeting has a stricter value than its running session. */
  static List<String> behind(
      FloorSession session, @Nullable ControlValues meeting, SessionBook book) {
    if (meeting == null) {
      return List.of();
    }
    List<String> behind = new ArrayList<>();
    for (Control control : Control.matrix()) {
      Value wanted = meeting.get(control);
      Value holds = book.values().effective(control);
      if (wanted != null
          && !ofPasscode(control)
          && !Objects.equals(wanted, holds)
          && !control.within(holds, wanted)) {
        behind.add(control.id());
      }
    }
    return behind;
  }

  /**
   * A meeting that is in session.
   *
   * @param follows what is changed reaches the session
   * @param service the service that cannot change a running session; null where it can
   */
  record InSession(
      String meeting, String title, String session, boolean follows, @Nullable String service) {}

  List<InSession> inSession(Collection<String> meetings, Predicate<FloorSession> maySee) {
    List<FloorSession> sessions =
        store.ofMeetings(meetings).stream()
            .map(FloorStore.Following::session)
            .filter(maySee)
            .toList();
    Map<String, StoredMeeting> stored =
        register.among(sessions.stream().map(FloorSession::meeting).toList());
    return sessions.stream()
        .map(
            session -> {
              StoredMeeting of = stored.get(session.meeting());
              HeldMeeting held = of == null ? null : of.service();
              boolean follows =
                  held == null
                      || held.service().means().controls().values().stream()
                          .anyMatch(holds -> holds.writable().contains(Means.Place.SESSION));
              return new InSession(
                  session.meeting(),
                  session.title(),
                  session.id(),
                  follows,
                  follows || held == null ? null : held.service().name());
            })
        .toList();
  }
}
