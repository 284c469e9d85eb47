package app.uprightwarden.server;

import static org.testng.Assert.assertEquals;
import static org.testng.Assert.assertFalse;
import static org.testng.Assert.assertTrue;

import java.time.Instant;
import java.time.temporal.ChronoUnit;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.testng.annotations.AfterMethod;
import org.testng.annotations.BeforeMethod;
import org.testng.annotations.Test;
import tools.jackson.databind.JsonNode;

/** Waivers: what they cover, how they end, and who has to agree. */
public class WaiversTest extends AuditStationTest {
  private static final String MEETING = "m-0081";

  @BeforeMethod
  public void loosen() {
    setControl(MEETING, "waiting-room", "off");
    setControl(MEETING, "screen-share", "everyone");
    settle();
  }

  @AfterMethod(alwaysRun = true)
  public void mend() {
    setControl(MEETING, "waiting-room", "on");
    setControl(MEETING, "screen-share", "hosts");
    jdbc.sql("update house set waivers_by_two = false, one_waiver_by = null").update();
  }

  private static Map<String, Object> waiver(String scope, Object... more) {
    Map<String, Object> waiver = new HashMap<>();
    waiver.put("scope", scope);
    waiver.put("reason", "The crew joins from the boat");
    waiver.put("until", Instant.now().plus(3, ChronoUnit.DAYS).toString());
    for (int i = 0; i < more.length; i += 2) {
      waiver.put((String) more[i], more[i + 1]);
    }
    return waiver;
  }

  private long grant(Map<String, Object> waiver) {
    long id = post(WARDEN, "/api/waivers", waiver).is(201).json().get("id").longValue();
    settle();
    return id;
  }

  private boolean isWaived(String check, String subject) {
    return findings(
                0, "&waived=true&meeting=" + MEETING + "&check=" + check + "&subject=" + subject)
            .size()
        == 1;
  }

  @Test
  public void oneFindingIsWaivedAndShownWhereItWouldBeUntilTheWaiverIsEnded() {
    long id =
        grant(
            waiver(
                "finding", "meeting", MEETING, "check", "beyond-limit", "subject", "waiting-room"));
    assertTrue(isWaived("beyond-limit", "waiting-room"));
    assertFalse(isWaived("beyond-limit", "screen-share"));
    JsonNode row =
        get(WARDEN, "/api/audits/0/wall?show=waived&text=" + titleOf(MEETING).replace(" ", "%20"))
            .json()
            .at("/items/0");
    assertEquals(row.get("meeting").stringValue(), MEETING);
    assertEquals(row.at("/families/waiting-room/waived").intValue(), 1);
    assertEquals(get(HOST, "/api/waivers/of/" + MEETING).status(), 404, "another host's meeting");
    assertEquals(get(AUDITOR, "/api/waivers/of/" + MEETING).json().size(), 1);
    long run = audit(Map.of());
    assertTrue(
        findings(run, "&waived=true&meeting=" + MEETING).size() >= 1, "and in recorded audits");
    post(WARDEN, "/api/waivers/" + id + "/end", Map.of()).is(200);
    settle();
    assertFalse(isWaived("beyond-limit", "waiting-room"));
    post(WARDEN, "/api/waivers/" + id + "/end", Map.of()).is(409);
  }

  private String titleOf(String meeting) {
    return get(WARDEN, "/api/meetings/" + meeting).json().get("title").stringValue();
  }

  @Test
  public void aMeetingAndARuleInAUnitAreWaivedAsAWhole() {
    long meeting = grant(waiver("meeting", "meeting", MEETING));
    assertTrue(findings(0, "&waived=false&meeting=" + MEETING).isEmpty());
    post(WARDEN, "/api/waivers/" + meeting + "/end", Map.of()).is(200);
    String unit = get(WARDEN, "/api/meetings/" + MEETING).json().get("unit").stringValue();
    long rule = grant(waiver("rule", "unit", unit, "subject", "waiting-room"));
    assertTrue(isWaived("beyond-limit", "waiting-room"));
    assertFalse(isWaived("beyond-limit", "screen-share"));
    for (JsonNode f : findings(0, "&subject=waiting-room&waived=true")) {
      String of =
          get(WARDEN, "/api/meetings/" + f.get("meeting").stringValue())
              .json()
              .get("unit")
              .stringValue();
      assertEquals(of, unit);
    }
    post(WARDEN, "/api/waivers/" + rule + "/end", Map.of()).is(200);
  }

  @Test
  public void itWarnsBeforeItLapsesAndLapsesByItself() {
    long id =
        grant(
            waiver(
                "finding", "meeting", MEETING, "check", "beyond-limit", "subject", "waiting-room"));
    jdbc.sql("update waiver set until = utc_timestamp(3) + interval 30 hour where id = ?")
        .param(id)
        .update();
    until(
        "a warning goes out",
        () -> count("select count(*) from outbox_message where about = ?", "waiver:" + id) > 0);
    assertEquals(
        count(
            "select count(*) from outbox_message where about = ? and recipient = ?",
            "waiver:" + id,
            WARDEN),
        1,
        "once to each administrator");
    jdbc.sql("update waiver set until = utc_timestamp(3) - interval 1 second where id = ?")
        .param(id)
        .update();
    until("it lapses", () -> isFound(MEETING, "beyond-limit", "waiting-room"));
    assertEquals(
        jdbc.sql("select state from waiver where id = ?").param(id).query(String.class).single(),
        "lapsed");
  }

  @Test
  public void whereTwoAreNeededOneAloneWaivesNothing() {
    send(WARDEN, "PUT", "/api/waivers/settings", Map.of("byTwo", true)).is(200);
    long id =
        grant(
            waiver(
                "finding", "meeting", MEETING, "check", "beyond-limit", "subject", "waiting-room"));
    assertFalse(isWaived("beyond-limit", "waiting-room"));
    post(WARDEN, "/api/waivers/" + id + "/second", Map.of("consent", true)).is(403);
    post(SECOND_WARDEN, "/api/waivers/" + id + "/second", Map.of("consent", true)).is(200);
    settle();
    assertTrue(isWaived("beyond-limit", "waiting-room"));
    post(SECOND_WARDEN, "/api/waivers/" + id + "/second", Map.of("consent", true)).is(409);
    send(WARDEN, "PUT", "/api/waivers/settings", Map.of("byTwo", false)).is(200);
    send(WARDEN, "PUT", "/api/waivers/settings", Map.of("byTwo", false)).is(200);
    assertTrue(
        get(WARDEN, "/api/waivers/settings").json().get("byTwo").booleanValue(),
        "one alone cannot go back to one");
    send(SECOND_WARDEN, "PUT", "/api/waivers/settings", Map.of("byTwo", false)).is(200);
    assertFalse(get(WARDEN, "/api/waivers/settings").json().get("byTwo").booleanValue());
    post(WARDEN, "/api/waivers/" + id + "/end", Map.of()).is(200);
  }

  @Test
  public void aWaiverWithoutSenseIsRefusedWithEachFault() {
    Map<String, Object> wrong = waiver("rule", "unit", "no-such-unit");
    wrong.put("reason", " ");
    wrong.put("until", "2020-01-01T00:00:00Z");
    Answer answer = post(WARDEN, "/api/waivers", wrong).is(422);
    assertEquals(
        answer.json().get("faults").valueStream().map(f -> f.get("pointer").stringValue()).toList(),
        List.of("/reason", "/until", "/subject", "/unit"),
        answer.body());
    post(WARDEN, "/api/waivers", waiver("meeting", "meeting", "no-such")).is(422);
    post(WARDEN, "/api/waivers", waiver("everything")).is(422);
  }

  @Test
  public void whatAHostAsksForIsGrantedWithTheChange() {
    Map<String, Object> wish =
        Map.of("control", "screen-share", "wanted", "everyone", "reason", "we draw together");
    Object before = control("m-0050", "screen-share");
    post(HOST, "/api/meetings/m-0050/waiver-requests", wish).is(200);
    JsonNode asked =
        get(WARDEN, "/api/waivers/asked")
            .is(200)
            .json()
            .valueStream()
            .filter(a -> a.get("meeting").stringValue().equals("m-0050"))
            .findFirst()
            .orElseThrow();
    String path = "/api/host-requests/waivers/" + asked.get("id") + "/answer";
    post(WARDEN, path, Map.of("granted", true, "answer", "")).is(422);
    post(
            WARDEN,
            path,
            Map.of(
                "granted",
                true,
                "answer",
                "until spring",
                "until",
                Instant.now().plus(60, ChronoUnit.DAYS).toString()))
        .is(200);
    until("it is changed", () -> "everyone".equals(control("m-0050", "screen-share")));
    settle();
    assertTrue(findings(0, "&waived=false&meeting=m-0050&check=beyond-limit").isEmpty());
    assertEquals(
        get(HOST, "/api/lookout/mine").json().at("/waiversAsked/0/state").stringValue(), "granted");
    post(WARDEN, path, Map.of("granted", false, "answer", "no")).is(409);
    setControl("m-0050", "screen-share", before);
    get(WARDEN, "/api/waivers?meeting=m-0050&state=in-force")
        .json()
        .forEach(w -> post(WARDEN, "/api/waivers/" + w.get("id") + "/end", Map.of()).is(200));
  }
}
