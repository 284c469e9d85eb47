package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.standins.Make;
import java.util.List;
import java.util.Map;
import org.springframework.beans.factory.annotation.Autowired;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Who asks to take part by a service's form is approved here, told there, and let in. */
public class RegistrationsTest extends ServicesCase {
  @Autowired private JdbcClient jdbc;

  private static final String ONE = "one@elsewhere.example";
  private static final String TWO = "two@elsewhere.example";

  private String asked(String title, String... addresses) {
    String id = made(Make.REDSHANK, title, Map.of("registration", "approved"));
    for (String address : addresses) {
      of(Make.REDSHANK).register(id, address, "Somebody");
    }
    until("they are here", () -> list(id).get("people").size() == addresses.length);
    return id;
  }

  private JsonNode list(String id) {
    return get(HOST, "/api/meetings/" + id + "/registrations").is(200).json();
  }

  private JsonNode person(String id, String address) {
    return list(id)
        .get("people")
        .valueStream()
        .filter(each -> each.get("address").stringValue().equals(address))
        .findFirst()
        .orElseThrow();
  }

  private Answer decide(String who, String id, Map<String, Object> wanted) {
    return post(who, "/api/meetings/" + id + "/registrations", wanted);
  }

  private boolean isInvited(String id, String address) {
    return meeting(id)
        .get("invitees")
        .valueStream()
        .anyMatch(i -> i.get("email").stringValue("").equals(address));
  }

  /** Whether the door refuses somebody since they were not approved. */
  private boolean isRefused(String id, String address) {
    JsonNode answer =
        post(
                WARDEN,
                "/api/door/rehearsal",
                Map.of(
                    "meeting",
                    id,
                    "moment",
                    Map.of("minutesFromStart", 1, "hostIn", true, "locked", false),
                    "pencil",
                    Map.of(),
                    "people",
                    List.of(address)))
            .is(200)
            .json();
    return answer
        .get("comers")
        .valueStream()
        .filter(each -> each.get("key").stringValue().equals(address))
        .anyMatch(each -> each.at("/now/step").stringValue("").equals("registration"));
  }

  @Test
  public void whoIsApprovedIsInvitedThereAndLetInWhoIsDeclinedIsNot() {
    String id = asked("Open lecture", ONE, TWO);
    assertEquals(list(id).get("how").stringValue(), "approved");
    assertTrue(list(id).get("mayDecide").booleanValue());
    decide(
            HOST,
            id,
            Map.of(
                "addresses",
                List.of(ONE.toUpperCase(java.util.Locale.ROOT)),
                "decision",
                "approve"))
        .is(200);
    decide(WARDEN, id, Map.of("addresses", List.of(TWO), "decision", "decline")).is(200);
    until("one is approved", () -> person(id, ONE).get("state").stringValue().equals("approved"));
    until("two is declined", () -> person(id, TWO).get("state").stringValue().equals("declined"));
    until("one is invited", () -> isInvited(id, ONE));
    assertFalse(isInvited(id, TWO));
    assertEquals(person(id, ONE).get("decidedBy").stringValue(), HOST);
    assertTrue(person(id, ONE).get("deciding").isNull(), "nothing is left to tell");
    JsonNode there = of(Make.REDSHANK).holds(id).path("registrations");
    assertEquals(there.path(0).path("state").stringValue(), "approved");
    assertEquals(there.path(1).path("state").stringValue(), "declined");
  }

  @Test
  public void allWhoHaveNoAnswerAreApprovedAtOnceAndAnAnswerStands() {
    String id = asked("All at once", ONE, TWO);
    decide(HOST, id, Map.of("addresses", List.of(TWO), "decision", "decline")).is(200);
    decide(HOST, id, Map.of("decision", "approve")).is(200);
    until("one is invited", () -> isInvited(id, ONE));
    until("two is declined", () -> person(id, TWO).get("state").stringValue().equals("declined"));
    // the later word of a person stands
    decide(HOST, id, Map.of("addresses", List.of(TWO), "decision", "approve")).is(200);
    until("two is invited too", () -> isInvited(id, TWO));
  }

  @Test
  public void aServiceThatIsAwayIsToldLaterAndOnce() {
    String id = asked("Told later", ONE);
    of(Make.REDSHANK).faults().away = true;
    decide(HOST, id, Map.of("decision", "approve")).is(200);
    assertEquals(person(id, ONE).get("deciding").stringValue(), "approved");
    assertEquals(person(id, ONE).get("state").stringValue(), "asked", "nothing is said done");
    // it does what it is told and answers with an error: told again, it is still once
    of(Make.REDSHANK).faults().clear();
    of(Make.REDSHANK).faults().deaf = true;
    until("it is done there", () -> of(Make.REDSHANK).holds(id).path("invitees").size() == 1);
    of(Make.REDSHANK).faults().clear();
    until("it is told", () -> person(id, ONE).get("deciding").isNull());
    assertEquals(of(Make.REDSHANK).holds(id).path("invitees").size(), 1);
    assertEquals(person(id, ONE).get("state").stringValue(), "approved");
  }

  @Test
  public void aRefusalSaysWhyAndTheQuestionStands() {
    String id = asked("Refused there", ONE);
    of(Make.REDSHANK).faults().refuses = true;
    decide(HOST, id, Map.of("decision", "approve")).is(200);
    until("it says why", () -> !person(id, ONE).get("why").isNull());
    assertEquals(person(id, ONE).get("state").stringValue(), "asked");
    of(Make.REDSHANK).faults().clear();
    decide(HOST, id, Map.of("decision", "approve")).is(200);
    until("it is taken", () -> person(id, ONE).get("state").stringValue().equals("approved"));
    assertTrue(person(id, ONE).get("why").isNull());
  }

  @Test
  public void whoDidNotAskAndWhoMayNotAreToldSo() {
    String id = asked("Who may", ONE);
    JsonNode fault =
        decide(HOST, id, Map.of("addresses", List.of(ONE, TWO), "decision", "approve"))
            .is(422)
            .json();
    assertEquals(fault.at("/faults/0/pointer").stringValue(), "/addresses/1", fault.toString());
    assertTrue(person(id, ONE).get("deciding").isNull(), "nothing was decided");
    decide(AUDITOR, id, Map.of("decision", "approve")).is(403);
    decide(HOST, id, Map.of("decision", "perhaps")).is(422);
    set(Make.REDSHANK, "read", false);
    decide(WARDEN, id, Map.of("decision", "approve")).is(409);
    assertFalse(list(id).get("mayDecide").booleanValue());
    set(Make.REDSHANK, "write", false);
    of(Make.REDSHANK).cancelBehindOurBack(id, SOMEBODY);
    until("it is gone", () -> get(WARDEN, "/api/meetings/" + id).status() == 404);
    assertEquals(
        jdbc.sql("select count(*) from meeting_registration where meeting = ?")
            .param(id)
            .query(Long.class)
            .single(),
        Long.valueOf(0),
        "with the meeting goes who asked for it");
  }

  @Test
  public void theDoorKnowsWhoWasApproved() {
    String id = asked("At the door", ONE);
    assertTrue(isRefused(id, ONE));
    decide(HOST, id, Map.of("decision", "approve")).is(200);
    until("invited", () -> isInvited(id, ONE));
    assertFalse(isRefused(id, ONE));
  }
}
