package app.uprightwarden.standins.sessions;

import static java.util.Comparator.comparing;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionEvent.Kind;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.SessionPlan.Comer;
import app.uprightwarden.core.session.Wire.Answered;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.PriorityQueue;
import java.util.function.Consumer;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;

/**
 * One session of the stand-in: plays its script by its own clock, asks the core's door about
 * everybody who comes, and obeys. Every method may be called by any thread.
 */
final class PlayedSession {
  private static final Duration TRIES_AGAIN = Duration.ofSeconds(25);

  private final SessionPlan plan;
  private final Instant wallFrom;
  private final Consumer<SessionEvent> told;
  private final SessionBook book;
  private final Map<String, Comer> cast;
  private final PriorityQueue<Step> script = new PriorityQueue<>(comparing(Step::at));
  private final List<SessionEvent> events = new ArrayList<>();
  private final Map<String, Answered> answered = new HashMap<>();
  private Instant wall;
  private Instant now;

  PlayedSession(SessionPlan plan, ControlValues values, Instant wall, Consumer<SessionEvent> told) {
    this.plan = plan;
    this.wallFrom = wall;
    this.wall = wall;
    this.now = plan.from();
    this.told = told;
    this.book = new SessionBook(plan.start(), values);
    Script written = Script.of(plan);
    this.cast = written.cast();
    script.addAll(written.steps());
    emit(Kind.OPENED, null, Map.of());
  }

  /** Lets the session's clock come to where it is at a time on the wall. */
  synchronized void tick(Instant at) {
    Instant until = clock(at);
    while (!book.ended() && !script.isEmpty() && !script.peek().at().isAfter(until)) {
      Step step = script.poll();
      now = step.at().isBefore(now) ? now : step.at();
      wall = at;
      act(step);
    }
    wall = at;
    now = until.isBefore(now) ? now : until;
  }

  private Instant clock(Instant at) {
    double seconds = Duration.between(wallFrom, at).toMillis() / 1000.0 * plan.practice().speed();
    return plan.from().plusMillis(Math.round(seconds * 1000));
  }

  synchronized boolean ended() {
    return book.ended();
  }

  synchronized boolean endedBefore(Instant at) {
    return book.ended() && events.get(events.size() - 1).happened().isBefore(at);
  }

  /** The events behind one, in order. */
  synchronized List<SessionEvent> after(long seq, int most) {
    int from = (int) Math.max(0, Math.min(seq, events.size()));
    return List.copyOf(events.subList(from, Math.min(events.size(), from + most)));
  }

  private void emit(Kind kind, @Nullable String who, Map<String, String> with) {
    SessionEvent event = new SessionEvent(events.size() + 1L, now, wall, kind, who, with);
    events.add(event);
    book.take(event);
    told.accept(event);
  }

  private void act(Step step) {
    Seat seat = book.seat(step.who());
    boolean inside = seat != null && seat.place() == Seat.Place.INSIDE;
    switch (step.deed()) {
      case ARRIVE -> arrive(step.who());
      case LEAVE -> {
        if (seat != null && seat.place() != Seat.Place.OUT) {
          emit(Kind.LEFT, step.who(), Map.of());
        }
      }
      case SHARE -> emitIf(may(seat, Right.SHARE_SCREEN), Kind.SHARE_STARTED, step.who());
      case STOP_SHARE -> emitIf(step.who().equals(book.sharing()), Kind.SHARE_STOPPED, step.who());
      case RECORD -> {
        if (may(seat, Right.RECORD)) {
          emit(Kind.RECORDING_STARTED, step.who(), Map.of());
          book.seats().stream().filter(s -> s.role() != null).toList().forEach(this::askConsent);
        }
      }
      case SPEAK -> emitIf(may(seat, Right.SPEAK), Kind.SPOKE, step.who());
      case CHAT -> emitIf(may(seat, Right.CHAT), Kind.CHATTED, step.who());
      case RENAME -> {
        if (may(seat, Right.RENAME_SELF)) {
          emit(Kind.RENAMED, step.who(), Map.of(SessionEvent.NAME, step.detail()));
        }
      }
      case LET_IN_EXPECTED -> {
        if (inside) {
          waiting(Seat::isExpected).forEach(who -> letIn(who, step.who(), Map.of()));
        }
      }
      case SET -> {
        int at = step.detail().indexOf('=');
        if (inside) {
          set(
              step.detail().substring(0, at),
              step.detail().substring(at + 1),
              Map.of(SessionEvent.BY, step.who()));
        }
      }
      case END -> emit(Kind.ENDED, null, Map.of());
    }
  }

  /** Whoever was asked to come agrees, who was not does not; a telephone cannot answer. */
  private void askConsent(Seat seat) {
    boolean asked = book.values().is(Control.RECORDING_CONSENT, "consent");
    if (asked && !seat.who().equals(book.recording()) && seat.joiner().route() == Route.APP) {
      boolean agrees = seat.isExpected() || seat.joiner().tie().hosts();
      emit(agrees ? Kind.CONSENT_GIVEN : Kind.CONSENT_DECLINED, seat.who(), Map.of());
    }
  }

  private void emitIf(boolean is, Kind kind, String who) {
    if (is) {
      emit(kind, who, Map.of());
    }
  }

  private boolean may(@Nullable Seat seat, Right right) {
    Role role = seat == null ? null : seat.role();
    return seat != null
        && role != null
        && (Roles.rights(book.values(), role, seat.joiner().route()) & right.bit()) != 0;
  }

  private void arrive(String who) {
    Comer comer = cast.get(who);
    Seat before = book.seat(who);
    if (comer == null || before != null && before.place() != Seat.Place.OUT) {
      return;
    }
    Map<String, String> facts = new LinkedHashMap<>();
    facts.put(SessionEvent.NAME, comer.name());
    facts.put(SessionEvent.STANDING, comer.standing());
    facts.put(SessionEvent.TIE, comer.tie());
    facts.put(SessionEvent.ROUTE, comer.route());
    facts.put(SessionEvent.PASSCODE, String.valueOf(comer.passcode()));
    facts.put(SessionEvent.LISTED_PRESENTER, String.valueOf(comer.listedPresenter()));
    if (comer.contributor()) {
      facts.put(SessionEvent.CONTRIBUTOR, "true");
    }
    put(facts, SessionEvent.ADDRESS, comer.address());
    put(facts, SessionEvent.REGION, comer.region());
    emit(Kind.ARRIVED, who, facts);
    ask(who);
  }

  private static void put(Map<String, String> facts, String name, @Nullable String value) {
    if (value != null) {
      facts.put(name, value);
    }
  }

  /** Asks the door about somebody who stands at it. */
  private void ask(String who) {
    Seat seat = book.seat(who);
    if (seat == null || seat.place() != Seat.Place.AT_DOOR) {
      return;
    }
    if (seat.barred()) {
      emit(Kind.REFUSED, who, Map.of(SessionEvent.STEP, DoorStep.REMOVED.id()));
      callIn(who);
      return;
    }
    Passage passage = Door.pass(book.values(), seat.joiner(), book.moment(now));
    DoorStep step = passage.step();
    Role role = passage.role();
    if (step != null) {
      boolean refused = passage.outcome() == Passage.Outcome.REFUSED;
      if (refused || !step.id().equals(seat.step())) {
        emit(refused ? Kind.REFUSED : Kind.HELD, who, Map.of(SessionEvent.STEP, step.id()));
      }
    } else if (role != null) {
      enter(who, role, Map.of());
    }
  }

  /** Whom a service knows by their device takes a telephone, on which nobody recognises them. */
  private void callIn(String who) {
    String caller = "call-" + who;
    Comer comer = cast.get(who);
    if (comer != null && comer.route().equals("app") && !cast.containsKey(caller)) {
      String name = "Caller " + (101 + cast.size() % 899);
      cast.put(
          caller,
          new Comer(
              caller,
              name,
              null,
              "unknown",
              "none",
              "phone",
              comer.region(),
              comer.passcode(),
              false,
              false));
      script.add(new Step(now.plus(TRIES_AGAIN), Step.Deed.ARRIVE, caller, ""));
    }
  }

  private void enter(String who, Role role, Map<String, String> with) {
    boolean firstHost = book.hostsIn() == 0;
    Map<String, String> facts = new LinkedHashMap<>(with);
    facts.put(SessionEvent.ROLE, role.id());
    emit(Kind.ENTERED, who, facts);
    Seat seat = book.seat(who);
    if (seat != null && book.recording() != null) {
      askConsent(seat);
    }
    if (firstHost && book.hostsIn() > 0) {
      askAll();
    }
  }

  private void askAll() {
    waiting(seat -> true).forEach(this::ask);
  }

  private List<String> waiting(Predicate<Seat> which) {
    return book.seats().stream()
        .filter(seat -> seat.place() == Seat.Place.AT_DOOR && which.test(seat))
        .map(Seat::who)
        .toList();
  }

  private void letIn(String who, String by, Map<String, String> cause) {
    Seat seat = book.seat(who);
    if (seat != null && seat.place() == Seat.Place.AT_DOOR) {
      Map<String, String> with = new LinkedHashMap<>(cause);
      with.put(SessionEvent.BY, by);
      enter(who, Roles.of(book.values(), seat.joiner()), with);
    }
  }

  /** Sets a control; false where it has no such value. */
  private boolean set(String control, String value, Map<String, String> with) {
    Map<String, String> facts = new LinkedHashMap<>(with);
    facts.put(SessionEvent.CONTROL, control);
    facts.put(SessionEvent.VALUE, value);
    Control known = Control.byId(control);
    if (known == null || !SessionBook.isValue(known, value)) {
      return false;
    }
    emit(Kind.SETTING, null, facts);
    if (known == Control.SCREEN_SHARE) {
      Seat sharing = book.sharing() == null ? null : book.seat(book.sharing());
      if (sharing != null && !may(sharing, Right.SHARE_SCREEN)) {
        emit(Kind.SHARE_STOPPED, sharing.who(), with);
      }
    }
    askAll();
    return true;
  }

  /** Does what it is told, once for each id. */
  synchronized Answered order(String id, Order order, String by, Instant at) {
    Answered before = answered.get(id);
    if (before != null) {
      return before;
    }
    tick(at);
    Answered answer =
        book.ended()
            ? new Answered(false, "the session has ended")
            : obey(order, by, caused(id, by));
    answered.put(id, answer);
    return answer;
  }

  private static Map<String, String> caused(String id, String by) {
    Map<String, String> with = new LinkedHashMap<>();
    with.put(SessionEvent.CAUSE, id);
    with.put(SessionEvent.BY, by);
    return with;
  }

  private Answered obey(Order order, String by, Map<String, String> with) {
    int before = events.size();
    switch (order.act()) {
      case LET_IN -> order.people().forEach(who -> letIn(who, by, with));
      case LET_IN_ALL -> waiting(seat -> true).forEach(who -> letIn(who, by, with));
      case TURN_AWAY -> each(order, Seat.Place.AT_DOOR, Kind.TURNED_AWAY, with);
      case LOCK -> emit(Kind.LOCKED, null, with);
      case UNLOCK -> emit(Kind.UNLOCKED, null, with);
      case SET -> {
        Control control = order.control();
        String value = order.value();
        if (control == null || value == null || !set(control.id(), value, with)) {
          return new Answered(false, "there is no such setting");
        }
      }
      case ROLE -> {
        Map<String, String> facts = new LinkedHashMap<>(with);
        put(facts, SessionEvent.ROLE, order.value());
        each(order, Seat.Place.INSIDE, Kind.ROLE, facts);
      }
      case SILENCE -> each(order, Seat.Place.INSIDE, Kind.SILENCED, with);
      case SILENCE_ALL ->
          book.seats().stream()
              .filter(s -> s.role() != null && !s.joiner().tie().hosts() && !s.silenced())
              .map(Seat::who)
              .toList()
              .forEach(who -> emit(Kind.SILENCED, who, with));
      case STOP_SHARE -> stop(book.sharing(), Kind.SHARE_STOPPED, with);
      case STOP_RECORDING -> stop(book.recording(), Kind.RECORDING_STOPPED, with);
      case REMOVE -> remove(order, false, with);
      case REMOVE_AND_BAR -> remove(order, true, with);
      case END -> emit(Kind.ENDED, null, with);
    }
    return events.size() > before
        ? new Answered(true, "")
        : new Answered(false, "there is nothing to do it to any more");
  }

  private void stop(@Nullable String who, Kind kind, Map<String, String> with) {
    if (who != null) {
      emit(kind, who, with);
    }
  }

  private void each(Order order, Seat.Place where, Kind kind, Map<String, String> with) {
    for (String who : order.people()) {
      Seat seat = book.seat(who);
      if (seat != null && seat.place() == where) {
        emit(kind, who, with);
      }
    }
  }

  /** Hosts stay; who is removed and was not asked to come tries again. */
  private void remove(Order order, boolean bar, Map<String, String> with) {
    Map<String, String> facts = new LinkedHashMap<>(with);
    facts.put(SessionEvent.BARRED, String.valueOf(bar));
    for (String who : order.people()) {
      Seat seat = book.seat(who);
      if (seat != null && seat.role() != null && seat.role() != Role.HOST) {
        emit(Kind.REMOVED, who, facts);
        if (!seat.isExpected()) {
          script.add(new Step(now.plus(TRIES_AGAIN), Step.Deed.ARRIVE, who, ""));
        }
      }
    }
  }
}
