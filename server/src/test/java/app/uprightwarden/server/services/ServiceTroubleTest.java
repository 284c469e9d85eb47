package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.standins.Make;
import java.util.List;
import java.util.Map;
import org.testng.annotations.Test;

/** Services in trouble: nothing is lost, nothing done twice, and the page says how it is. */
public class ServiceTroubleTest extends ServicesCase {
  @Test(dataProvider = "makes")
  public void whatSaysDoneAndIsNotDoneIsSeen(Make make) {
    String id = made(make, "Says done", Map.of("waiting-room", "off"));
    of(make).faults().lies = true;
    decide(id, "waiting-room", "on");
    untilWriting(id, "other");
    assertTrue(isFound(id, "not-taken"));
    assertEquals(meeting(id).path("controls").path("waiting-room").stringValue(), "off");
    of(make).faults().clear();
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void whatIsRefusedSaysWhy(Make make) {
    String id = made(make, "Refused", Map.of("waiting-room", "off"));
    of(make).faults().refuses = true;
    decide(id, "waiting-room", "on");
    untilWriting(id, "refused");
    assertTrue(held(id).path("why").stringValue().contains("does not let that be changed"));
    assertTrue(isFound(id, "not-taken"));
  }

  private String phone(String id) {
    return get(WARDEN, "/api/meetings/" + id + "/passcode").is(200).json().path("phone").toString();
  }

  @Test(dataProvider = "makes")
  public void digitsOfThePasscodeThatIsDecidedStayWhileTheServiceHoldsTheOld(Make make) {
    Map<String, Object> wanted =
        meetingOf("Digits", Map.of("passcode", "required", "audio-routes", List.of("phone")));
    wanted.put("passcode", "kelp-Rudder-basin-46");
    wanted.put("phonePasscode", "90417352");
    String id = of(make).make(HOST, wanted);
    until("it is in the register", () -> get(WARDEN, "/api/meetings/" + id).status() == 200);
    assertEquals(phone(id), "\"90417352\"", "as the service says");
    of(make).faults().refuses = true;
    wanted.put("passcode", "kelp-Rudder-basin-47");
    wanted.remove("phonePasscode");
    long version = meeting(id).path("version").longValue();
    Map<String, Object> save =
        Map.of("version", version, "meeting", wanted, "send", false, "reason", "somebody left");
    send(WARDEN, "PUT", "/api/meetings/" + id, save).is(200);
    untilWriting(id, "refused");
    String decided = phone(id);
    assertTrue(decided.matches("\"[0-9]{8}\"") && !decided.contains("90417352"), decided);
    of(make).behindOurBack(id, SOMEBODY, Map.of("title", "Digits, told again"));
    until("that was read", () -> meeting(id).path("title").stringValue("").contains("again"));
    assertEquals(phone(id), decided, "an older answer overwrites nothing");
    of(make).faults().clear();
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(of(make).holds(id).path("phonePasscode").toString(), decided);
    of(make).behindOurBack(id, SOMEBODY, Map.of("phonePasscode", "90417353"));
    until("a change there is one", () -> phone(id).contains("90417353"));
  }

  @Test(dataProvider = "makes")
  public void whatWasDoneUnheardIsDoneOnce(Make make) {
    String id = made(make, "Unheard", Map.of("waiting-room", "off"));
    long before = of(make).revision(id);
    of(make).faults().deaf = true;
    decide(id, "waiting-room", "on");
    until("it was done there", () -> there(make, id, "waiting-room").equals("on"));
    long done = of(make).revision(id);
    assertTrue(done > before);
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(of(make).revision(id), done, "once");
  }

  /** RFC 6585 section 4: asked too often; it is not away, and asked again when it says. */
  @Test(dataProvider = "makes")
  public void whatIsAskedTooOftenIsWaitedFor(Make make) {
    String id = made(make, "Too often", Map.of("waiting-room", "off"));
    long before = of(make).revision(id);
    of(make).faults().busy = true;
    decide(id, "waiting-room", "on");
    until("that is said", () -> service(make).path("trouble").stringValue("").contains("pause"));
    assertEquals(service(make).path("state").stringValue(), "in-touch");
    assertEquals(held(id).path("writing").stringValue(), "waiting");
    assertEquals(of(make).revision(id), before);
    of(make).faults().clear();
    untilWriting(id, "confirmed");
    assertEquals(of(make).revision(id), before + 1, "once");
  }

  @Test(dataProvider = "makes")
  public void whatIsSlowIsWaitedFor(Make make) {
    String id = made(make, "Slow", Map.of("waiting-room", "off"));
    long before = of(make).revision(id);
    of(make).faults().slowMillis = 3_000;
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    assertEquals(of(make).revision(id), before + 1, "once");
    assertEquals(service(make).path("state").stringValue(), "in-touch");
  }

  @Test(dataProvider = "makes")
  public void aForgottenMarkerLosesNothing(Make make) {
    String stays = made(make, "Stays", Map.of("waiting-room", "off"));
    decide(stays, "waiting-room", "on");
    untilWriting(stays, "confirmed");
    of(make).forgetMarkers();
    String fresh = made(make, "After it forgot", Map.of());
    assertNotNull(fresh);
    until("everything was read", () -> !service(make).path("reading").booleanValue());
    assertEquals(held(stays).path("writing").stringValue(), "confirmed");
    of(make).behindOurBack(stays, SOMEBODY, control("waiting-room", "off"));
    until("what was decided is still known", () -> isFound(stays, "changed-there"));
  }

  @Test(dataProvider = "makes")
  public void aServiceThatWasRestoredIsFoundOut(Make make) {
    String id = made(make, "Restored", Map.of("waiting-room", "off"));
    of(make).backUp();
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    String lost = made(make, "Made after the copy", Map.of());
    of(make).restore();
    until("what went back is found", () -> isFound(id, "changed-there"));
    until(
        "what is gone there is gone here",
        () -> get(WARDEN, "/api/meetings/" + lost).status() == 404);
    post(WARDEN, "/api/meetings/" + id + "/service/decided", null).is(204);
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
  }

  @Test(dataProvider = "makes")
  public void aKeyThatIsWithdrawnIsSaidAndCanBeGivenAnew(Make make) {
    of(make).faults().keyWithdrawn = true;
    until(
        "the page says so",
        () -> service(make).path("state").stringValue("").equals("key-refused"));
    Map<String, String> key = Map.of("key", KEY);
    String path = "/api/services/" + linked.get(make) + "/key";
    send(WARDEN, "PUT", path, key).is(422);
    of(make).faults().clear();
    send(WARDEN, "PUT", path, key).is(200);
    until("it is in touch", () -> service(make).path("state").stringValue("").equals("in-touch"));
  }

  @Test
  public void oneServicesTroubleIsNotFeltInAnothers() {
    String there = made(Make.REDSHANK, "In trouble", Map.of("waiting-room", "off"));
    String beside = made(Make.CURLEW, "Not in trouble", Map.of("waiting-room", "off"));
    of(Make.REDSHANK).faults().slowMillis = 5_000;
    decide(there, "waiting-room", "on");
    decide(beside, "waiting-room", "on");
    untilWriting(beside, "confirmed");
    assertFalse(held(there).path("writing").stringValue().equals("confirmed"));
    of(Make.REDSHANK).faults().clear();
    untilWriting(there, "confirmed");
  }

  @Test(dataProvider = "makes")
  public void failuresAndRepetitionsLoseAndDoubleNothing(Make make) {
    of(make).faults().failing = true;
    of(make).faults().repeats = true;
    String id = made(make, "Now and then", Map.of("waiting-room", "off"));
    decide(id, "waiting-room", "on");
    untilWriting(id, "confirmed");
    assertEquals(there(make, id, "waiting-room"), "on");
    assertEquals(held(id).path("differences").size(), 0);
  }
}
