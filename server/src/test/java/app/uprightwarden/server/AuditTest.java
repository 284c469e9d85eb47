package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.locks.LockSupport;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Audits of the demo organisation, and a meeting mended. */
public class AuditTest extends ServerTest {
  private static final long PATIENCE = 60_000_000_000L;

  private JsonNode finished(long id) {
    long end = System.nanoTime() + PATIENCE;
    JsonNode run = get(WARDEN, "/api/audits/" + id).is(200).json().get("run");
    while (Set.of("waiting", "running").contains(run.get("state").stringValue())
        && System.nanoTime() < end) {
      LockSupport.parkNanos(50_000_000);
      run = get(WARDEN, "/api/audits/" + id).is(200).json().get("run");
    }
    assertEquals(run.get("state").stringValue(), "done", run.toString());
    return run;
  }

  private long audit() {
    return post(WARDEN, "/api/audits", Map.of()).is(202).json().get("id").longValue();
  }

  private List<JsonNode> findings(long id, String more) {
    return get(WARDEN, "/api/audits/" + id + "/findings?size=1000" + more)
        .is(200)
        .json()
        .get("items")
        .valueStream()
        .toList();
  }

  /**
   * The demo's first audit. Its number is another where the standing one began before it; the list
   * of audits may be too long by now to have it.
   */
  private long oldest() {
    for (long id = 1; id < 10; id++) {
      JsonNode run = get(WARDEN, "/api/audits/" + id).json().path("run");
      if (run.path("state").stringValue("").equals("done")) {
        return id;
      }
    }
    throw new AssertionError("the demo has no audit");
  }

  @Test
  public void theDemoShowsEveryCheckAtLeastOnce() {
    Set<String> shown = new TreeSet<>();
    findings(oldest(), "").forEach(f -> shown.add(f.get("finding").get("check").stringValue()));
    Set<String> all = new TreeSet<>();
    get(WARDEN, "/api/catalogue")
        .json()
        .get("checks")
        .forEach(c -> all.add(c.get("id").stringValue()));
    // these need a service that holds meetings; ServicesTest shows each
    all.removeAll(Set.of("changed-there", "not-taken", "beyond-means", "long-unread"));
    assertEquals(shown, all);
  }

  @Test
  public void findingsComeInFixOrderAndPagesMeet() {
    long oldest = oldest();
    List<JsonNode> all = findings(oldest, "");
    int last = 5;
    Set<String> identities = new HashSet<>();
    for (JsonNode item : all) {
      int severity = item.get("finding").get("severity").intValue();
      assertTrue(severity <= last, "worst first");
      last = severity;
      assertTrue(identities.add(item.get("identity").stringValue()), "an identity twice");
      assertFalse(item.get("finding").get("text").stringValue().isBlank());
    }
    JsonNode second =
        get(WARDEN, "/api/audits/" + oldest + "/findings?page=1&size=10").is(200).json();
    assertEquals(second.get("total").intValue(), all.size());
    assertEquals(second.get("items").get(0), all.get(10));
    get(WARDEN, "/api/audits/999999/findings").is(404);
    get(WARDEN, "/api/audits/" + oldest + "/findings?severity=9").is(422);
  }

  @Test
  public void aMendedMeetingLosesItsFindings() {
    String meeting = "m-0002";
    JsonNode before = get(WARDEN, "/api/meetings/" + meeting).is(200).json();
    JsonNode remedy = before.get("assessment").get("remedy");
    assertTrue(remedy.get("complete").booleanValue());
    long first = audit();
    finished(first);
    assertTrue(
        findings(first, "&meeting=" + meeting).stream()
            .anyMatch(f -> f.get("finding").get("check").stringValue().equals("beyond-limit")));

    Map<String, Object> changes = new java.util.HashMap<>();
    remedy.get("changes").forEach(c -> changes.put(c.get("control").stringValue(), c.get("to")));
    long version = before.get("version").longValue();
    Map<String, Object> patch = Map.of("version", version, "controls", changes);
    send(WARDEN, "PATCH", "/api/meetings/" + meeting + "/controls", patch).is(200);
    send(WARDEN, "PATCH", "/api/meetings/" + meeting + "/controls", patch).is(409);

    long second = audit();
    finished(second);
    Set<String> mended = Set.of("beyond-limit", "not-evidenced", "guarantee-broken");
    assertTrue(
        findings(second, "&meeting=" + meeting).stream()
            .noneMatch(f -> mended.contains(f.get("finding").get("check").stringValue())));
  }

  @Test
  public void aHostMayTightenAndNotLoosen() {
    JsonNode own = get(HOST, "/api/meetings/m-0001").is(200).json();
    Map<String, Object> loose =
        Map.of(
            "version",
            own.get("version").longValue(),
            "controls",
            Map.of("phone-bypass", "straight-in", "recording", "presenters"));
    Answer told = send(HOST, "PATCH", "/api/meetings/m-0001/controls", loose).is(422);
    assertTrue(told.body().contains("/controls/recording"), told.body());
    Map<String, Object> tight =
        Map.of("version", own.get("version").longValue(), "controls", Map.of("waiting-room", "on"));
    send(HOST, "PATCH", "/api/meetings/m-0001/controls", tight).is(200);
  }

  @Test
  public void theWallCountsWhatTheFindingsSay() {
    // another test may have removed old audits, and later ones have findings that are waived
    long audit = oldest();
    JsonNode wall =
        get(WARDEN, "/api/audits/" + audit + "/wall?show=open&size=1000").is(200).json();
    int counted = 0;
    for (JsonNode row : wall.get("items")) {
      int inRow = 0;
      for (JsonNode cell : row.get("families")) {
        inRow += cell.get("count").intValue();
      }
      assertEquals(inRow, row.get("findings").intValue());
      counted += inRow;
    }
    assertTrue(counted > 0);
    assertEquals(counted, findings(audit, "&waived=false").size());
  }
}
