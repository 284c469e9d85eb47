package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertNotNull;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.faults.Breaks;
import app.uprightwarden.standins.Make;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.LinkedHashMap;
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

  @Test
  public void aPoorServiceIsNeverAskedMoreThanItTakes() {
    int before = of(Make.CURLEW).tooMany();
    for (int i = 0; i < 12; i++) {
      String id = made(Make.CURLEW, "Many " + i, Map.of("waiting-room", "off"));
      decide(id, "waiting-room", "on");
      untilWriting(id, "confirmed");
    }
    assertEquals(of(Make.CURLEW).tooMany(), before);
  }

  /** 500 where the service takes 200 a second, 40 where it takes 10. */
  @Test(dataProvider = "makes")
  public void whatWasDecidedWhileItWasAwayIsDoneOnceEachWhenItIsBack(Make make) {
    int many = make == Make.REDSHANK ? 500 : 40;
    List<String> ids = new ArrayList<>();
    for (int i = 0; i < many; i++) {
      ids.add(of(make).make(HOST, meetingOf("Away " + i, Map.of("waiting-room", "off"))));
    }
    Deque<String> awaited = new ArrayDeque<>(ids);
    untilNone(
        "all of them",
        () -> {
          while (!awaited.isEmpty() && isHere(awaited.getFirst())) {
            awaited.removeFirst();
          }
          return awaited.size();
        });
    long before = lastChange(make, ids);
    int tooMany = of(make).tooMany();
    of(make).faults().away = true;
    Map<String, Object> all = new LinkedHashMap<>();
    all.put("ids", ids);
    all.put("act", "control");
    all.put("control", "waiting-room");
    all.put("value", "on");
    all.put("send", false);
    post(WARDEN, "/api/meetings/many", all).is(200);
    assertEquals(service(make).at("/backlog/waiting").intValue(), many);
    until("it is said to be away", () -> service(make).path("state").stringValue().equals("away"));
    // the other one is served meanwhile
    Make other = make == Make.REDSHANK ? Make.CURLEW : Make.REDSHANK;
    String elsewhere = made(other, "Meanwhile", Map.of("waiting-room", "off"));
    decide(elsewhere, "waiting-room", "on");
    untilWriting(elsewhere, "confirmed");
    of(make).faults().away = false;
    untilNone("all is confirmed", () -> service(make).at("/backlog/waiting").intValue(0));
    for (String id : ids) {
      untilWriting(id, "confirmed");
      assertEquals(there(make, id, "waiting-room"), "on", id);
    }
    assertEquals(lastChange(make, ids) - before, many, "each once");
    assertEquals(of(make).tooMany(), tooMany, "never more often than it takes");
  }

  private boolean isHere(String id) {
    return get(WARDEN, "/api/meetings/" + id).status() == 200;
  }

  /** Each change there has the next number. */
  private long lastChange(Make make, List<String> ids) {
    return ids.stream().mapToLong(id -> of(make).revision(id)).max().orElse(0);
  }

  /** The database goes away at every fifth step that the thread of the service takes. */
  @Test
  public void brokenOffAtEveryStepItIsDoneOnce() {
    String id = made(Make.REDSHANK, "Broken off", Map.of("waiting-room", "off"));
    String wanted = "off";
    int broken = 0;
    for (int step = 1; step <= 41; step += 5) {
      wanted = wanted.equals("on") ? "off" : "on";
      long before = of(Make.REDSHANK).revision(id);
      Breaks.How how = step % 2 == 0 ? Breaks.How.AFTER_COMMIT : Breaks.How.BEFORE;
      Breaks.arm(thread -> thread.getName().startsWith("work-service-"), step, how);
      decide(id, "waiting-room", wanted);
      String value = wanted;
      until("it was done there", () -> there(Make.REDSHANK, id, "waiting-room").equals(value));
      untilWriting(id, "confirmed");
      broken += Breaks.disarm() ? 1 : 0;
      assertEquals(of(Make.REDSHANK).revision(id), before + 1, "once, at step " + step);
      assertEquals(held(id).path("differences").size(), 0);
    }
    assertTrue(broken > 4, "it was broken off " + broken + " times");
  }
}
