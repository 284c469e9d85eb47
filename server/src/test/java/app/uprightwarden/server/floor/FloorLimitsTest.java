package app.uprightwarden.server.floor;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.core.control.Control;
import app.uprightwarden.core.session.Order;
import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.bridge.ConferenceBridge;
import app.uprightwarden.server.bridge.SessionHolder;
import java.time.Duration;
import java.time.Instant;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.node.MissingNode;

/**
 * Limits hold in sessions, sessions follow their meetings, and alerts end with their cause. By the
 * demo's rules: the waiting room is bound and sealed, sharing is bound.
 */
public class FloorLimitsTest extends ServerTest {
  @Autowired private ConferenceBridge bridge;
  @Autowired private FloorOpening opening;
  private int keys;

  private String meeting(String title, Instant start, Map<String, Object> controls) {
    Map<String, Object> form = new LinkedHashMap<>();
    form.put("title", title);
    form.put("host", HOST);
    form.put("start", start.atZone(ZoneOffset.UTC).toLocalDateTime().toString());
    form.put("zone", "UTC");
    form.put("minutes", 60);
    form.put("controls", controls);
    form.put("invitees", List.of(Map.of("email", AUDITOR)));
    Map<String, Object> body = new LinkedHashMap<>();
    body.put("version", 0);
    body.put("meeting", form);
    body.put("send", false);
    body.put("reason", "a test of limits");
    return post(WARDEN, "/api/meetings", body).is(200).json().get("id").stringValue();
  }

  private static Instant later() {
    return Instant.now().truncatedTo(ChronoUnit.MINUTES).plus(Duration.ofDays(20));
  }

  private String practise(String title, Map<String, Object> controls, String script) {
    String id =
        post(
                WARDEN,
                "/api/floor/sessions",
                Map.of(
                    "meeting",
                    meeting(title, later(), controls),
                    "script",
                    script,
                    "speed",
                    30,
                    "strangers",
                    2))
            .is(201)
            .json()
            .get("id")
            .stringValue();
    until("it is open", () -> page(id).at("/line/state").stringValue().equals("open"));
    return id;
  }

  private JsonNode page(String session) {
    return get(WARDEN, "/api/floor/sessions/" + session + "?most=500").is(200).json();
  }

  private Answer set(
      String who, String session, String control, String value, @Nullable String reason) {
    Map<String, Object> order = new LinkedHashMap<>();
    order.put("key", "k-" + System.nanoTime() + "-" + keys++);
    order.put("act", "set");
    order.put("people", List.of());
    order.put("control", control);
    order.put("value", value);
    order.put("reason", reason);
    return post(who, "/api/floor/sessions/" + session + "/orders", order);
  }

  private void end(String session) {
    post(
            WARDEN,
            "/api/floor/sessions/" + session + "/orders",
            Map.of("key", "e-" + System.nanoTime(), "act", "end", "people", List.of()))
        .is(200);
  }

  private String value(String session, String control) {
    return page(session).path("controls").path(control).stringValue("");
  }

  private JsonNode alert(String session, String kind) {
    for (JsonNode each : page(session).path("alerts")) {
      if (each.path("kind").stringValue("").equals(kind)) {
        return each;
      }
    }
    return MissingNode.getInstance();
  }

  /** In the service itself, past everything that is ours. */
  private void loosenThere(String session, String control, String value, String by)
      throws SessionHolder.Away {
    Order order = new Order(Order.Act.SET, List.of(), Control.byId(control), value);
    assertTrue(bridge.order(session, "there-" + System.nanoTime(), order, by).done());
  }

  @Test
  public void anOrderBeyondARuleIsRefusedWithTheRulesReasonWhoeverAsks() {
    String session = practise("Beyond", Map.of("screen-share", "presenters"), "usual");
    Answer host = set(HOST, session, "screen-share", "everyone", "please").is(422);
    assertTrue(host.body().contains("The interrupted hearing."), host.body());
    assertTrue(host.body().contains("A warden can allow it"), host.body());
    set(HOST, session, "screen-share", "hosts", null).is(200);
    Answer warden = set(WARDEN, session, "screen-share", "everyone", null).is(422);
    assertTrue(warden.body().contains("You can allow it for this session"), warden.body());
    set(WARDEN, session, "screen-share", "everyone", "A drawing class").is(200);
    until("it is so", () -> value(session, "screen-share").equals("everyone"));
    assertTrue(alert(session, "setting-beyond-rule").isMissingNode(), "it was allowed");
    // what was allowed once is allowed for the session, to whoever runs it
    set(HOST, session, "screen-share", "presenters", null).is(200);
    set(HOST, session, "screen-share", "everyone", null).is(200);
    String ledger = get(WARDEN, "/api/ledger?text=Beyond").is(200).body();
    assertTrue(ledger.contains("session"), ledger);
    end(session);
  }

  @Test
  public void whatIsLoosenedInTheServiceIsSetBackWhereTheRuleIsSealed() throws Exception {
    String session = practise("Set back", Map.of("waiting-room", "on"), "usual");
    loosenThere(session, "waiting-room", "off", "somebody@x.example");
    until("it is seen", () -> !alert(session, "setting-beyond-rule").isMissingNode());
    until("it is set back", () -> value(session, "waiting-room").equals("on"));
    until(
        "the alert ends by itself",
        () -> alert(session, "setting-beyond-rule").path("state").stringValue("").equals("ended"));
    end(session);
  }

  @Test
  public void whereItIsNotSealedSomebodyIsAskedAndNobodyClosesWhatTheyDidThemselves()
      throws Exception {
    String session = practise("Not sealed", Map.of("screen-share", "presenters"), "usual");
    loosenThere(session, "screen-share", "everyone", HOST);
    until("it is seen", () -> !alert(session, "setting-beyond-rule").isMissingNode());
    JsonNode alert = alert(session, "setting-beyond-rule");
    assertEquals(alert.path("byWhom").stringValue(), HOST);
    assertEquals(alert.at("/end/act").stringValue(), "set");
    String at = "/api/floor/alerts/" + alert.path("id").longValue();
    Map<String, Object> close = Map.of("state", "closed", "note", "fine");
    post(HOST, at, close).is(403);
    String all = "/api/floor/sessions/" + session + "/alerts";
    Map<String, Object> closeAll =
        Map.of("cause", alert.path("cause").stringValue(), "state", "closed", "note", "fine");
    post(HOST, all, closeAll).is(403);
    post(HOST, at, Map.of("state", "acknowledged")).is(200);
    JsonNode open = get(WARDEN, "/api/floor/alerts").is(200).json();
    assertTrue(
        open.path("worst").toString().indexOf(session) < 0 || open.path("count").intValue() > 0,
        open.toString());
    post(WARDEN, all, closeAll).is(200);
    assertEquals(alert(session, "setting-beyond-rule").path("state").stringValue(), "closed");
    end(session);
  }

  @Test
  public void theOrganisationSaysWhatIsSetBackByItself() throws Exception {
    String which = "/api/floor/set-back";
    assertEquals(get(WARDEN, which).json().path("rules").stringValue(), "sealed", "the default");
    send(WARDEN, "PUT", which, Map.of("rules", "some")).is(422);
    try {
      send(WARDEN, "PUT", which, Map.of("rules", "all")).is(200);
      String all = practise("All set back", Map.of("screen-share", "presenters"), "usual");
      loosenThere(all, "screen-share", "everyone", "somebody@x.example");
      until("it is seen", () -> !alert(all, "setting-beyond-rule").isMissingNode());
      until("it is set back", () -> value(all, "screen-share").equals("presenters"));
      end(all);
      send(WARDEN, "PUT", which, Map.of("rules", "none")).is(200);
      String none = practise("None set back", Map.of("waiting-room", "on"), "usual");
      loosenThere(none, "waiting-room", "off", "somebody@x.example");
      until("it is seen", () -> !alert(none, "setting-beyond-rule").isMissingNode());
      assertEquals(
          post(WARDEN, alertAt(none), Map.of("state", "acknowledged")).is(200).status(), 200);
      assertEquals(value(none, "waiting-room"), "off", "nothing is set back by itself");
      end(none);
    } finally {
      send(WARDEN, "PUT", which, Map.of("rules", "sealed")).is(200);
    }
    String ledger = get(WARDEN, "/api/ledger?text=Set+back+in+sessions").is(200).body();
    assertTrue(ledger.contains("set-back"), ledger);
  }

  private String alertAt(String session) {
    return "/api/floor/alerts/" + alert(session, "setting-beyond-rule").path("id").longValue();
  }

  @Test
  public void aSessionFollowsItsMeetingAndOpensWithItsOwnDatesControls() {
    Instant start = Instant.now().truncatedTo(ChronoUnit.MINUTES).plus(Duration.ofMinutes(4));
    String id = meeting("Follows", start, Map.of("waiting-room", "on", "chat", "in-session"));
    until(
        "the audit knows of it",
        () -> get(WARDEN, "/api/meetings?text=Follows").json().at("/items/0/next").isString());
    opening.openDue();
    until("it is in session", () -> inSession(id).size() == 1);
    String session = inSession(id).get(0).path("session").stringValue();
    assertTrue(inSession(id).get(0).path("follows").booleanValue());
    until("it is open", () -> page(session).at("/line/state").stringValue().equals("open"));
    assertEquals(value(session, "chat"), "in-session");
    change(id, "chat", "off");
    until("the session follows", () -> value(session, "chat").equals("off"));
    assertEquals(page(session).path("behind").size(), 0);
    // what is set in the session stays, until the meeting's own value is changed
    set(HOST, session, "chat", "in-session", null).is(200);
    until("it is as it was set", () -> value(session, "chat").equals("in-session"));
    assertTrue(page(session).path("behind").toString().contains("chat"));
    change(id, "polls", "off");
    until("the other follows", () -> value(session, "polls").equals("off"));
    assertEquals(value(session, "chat"), "in-session");
    end(session);
  }

  @Test
  public void aHostStartsBeforeTheDoorOpensByItself() {
    Instant start = Instant.now().truncatedTo(ChronoUnit.MINUTES).plus(Duration.ofHours(3));
    String id = meeting("Started now", start, Map.of("waiting-room", "on"));
    String session =
        post(HOST, "/api/floor/meetings/" + id + "/start", null)
            .is(200)
            .json()
            .path("id")
            .stringValue();
    assertEquals(
        post(HOST, "/api/floor/meetings/" + id + "/start", null)
            .is(200)
            .json()
            .path("id")
            .stringValue(),
        session,
        "a second click is the first one");
    until("it is open", () -> page(session).at("/line/state").stringValue().equals("open"));
    String far = meeting("Not today", later(), Map.of());
    post(HOST, "/api/floor/meetings/" + far + "/start", null).is(409);
    post(AUDITOR, "/api/floor/meetings/" + id + "/start", null).is(403);
    end(session);
  }

  @Test
  public void manySessionsAreLockedByOneActAndUndoneAsOne() {
    List<String> some =
        List.of(
            practise("Lockdown one", Map.of("waiting-room", "off"), "usual"),
            practise("Lockdown two", Map.of("waiting-room", "on"), "usual"));
    post(
            WARDEN,
            "/api/floor/sessions/" + some.get(1) + "/orders",
            Map.of("key", "l-" + System.nanoTime(), "act", "lock", "people", List.of()))
        .is(200);
    until("one is locked already", () -> page(some.get(1)).at("/line/locked").booleanValue());
    post(HOST, "/api/floor/lockdowns", Map.of("sessions", some)).is(403);
    JsonNode made = post(WARDEN, "/api/floor/lockdowns", Map.of("sessions", some)).is(201).json();
    assertEquals(made.path("sessions").intValue(), 2);
    for (String each : some) {
      until("it is locked", () -> page(each).at("/line/locked").booleanValue());
      until("its waiting room is on", () -> value(each, "waiting-room").equals("on"));
    }
    String at = "/api/floor/lockdowns/" + made.path("id").longValue();
    send(WARDEN, "DELETE", at, null).is(200);
    send(WARDEN, "DELETE", at, null).is(409);
    until("it is as it was", () -> !page(some.get(0)).at("/line/locked").booleanValue());
    until("the other is locked still", () -> page(some.get(1)).at("/line/locked").booleanValue());
    assertEquals(value(some.get(1), "waiting-room"), "on");
    some.forEach(this::end);
    until("they are over", () -> page(some.get(1)).at("/line/state").stringValue().equals("ended"));
    until("they are over", () -> page(some.get(0)).at("/line/state").stringValue().equals("ended"));
    post(WARDEN, "/api/floor/lockdowns", Map.of("sessions", some)).is(409);
  }

  private void change(String id, String control, String value) {
    long version = get(WARDEN, "/api/meetings/" + id).is(200).json().path("version").longValue();
    send(
            WARDEN,
            "PATCH",
            "/api/meetings/" + id + "/controls",
            Map.of("version", version, "controls", Map.of(control, value)))
        .is(200);
  }

  private JsonNode inSession(String meeting) {
    return post(WARDEN, "/api/floor/in-session", Map.of("meetings", List.of(meeting)))
        .is(200)
        .json();
  }
}
