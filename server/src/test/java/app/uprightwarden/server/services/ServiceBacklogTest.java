package app.uprightwarden.server.services;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertTrue;

import app.uprightwarden.server.faults.Breaks;
import app.uprightwarden.standins.Make;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.testng.annotations.Test;

/** Many decisions wait for a service: each is done there, once, and no faster than it takes. */
public class ServiceBacklogTest extends ServicesCase {
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
    untilNone("all of them", () -> many - away(make).size());
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
    until("each is confirmed", () -> Set.copyOf(away(make).values()).equals(Set.of("confirmed")));
    assertEquals(away(make).keySet(), Set.copyOf(ids));
    ids.forEach(id -> assertEquals(there(make, id, "waiting-room"), "on", id));
    assertEquals(lastChange(make, ids) - before, many, "each once");
    assertEquals(of(make).tooMany(), tooMany, "never more often than it takes");
  }

  /** How far what was decided has come, of each in the register that was made for this. */
  private Map<String, String> away(Make make) {
    String path = "/api/meetings?text=Away&size=500&service=" + linked.get(make);
    Map<String, String> writing = new HashMap<>();
    get(WARDEN, path)
        .is(200)
        .json()
        .get("items")
        .forEach(
            line ->
                writing.put(
                    line.get("id").stringValue(), line.path("writing").stringValue("none")));
    return writing;
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
