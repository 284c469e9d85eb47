package app.uprightwarden.server.deputies;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.ServerTest;
import app.uprightwarden.server.Visitor;
import app.uprightwarden.server.access.AccessService;
import app.uprightwarden.server.access.Role;
import java.time.Duration;
import java.time.Instant;
import java.util.Map;
import org.springframework.beans.factory.annotation.Autowired;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeClass;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** A host stands in for a unit's warden for a time, and for no longer. */
public class DeputiesTest extends ServerTest {
  private static final String SOMEBODY = "d.eputy@saltmarsh.example";
  private static final String PASSWORD = "slack-water-0642";
  private static final String AT = "/api/deputies/" + SOMEBODY;

  @Autowired private AccessService access;

  @BeforeClass
  public void account() {
    access.createAccount(SOMEBODY, "Dana Eputy", Role.HOST, PASSWORD);
  }

  @AfterMethod
  public void nobody() {
    access.endDeputy(SOMEBODY);
  }

  private static Map<String, Object> time(String unit, Duration from, Duration until) {
    Instant now = Instant.now();
    return Map.of(
        "unit", unit, "from", now.plus(from).toString(), "until", now.plus(until).toString());
  }

  private static Map<String, Object> now(String unit) {
    return time(unit, Duration.ofMinutes(-1), Duration.ofDays(7));
  }

  private Visitor somebody() {
    Visitor visitor = new Visitor(port);
    visitor.signIn(SOMEBODY, PASSWORD);
    return visitor;
  }

  @Test
  public void theyAreTheUnitsWardenFromTheirNextRequestOnAndAHostAgainAfterwards() {
    Visitor visitor = somebody();
    assertEquals(visitor.get("/api/session").body().path("role").stringValue(), "host");
    visitor.get("/api/audits/0/wall").is(403);
    JsonNode all = send(WARDEN, "PUT", AT, now("pilotage")).is(200).json();
    assertTrue(all.toString().contains("Dana Eputy"), all.toString());
    JsonNode session = visitor.get("/api/session").body();
    assertEquals(session.path("role").stringValue(), "unit-warden");
    assertEquals(session.path("unit").stringValue(), "pilotage");
    assertTrue(session.path("deputyUntil").isString());
    visitor.get("/api/audits/0/wall").is(200);
    String mail = get(WARDEN, "/api/outbox?about=unit:pilotage").is(200).body();
    assertTrue(mail.contains("You stand in for") && mail.contains(SOMEBODY), mail);
    String ledger = get(WARDEN, "/api/ledger?text=Dana+Eputy").is(200).body();
    assertTrue(ledger.contains("deputy.named"), ledger);
    send(WARDEN, "DELETE", AT, null).is(200);
    visitor.get("/api/audits/0/wall").is(403);
    assertEquals(visitor.get("/api/session").body().path("role").stringValue(), "host");
    send(WARDEN, "DELETE", AT, null).is(404);
  }

  @Test
  public void beforeItBeginsAndAfterItEndsTheyAreAHost() {
    Visitor visitor = somebody();
    send(WARDEN, "PUT", AT, time("pilotage", Duration.ofHours(1), Duration.ofHours(2))).is(200);
    visitor.get("/api/audits/0/wall").is(403);
    access.setDeputy(
        SOMEBODY,
        "pilotage",
        Instant.now().minusSeconds(60),
        Instant.now().minusSeconds(1),
        WARDEN);
    visitor.get("/api/audits/0/wall").is(403);
    assertFalse(get(WARDEN, "/api/deputies").body().contains(SOMEBODY), "it is over");
  }

  @Test
  public void aUnitsWardenNamesOneForTheirOwnUnitAndADeputyNamesNone() {
    send(UNIT_WARDEN, "PUT", AT, now("pilotage")).is(200);
    assertTrue(get(UNIT_WARDEN, "/api/deputies").body().contains(SOMEBODY));
    Visitor deputy = somebody();
    deputy.send("PUT", "/api/deputies/m.okafor@saltmarsh.example", now("pilotage")).is(403);
    deputy.send("DELETE", AT, null).is(403);
    send(UNIT_WARDEN, "PUT", AT, now("another")).is(422);
    String other = otherUnit();
    send(UNIT_WARDEN, "PUT", AT, now(other)).is(403);
    send(WARDEN, "PUT", AT, now(other)).is(200);
    assertFalse(get(UNIT_WARDEN, "/api/deputies").body().contains(SOMEBODY), "none of theirs");
    send(UNIT_WARDEN, "DELETE", AT, null).is(404);
    send(UNIT_WARDEN, "PUT", AT, now("pilotage")).is(403);
    String still = get(WARDEN, "/api/deputies").body();
    assertTrue(still.contains(SOMEBODY) && still.contains(other), "the other unit keeps them");
  }

  private String otherUnit() {
    for (JsonNode unit : get(WARDEN, "/api/organisation").json().path("units")) {
      String id = unit.path("id").stringValue();
      if (!id.equals("pilotage") && !"pilotage".equals(unit.path("parent").stringValue(""))) {
        return id;
      }
    }
    throw new IllegalStateException("there is one unit alone");
  }

  @Test
  public void onlyAHostWithAnAccountAndOnlyForATimeAhead() {
    send(WARDEN, "PUT", "/api/deputies/nobody@x.example", now("pilotage")).is(422);
    send(WARDEN, "PUT", "/api/deputies/" + AUDITOR, now("pilotage")).is(409);
    send(WARDEN, "PUT", AT, time("pilotage", Duration.ofDays(-2), Duration.ofDays(-1))).is(422);
    send(WARDEN, "PUT", AT, time("pilotage", Duration.ofDays(2), Duration.ofDays(1))).is(422);
    String tooLong =
        send(WARDEN, "PUT", AT, time("pilotage", Duration.ZERO, Duration.ofDays(93)))
            .is(422)
            .body();
    assertTrue(tooLong.contains("92 days"), tooLong);
    send(HOST, "PUT", AT, now("pilotage")).is(403);
  }
}
