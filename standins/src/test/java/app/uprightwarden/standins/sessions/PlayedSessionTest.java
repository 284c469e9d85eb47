package app.uprightwarden.standins.sessions;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.control.ControlValues;
import app.uprightwarden.core.control.Scale;
import app.uprightwarden.core.control.Value;
import app.uprightwarden.core.door.Door;
import app.uprightwarden.core.door.DoorStep;
import app.uprightwarden.core.door.Moment;
import app.uprightwarden.core.door.Passage;
import app.uprightwarden.core.door.Roles;
import app.uprightwarden.core.people.Joiner;
import app.uprightwarden.core.people.Right;
import app.uprightwarden.core.people.Role;
import app.uprightwarden.core.people.Route;
import app.uprightwarden.core.people.Standing;
import app.uprightwarden.core.people.Tie;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.core.session.SessionEvent;
import app.uprightwarden.core.session.SessionEvent.Kind;
import app.uprightwarden.core.session.SessionPlan;
import app.uprightwarden.core.session.SessionPlan.Comer;
import app.uprightwarden.core.session.Wire;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.testng.annotations.Test;

/** The stand-in: held to the core's door and rights, and to doing what it is told, once. */
public class PlayedSessionTest {
  private static final Instant START = Instant.parse("2026-03-02T10:00:00Z");
  private static final Instant WALL = Instant.parse("2026-01-01T00:00:00Z");

  private final List<SessionEvent> events = new ArrayList<>();

  private PlayedSession session(ControlValues values, String script, int strangers, long seed) {
    events.clear();
    List<Comer> roster =
        List.of(
            new Comer("h", "Host", "h@x", "member", "host", "app", null, true, false, false),
            new Comer("a", "A", "a@x", "member", "named", "app", null, true, true, false),
            new Comer("b", "B", "b@y", "outsider", "named", "app", null, true, false, false),
            new Comer("l", "L", "l@x", "member", "listed", "app", null, true, false, false));
    return new PlayedSession(
        new SessionPlan(
            "s",
            null,
            "Title",
            "h@x",
            START,
            START.plusSeconds(1800),
            START.minusSeconds(300),
            Map.of(),
            roster,
            new SessionPlan.Practice(script, 1, strangers, seed)),
        values,
        WALL,
        events::add);
  }

  private static void play(PlayedSession session, int seconds) {
    for (int s = 0; s <= seconds; s += 5) {
      session.tick(WALL.plusSeconds(s));
    }
  }

  private static ControlValues random(Random random) {
    ControlValues values = ControlValues.NONE;
    for (Control control : Control.matrix()) {
      if (control.scale() instanceof Scale.Words words && random.nextInt(3) > 0) {
        Value word = words.values().get(random.nextInt(words.values().size()));
        values = values.with(control, word);
      }
    }
    int[] early = {0, 2, 10};
    return random.nextBoolean()
        ? values.with(Control.EARLY_ENTRY, new Value.Amount(early[random.nextInt(3)]))
        : values;
  }

  private static <E extends Enum<E>> E named(Class<E> type, String id) {
    return Enum.valueOf(type, id.toUpperCase(Locale.ROOT).replace('-', '_'));
  }

  /**
   * Whatever the controls: each answer at the door is the one that the core gives for who came and
   * when, worked out here from the events alone; nobody does what they have no right to.
   */
  @Test
  public void itObeysTheCoresDoorAndRights() {
    Random random = new Random(7_2026);
    int answers = 0;
    int acts = 0;
    for (int round = 0; round < 150; round++) {
      ControlValues values = random(random);
      ControlValues first = values;
      PlayedSession session = session(first, round % 2 == 0 ? "strangers" : "storm", 12, round);
      play(session, 1500);
      Map<String, Joiner> joiners = new HashMap<>();
      Map<String, Role> inside = new HashMap<>();
      String asked = null;
      for (SessionEvent event : events) {
        String who = event.who();
        boolean hostIn = inside.containsValue(Role.HOST) || inside.containsValue(Role.CO_HOST);
        switch (event.kind()) {
          case ARRIVED -> {
            joiners.put(who, joiner(event));
            asked = who;
          }
          case HELD, REFUSED, ENTERED -> {
            if (event.get(SessionEvent.BY) == null && who.equals(asked)) {
              int minutes =
                  (int) Math.floorDiv(Duration.between(START, event.at()).toSeconds(), 60);
              Passage passage =
                  Door.pass(values, joiners.get(who), new Moment(minutes, hostIn, false));
              assertEquals(
                  event.kind(),
                  switch (passage.outcome()) {
                    case IN -> Kind.ENTERED;
                    case HELD -> Kind.HELD;
                    case REFUSED -> Kind.REFUSED;
                  },
                  values + " " + event);
              DoorStep step = passage.step();
              assertEquals(event.get(SessionEvent.STEP), step == null ? null : step.id());
              answers++;
            }
            asked = null;
            if (event.kind() == Kind.ENTERED) {
              Role role = named(Role.class, event.get(SessionEvent.ROLE));
              assertEquals(role, Roles.of(values, joiners.get(who)));
              inside.put(who, role);
            }
          }
          case SHARE_STARTED, RECORDING_STARTED, CHATTED, RENAMED -> {
            Right right =
                switch (event.kind()) {
                  case SHARE_STARTED -> Right.SHARE_SCREEN;
                  case RECORDING_STARTED -> Right.RECORD;
                  case CHATTED -> Right.CHAT;
                  default -> Right.RENAME_SELF;
                };
            Route route = joiners.get(who).asSeen().route();
            assertTrue(
                (Roles.rights(values, inside.get(who), route) & right.bit()) != 0,
                event.toString());
            acts++;
          }
          case LEFT -> inside.remove(who);
          case SETTING -> {
            Control control = Control.byId(event.get(SessionEvent.CONTROL));
            values = values.with(control, control.parse(event.get(SessionEvent.VALUE)));
          }
          default -> {}
        }
      }
    }
    assertTrue(answers > 2000 && acts > 200, answers + " answers, " + acts + " acts were held");
  }

  private static Joiner joiner(SessionEvent event) {
    return new Joiner(
        named(Standing.class, event.get(SessionEvent.STANDING)),
        named(Tie.class, event.get(SessionEvent.TIE)),
        named(Route.class, event.get(SessionEvent.ROUTE)),
        "true".equals(event.get(SessionEvent.PASSCODE)),
        false,
        event.get(SessionEvent.REGION),
        "true".equals(event.get(SessionEvent.LISTED_PRESENTER)),
        "true".equals(event.get(SessionEvent.CONTRIBUTOR)));
  }

  private Wire.Answered order(PlayedSession session, String id, Order order, int at) {
    return session.order(id, order, "warden@x", WALL.plusSeconds(at));
  }

  private long count(Kind kind) {
    return events.stream().filter(e -> e.kind() == kind).count();
  }

  @Test
  public void anOrderIsDoneOnceHoweverOftenItIsSent() {
    PlayedSession session = session(ControlValues.NONE, "usual", 0, 1);
    play(session, 320);
    for (int i = 0; i < 3; i++) {
      assertTrue(order(session, "one", Order.of(Order.Act.LOCK), 320).done());
    }
    assertEquals(count(Kind.LOCKED), 1);
    assertFalse(order(session, "two", Order.of(Order.Act.LET_IN, "nobody"), 321).done());
    assertFalse(order(session, "two", Order.of(Order.Act.LOCK), 322).done(), "as it was answered");
  }

  @Test
  public void whoIsRemovedTriesAgainAndStaysOutWhenBarred() {
    PlayedSession session = session(ControlValues.NONE, "strangers", 3, 3);
    play(session, 400);
    String stranger =
        events.stream()
            .filter(e -> e.kind() == Kind.ENTERED && e.who().startsWith("s-"))
            .findFirst()
            .orElseThrow()
            .who();
    assertTrue(order(session, "r1", Order.of(Order.Act.REMOVE, stranger), 400).done());
    play(session, 440);
    long came =
        events.stream().filter(e -> e.kind() == Kind.ENTERED && stranger.equals(e.who())).count();
    assertEquals(came, 2, "removed and not barred, the door is open to them");
    assertTrue(order(session, "r2", Order.of(Order.Act.REMOVE_AND_BAR, stranger), 445).done());
    play(session, 500);
    SessionEvent last =
        events.stream().filter(e -> stranger.equals(e.who())).reduce((x, y) -> y).orElseThrow();
    assertEquals(last.kind(), Kind.REFUSED);
    assertEquals(last.get(SessionEvent.STEP), "removed");
    play(session, 530);
    SessionEvent caller =
        events.stream()
            .filter(e -> e.kind() == Kind.ARRIVED && ("call-" + stranger).equals(e.who()))
            .findFirst()
            .orElseThrow();
    assertEquals(caller.get(SessionEvent.ROUTE), "phone", "they take a telephone");
  }

  @Test
  public void whatIsClosedEndsAShareThatIsOnAndOpensTheDoorAnew() {
    ControlValues waits =
        ControlValues.NONE
            .with(Control.WAITING_ROOM, Control.WAITING_ROOM.parse("on"))
            .with(Control.LOBBY_BYPASS, Control.LOBBY_BYPASS.parse("hosts"));
    PlayedSession session = session(waits, "strangers", 3, 5);
    play(session, 300);
    long before = count(Kind.ENTERED);
    assertTrue(
        order(session, "o1", new Order(Order.Act.SET, List.of(), Control.WAITING_ROOM, "off"), 300)
            .done());
    assertTrue(count(Kind.ENTERED) > before, "those who waited are in");
    assertFalse(
        order(session, "o2", new Order(Order.Act.SET, List.of(), Control.WAITING_ROOM, "ajar"), 301)
            .done());
    assertTrue(order(session, "o3", Order.of(Order.Act.END), 302).done());
    assertTrue(session.ended());
    assertFalse(order(session, "o4", Order.of(Order.Act.LOCK), 303).done());
    long seq = 0;
    for (SessionEvent event : session.after(0, 10_000)) {
      assertEquals(event.seq(), ++seq, "without gaps");
    }
    assertEquals(session.after(seq, 10), List.of());
  }
}
