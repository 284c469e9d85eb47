package app.uprightwarden.server.floor;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.people.Directory;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.Seat;
import app.uprightwarden.core.session.SessionBook;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.server.access.Role;
import app.uprightwarden.server.access.SignedIn;
import app.uprightwarden.server.people.UnitScope;
import app.uprightwarden.server.problem.ProblemException;
import app.uprightwarden.server.register.ControlsJson;
import java.time.Clock;
import java.util.Comparator;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.springframework.stereotype.Service;

/** Sessions as pages see them, and what is done in them. Hosts see their own alone. */
@Service
class FloorService {
  private static final int MAX_OVER = 50;
  private static final Set<String> SETTLED = Set.of("closed", "ended");
  private static final int MAX_MOMENTS = 40;

  /** As many as one order may name. */
  private static final int MAX_LET_IN = 5000;

  private static final int MAX_OPEN = 2000;
  private static final int MAX_ON_STRIP = 3;
  private static final String ABOUT_THEMSELVES =
      "This alert is about what you did yourself. Somebody else has to close it.";

  private final UnitScope units;
  private final FloorStore store;
  private final FloorBooks books;
  private final FloorAlerts alerts;
  private final FloorOrders orders;
  private final FloorLimits limits;
  private final FloorFollow follow;
  private final Clock clock;

  FloorService(
      UnitScope units,
      FloorStore store,
      FloorBooks books,
      FloorAlerts alerts,
      FloorOrders orders,
      FloorLimits limits,
      FloorFollow follow,
      Clock clock) {
    this.units = units;
    this.store = store;
    this.books = books;
    this.alerts = alerts;
    this.orders = orders;
    this.limits = limits;
    this.follow = follow;
    this.clock = clock;
  }

  List<FloorView.SessionLine> running(SignedIn who) {
    return lines(store.running(), who);
  }

  List<FloorView.SessionLine> over(SignedIn who) {
    return lines(store.over(MAX_OVER), who);
  }

  private List<FloorView.SessionLine> lines(List<FloorSession> sessions, SignedIn who) {
    Map<String, FloorAlerts.Pending> pending = alerts.pending();
    return sessions.stream()
        .filter(session -> maySee(session, who))
        .map(session -> books.with(session, kept -> line(session, kept.book, pending, who)))
        .toList();
  }

  private boolean maySee(FloorSession session, SignedIn who) {
    return hosts(session, who) || !who.isHost() && units.hasHost(who, session.host());
  }

  private static boolean hosts(FloorSession session, SignedIn who) {
    String address = Directory.fold(who.email());
    return Directory.fold(session.host()).equals(address)
        || session.coHosts().stream().anyMatch(c -> Directory.fold(c).equals(address));
  }

  private boolean mayAct(FloorSession session, SignedIn who) {
    boolean looksAfterIt = who.role() == Role.UNIT_WARDEN && units.hasHost(who, session.host());
    return who.role() == Role.WARDEN || looksAfterIt || hosts(session, who);
  }

  FloorSession get(String id, SignedIn who) {
    return store
        .find(id)
        .filter(session -> maySee(session, who))
        .orElseThrow(() -> ProblemException.notFound("There is no session " + id + " for you."));
  }

  private FloorView.SessionLine line(
      FloorSession session,
      SessionBook book,
      Map<String, FloorAlerts.Pending> pending,
      SignedIn who) {
    int[] places = new int[3];
    book.seats().forEach(seat -> places[seat.place().ordinal()]++);
    FloorAlerts.Pending open = pending.getOrDefault(session.id(), new FloorAlerts.Pending(0, 0));
    return new FloorView.SessionLine(
        session.id(),
        session.meeting(),
        session.title(),
        session.host(),
        session.state(),
        session.practice(),
        session.starts(),
        session.ends(),
        session.clock(clock.instant()),
        session.speed(),
        book.locked(),
        book.values().is(Control.WAITING_ROOM, "on"),
        places[Seat.Place.AT_DOOR.ordinal()],
        places[Seat.Place.INSIDE.ordinal()],
        places[Seat.Place.OUT.ordinal()],
        book.hostsIn(),
        open.count(),
        open.worst(),
        mayAct(session, who) && !session.isOver());
  }

  /**
   * A session's page.
   *
   * @param text names and addresses hold it; empty for all
   * @param most of each list
   */
  FloorView.SessionPage page(String id, String text, int most, SignedIn who) {
    FloorSession session = get(id, who);
    List<FloorAlerts.FloorAlert> raised = alerts.of(id);
    Set<String> about = new HashSet<>();
    raised.stream()
        .filter(alert -> !SETTLED.contains(alert.state()))
        .forEach(alert -> about.add(String.valueOf(alert.who())));
    List<SessionEvent> last = store.lastEvents(id, session.folded(), MAX_MOMENTS);
    List<FloorOrders.FloorOrder> unsettled = orders.unsettled(id);
    Map<String, FloorAlerts.Pending> pending = alerts.pending();
    ControlValues meeting = follow.wanted(session);
    return books.with(
        session,
        kept -> {
          SessionBook book = kept.book;
          List<FloorView.PersonLine> door =
              people(book, Seat.Place.AT_DOOR, about, text, Comparator.comparing(Seat::since));
          List<FloorView.PersonLine> inside =
              people(book, Seat.Place.INSIDE, about, text, insideOrder(about));
          List<FloorView.PersonLine> out =
              people(
                  book, Seat.Place.OUT, about, text, Comparator.comparing(Seat::since).reversed());
          return new FloorView.SessionPage(
              line(session, book, pending, who),
              book.seq(),
              ControlsJson.plain(book.values()),
              first(door, most),
              first(inside, most),
              first(out, most),
              door.size(),
              inside.size(),
              out.size(),
              (int) atDoor(book).filter(seat -> !seat.isExpected()).count(),
              raised,
              unsettled,
              FloorFollow.behind(session, meeting, book),
              last.stream().map(event -> SessionEventText.moment(event, book)).toList());
        });
  }

  private static Stream<Seat> atDoor(SessionBook book) {
    return book.seats().stream().filter(seat -> seat.place() == Seat.Place.AT_DOOR);
  }

  private static <T> List<T> first(List<T> all, int most) {
    return all.subList(0, Math.min(all.size(), most));
  }

  /** Those an alert is about first, then by what they are. */
  private static Comparator<Seat> insideOrder(Set<String> about) {
    return Comparator.<Seat, Boolean>comparing(seat -> !about.contains(seat.who()))
        .thenComparing(seat -> Objects.requireNonNull(seat.role()))
        .thenComparing(Seat::since);
  }

  private static List<FloorView.PersonLine> people(
      SessionBook book, Seat.Place place, Set<String> about, String text, Comparator<Seat> order) {
    String wanted = text.strip().toLowerCase(Locale.ROOT);
    return book.seats().stream()
        .filter(seat -> seat.place() == place && holds(seat, wanted))
        .sorted(order)
        .map(seat -> person(book, seat, about))
        .toList();
  }

  private static boolean holds(Seat seat, String wanted) {
    String address = seat.address();
    return wanted.isEmpty()
        || seat.name().toLowerCase(Locale.ROOT).contains(wanted)
        || address != null && address.contains(wanted);
  }

  /** Which of some meetings are in session, of those somebody may see. */
  List<FloorFollow.InSession> inSession(List<String> meetings, SignedIn who) {
    return follow.inSession(meetings, session -> maySee(session, who));
  }

  private static FloorView.PersonLine person(SessionBook book, Seat seat, Set<String> about) {
    app.uprightwarden.core.people.Role role = seat.role();
    boolean wasIn = !seat.stays().isEmpty();
    String by = seat.letInBy();
    Seat keeper = by == null ? null : book.seat(by);
    return new FloorView.PersonLine(
        seat.who(),
        seat.name(),
        seat.address(),
        seat.joiner().standing().id(),
        seat.joiner().tie().id(),
        seat.joiner().route().id(),
        seat.isExpected(),
        seat.since(),
        seat.step(),
        role == null ? null : role.id(),
        wasIn ? FloorAfter.way(seat.way()) : null,
        wasIn ? keeper == null ? by : keeper.name() : null,
        seat.whyOut(),
        seat.silenced(),
        seat.removals(),
        seat.barred(),
        seat.who().equals(book.sharing()),
        seat.who().equals(book.recording()),
        about.contains(seat.who()));
  }

  private FloorSession mine(String id, SignedIn who) {
    FloorSession session = get(id, who);
    if (!mayAct(session, who)) {
      throw ProblemException.forbidden(
          "not-allowed", "Wardens and the hosts of a session may act in it.");
    }
    return session;
  }

  /**
   * Lets those in who are at the door as it is known here now, by name: whoever comes until the
   * service hears of it still waits.
   *
   * @param onlyInvited those who were not stay
   * @param uninvited how many of those not invited may come in with the others; null for any
   * @throws ProblemException 409 where nobody is there, or more of them
   */
  FloorOrders.FloorOrder letIn(
      String id, String key, boolean onlyInvited, @Nullable Integer uninvited, SignedIn who) {
    FloorSession session = mine(id, who);
    FloorOrders.FloorOrder before = orders.again(session.id(), key, Order.Act.LET_IN);
    if (before != null) {
      return before;
    }
    List<Seat> door =
        books.with(
            session, kept -> atDoor(kept.book).sorted(Comparator.comparing(Seat::since)).toList());
    long strangers = door.stream().filter(seat -> !seat.isExpected()).count();
    if (!onlyInvited && uninvited != null && strangers > uninvited) {
      throw ProblemException.conflict(
          "more-uninvited",
          "By now " + strangers + " at the door were not invited. Look who they are first.");
    }
    List<String> people =
        door.stream()
            .filter(seat -> !onlyInvited || seat.isExpected())
            .map(Seat::who)
            .limit(MAX_LET_IN)
            .toList();
    if (people.isEmpty()) {
      throw ProblemException.conflict("nobody-waits", "Nobody like that is at the door.");
    }
    return orders.order(session.id(), key, new Order(Order.Act.LET_IN, people, null, null), who);
  }

  /** Has something done in a session; what comes of it is told by its events. */
  FloorOrders.FloorOrder order(
      String id, String key, Order order, @Nullable String reason, SignedIn who) {
    FloorSession session = mine(id, who);
    limits.check(session, order, reason, who);
    return orders.order(session.id(), key, order, who);
  }

  /** An alert of a session one may act in. */
  FloorAlerts.FloorAlert handle(
      long alert, String state, @Nullable String to, @Nullable String note, SignedIn who) {
    FloorAlerts.FloorAlert of = alerts.get(alert);
    FloorSession session = get(of.session(), who);
    mayHandle(session, who);
    if (state.equals("closed") && isAbout(session, of, who)) {
      throw ProblemException.forbidden("own-alert", ABOUT_THEMSELVES);
    }
    return alerts.handle(alert, state, to, note, who);
  }

  private void mayHandle(FloorSession session, SignedIn who) {
    if (!mayAct(session, who)) {
      throw ProblemException.forbidden(
          "not-allowed", "Wardens and the hosts of a session handle its alerts.");
    }
  }

  private boolean isAbout(FloorSession session, FloorAlerts.FloorAlert alert, SignedIn who) {
    String by = alert.byWhom();
    String about = alert.who();
    Seat seat = about == null ? null : books.with(session, kept -> kept.book.seat(about));
    String address = seat == null ? null : seat.address();
    String own = Directory.fold(who.email());
    return by != null && Directory.fold(by).equals(own)
        || address != null && Directory.fold(address).equals(own);
  }

  /** All alerts of one cause are handled as one; how many that were. */
  int handleAll(String id, String cause, String state, @Nullable String note, SignedIn who) {
    FloorSession session = get(id, who);
    mayHandle(session, who);
    List<FloorAlerts.FloorAlert> all = alerts.ofCause(id, cause);
    if (state.equals("closed") && all.stream().anyMatch(each -> isAbout(session, each, who))) {
      throw ProblemException.forbidden("own-alert", ABOUT_THEMSELVES);
    }
    all.forEach(each -> alerts.handle(each.id(), state, null, note, who));
    return all.size();
  }

  /**
   * What stands open in sessions that somebody may see.
   *
   * @param count of causes, not of alerts
   */
  record OpenAlerts(int count, List<FloorAlerts.OpenAlert> worst) {}

  OpenAlerts open(SignedIn who) {
    Map<String, FloorAlerts.OpenAlert> causes = new LinkedHashMap<>();
    Set<String> seen = null;
    if (who.isHost() || who.role() == Role.UNIT_WARDEN) {
      seen = new HashSet<>();
      for (FloorSession session : store.running()) {
        if (maySee(session, who)) {
          seen.add(session.id());
        }
      }
    }
    for (FloorAlerts.OpenAlert each : alerts.open(who.email(), MAX_OPEN)) {
      if (seen == null || seen.contains(each.session())) {
        causes.putIfAbsent(each.session() + "|" + each.cause(), each);
      }
    }
    return new OpenAlerts(causes.size(), causes.values().stream().limit(MAX_ON_STRIP).toList());
  }
}
